import type { PlacedDoor } from "@/core/plans/plan";

/** How a room is filled: plainly, as glass, as ground with plants, as water, as paved ground. */
type Ground = "room" | "hall" | "glass" | "beds" | "water" | "paved";

const fills: Readonly<Record<Ground, string>> = {
  room: "#ffffff",
  hall: "#f4f1ea",
  glass: "url(#glass)",
  beds: "url(#beds)",
  water: "url(#water)",
  paved: "#efeae0",
};

const patterns = `<defs>
<pattern id="glass" width="14" height="14" patternUnits="userSpaceOnUse"><rect width="14" height="14" fill="#fbfdfd"/><path d="M0 0H14M0 0V14" stroke="#b9c4c6" stroke-width=".8"/></pattern>
<pattern id="beds" width="12" height="10" patternUnits="userSpaceOnUse"><rect width="12" height="10" fill="#f8f7f0"/><path d="M2 7q2-4 4 0M8 3q1.5-3 3 0" fill="none" stroke="#b4bda6" stroke-width=".8"/></pattern>
<pattern id="water" width="26" height="12" patternUnits="userSpaceOnUse"><rect width="26" height="12" fill="#f3f6f8"/><path d="M2 6q5-4 10 0t10 0" fill="none" stroke="#b3c0ca" stroke-width=".8"/></pattern>
</defs>`;

/** Draws one plan: what lies below first. Lengths are those of the drawing, from its upper left corner. */
export class Pen {
  private readonly marks: string[] = [];
  private readonly placed: PlacedDoor[] = [];

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {}

  ground(kind: Ground, x: number, y: number, width: number, height: number, name = ""): this {
    this.marks.push(`<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${fills[kind]}" stroke="#c9c2b3" stroke-width="1"/>`);
    return this.words(x + width / 2, y + height / 2, name);
  }

  /** A room with walls all around. */
  room(x: number, y: number, width: number, height: number, name = "", kind: Ground = "room"): this {
    this.marks.push(`<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${fills[kind]}" stroke="#30343c" stroke-width="4"/>`);
    return this.words(x + width / 2, y + height / 2, name);
  }

  words(x: number, y: number, text: string): this {
    if (text !== "")
      this.marks.push(
        `<text x="${x}" y="${y}" font-family="Georgia, serif" font-size="15" fill="#8b8577" text-anchor="middle" dominant-baseline="middle">${text}</text>`,
      );
    return this;
  }

  line(path: string, look: "way" | "fence" | "stairs" = "way"): this {
    const stroke = {
      way: 'stroke="#e3dccd" stroke-width="20" stroke-linejoin="round"',
      fence: 'stroke="#6d6a62" stroke-width="2.5" stroke-dasharray="9 4"',
      stairs: 'stroke="#9b968a" stroke-width="1.5"',
    }[look];
    this.marks.push(`<path d="${path}" fill="none" ${stroke}/>`);
    return this;
  }

  tree(...places: readonly (readonly [x: number, y: number, radius: number])[]): this {
    for (const [x, y, r] of places)
      this.marks.push(
        `<circle cx="${x}" cy="${y}" r="${r}" fill="#f6f6ef" stroke="#a9b39b" stroke-width="1.2"/><path d="M${x - r * 0.5} ${y}h${r}M${x} ${y - r * 0.5}v${r}" stroke="#c3cab8" stroke-width="1"/>`,
      );
    return this;
  }

  /** A flight of stairs. */
  stairs(x: number, y: number, width: number, height: number): this {
    const steps = Array.from({ length: 8 }, (_, i) => `M${x + ((i + 1) * width) / 9} ${y}v${height}`).join("");
    return this.line(`M${x} ${y}h${width}v${height}h${-width}z${steps}`, "stairs");
  }

  /** A door in a wall that runs across or upright; cabinets stand free. */
  door(id: string, x: number, y: number, wall: "across" | "upright" | "none" = "across"): this {
    if (wall !== "none") {
      const [dx, dy] = wall === "across" ? [13, 0] : [0, 13];
      this.marks.push(`<path d="M${x - dx} ${y - dy}L${x + dx} ${y + dy}" stroke="#ffffff" stroke-width="5"/>`);
    }
    this.placed.push({ door: id, x: Math.round((x / this.width) * 10_000), y: Math.round((y / this.height) * 10_000) });
    return this;
  }

  get doors(): readonly PlacedDoor[] {
    return this.placed;
  }

  get svg(): string {
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${this.width} ${this.height}">${patterns}<rect width="${this.width}" height="${this.height}" fill="#ffffff"/>${this.marks.join("")}</svg>`;
  }
}
