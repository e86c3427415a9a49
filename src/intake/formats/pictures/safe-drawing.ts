import { SaxesParser } from "saxes";
import type { SaxesAttributeNS, SaxesTagNS } from "saxes";
import { failure, success } from "@/core/kernel/result";
import type { Result } from "@/core/kernel/result";
import { drawingSize } from "./drawing-size";
import { isSafeStyleSheet, linkTargets, safeDeclarations, safeValue } from "./safe-styles";

/**
 * What is kept of a drawing: shapes, words and how they are painted. Nothing that runs, moves, fetches or embeds a page; nor what is painted at every corner of
 * a line (markers), however many there are.
 */
const shownElements = new Set([
  ...["svg", "g", "defs", "symbol", "use", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan", "textPath", "title", "desc"],
  ...["linearGradient", "radialGradient", "stop", "pattern", "clipPath", "mask", "image", "style", "switch", "a"],
]);
const keptAttributes = new Set([
  ...["id", "class", "style", "transform", "viewBox", "preserveAspectRatio", "x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "fx", "fy", "fr"],
  ...["width", "height", "d", "points", "pathLength", "dx", "dy", "rotate", "textLength", "lengthAdjust", "startOffset", "method", "spacing", "side"],
  ...["gradientUnits", "gradientTransform", "spreadMethod", "offset", "patternUnits", "patternContentUnits", "patternTransform", "clipPathUnits"],
  ...["maskUnits", "maskContentUnits", "fill", "fill-opacity", "fill-rule"],
  ...["stroke", "stroke-width", "stroke-opacity", "stroke-linecap", "stroke-linejoin", "stroke-miterlimit", "stroke-dasharray", "stroke-dashoffset"],
  ...["color", "opacity", "display", "visibility", "overflow", "clip-path", "clip-rule", "mask"],
  ...["stop-color", "stop-opacity", "font-family", "font-size", "font-style", "font-weight", "font-stretch", "font-variant", "letter-spacing", "word-spacing"],
  ...["text-anchor", "text-decoration", "dominant-baseline", "alignment-baseline", "baseline-shift", "writing-mode", "direction", "vector-effect"],
  ...["shape-rendering", "text-rendering", "image-rendering", "color-interpolation", "paint-order", "mix-blend-mode", "isolation", "enable-background"],
]);
const svgSpace = "http://www.w3.org/2000/svg";
const linkSpace = "http://www.w3.org/1999/xlink";
const embeddedPicture = /^data:image\/(png|jpe?g);base64,[A-Za-z0-9+/=\s]*$/;

const deepest = 256;
const mostElements = 200_000;
/** So many shapes are painted at most, each as often as it is used: beyond that a browser stands still over a small file. */
const mostPainted = 1_000_000;

interface Shape {
  readonly name: string;
  readonly attributes: [name: string, value: string][];
  readonly content: (Shape | string)[];
  /** Ids of what is painted where this is. */
  readonly uses: string[];
}

/** A drawing that can be shown. */
export interface SafeDrawing {
  readonly text: string;
  readonly width: number;
  readonly height: number;
  /** Pictures that it holds, as base64 of PNG or JPEG. */
  readonly pictures: readonly string[];
  /** What it held that was left out, each with how often: "script", "onload", "image from elsewhere". */
  readonly leftOut: ReadonlyMap<string, number>;
}

class Refusal extends Error {}

const escaped = (text: string): string => text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");

/**
 * What a drawing paints, in numbers of shapes, following what is used wherever it is used.
 * @throws Refusal where something uses itself, or more is painted than a browser can.
 */
function checkPainting(root: Shape, byId: ReadonlyMap<string, Shape>): void {
  const known = new Map<Shape, number>();
  const under = new Set<Shape>();
  const painted = (shape: Shape): number => {
    const before = known.get(shape);
    if (before !== undefined) return before;
    if (under.has(shape)) throw new Refusal("something in it uses itself");
    if (under.size > 4 * deepest) throw new Refusal("what it uses is nested too deeply");
    under.add(shape);
    let count = 1;
    for (const part of shape.content) if (typeof part !== "string") count += painted(part);
    for (const id of shape.uses) {
      const used = byId.get(id);
      if (used) count += painted(used);
    }
    under.delete(shape);
    if (count > mostPainted) throw new Refusal(`it paints more than ${mostPainted.toLocaleString("en-GB")} shapes`);
    known.set(shape, count);
    return count;
  };
  painted(root);
}

function written({ name, attributes, content }: Shape): string {
  const said = attributes.map(([key, value]) => ` ${key}="${escaped(value)}"`).join("");
  return content.length === 0
    ? `<${name}${said}/>`
    : `<${name}${said}>${content.map((part) => (typeof part === "string" ? escaped(part) : written(part))).join("")}</${name}>`;
}

/** Reads one drawing, keeping what is known to be harmless. */
class DrawingReader {
  readonly leftOut = new Map<string, number>();
  private readonly pictures: string[] = [];
  private readonly byId = new Map<string, Shape>();
  private readonly open: Shape[] = [];
  private root: Shape | undefined;
  /** How many elements deep the reader is in something that is left out. */
  private inLeftOut = 0;
  private count = 0;

  private leave(what: string): void {
    this.leftOut.set(what, (this.leftOut.get(what) ?? 0) + 1);
  }

  begin(tag: SaxesTagNS): void {
    if (++this.count > mostElements) throw new Refusal(`it has more than ${mostElements.toLocaleString("en-GB")} elements`);
    if (this.inLeftOut > 0) {
      this.inLeftOut++;
      return;
    }
    if (!this.root && (tag.uri !== svgSpace || tag.local !== "svg")) throw new Refusal(`it begins with <${tag.name}>, not with <svg> of ${svgSpace}`);
    if (this.open.length >= deepest) throw new Refusal(`its elements are nested more than ${deepest} deep`);
    if (tag.uri !== svgSpace || !shownElements.has(tag.local)) {
      // What editors write beside the drawing is no part of it.
      if (tag.uri === svgSpace && tag.local !== "metadata") this.leave(tag.local);
      this.inLeftOut = 1;
      return;
    }
    // What leads elsewhere is shown, but leads nowhere.
    const shape: Shape = { name: tag.local === "a" ? "g" : tag.local, attributes: [], content: [], uses: [] };
    for (const attribute of Object.values(tag.attributes)) this.keepAttribute(shape, attribute);
    this.open.at(-1)?.content.push(shape);
    this.root ??= shape;
    this.open.push(shape);
  }

  private keepAttribute(shape: Shape, { local, uri, value, prefix, name }: SaxesAttributeNS): void {
    if (local === "href" && (uri === "" || uri === linkSpace)) return this.keepLink(shape, value.trim());
    if (prefix === "xmlns" || name === "xmlns" || uri !== "") return;
    if (/^on/i.test(local)) return this.leave(local);
    if (!keptAttributes.has(local)) return;
    const safe = local === "style" ? safeDeclarations(value) : safeValue(value);
    if (safe === undefined) return this.leave(`${local} that is not safe`);
    if (local === "id") this.byId.set(value, shape);
    shape.uses.push(...linkTargets(safe));
    shape.attributes.push([local, safe]);
  }

  private keepLink(shape: Shape, value: string): void {
    if (shape.name === "g") return;
    if (value.startsWith("#")) {
      shape.uses.push(value.slice(1));
      shape.attributes.push(["href", value]);
    } else if (shape.name === "image" && embeddedPicture.test(value)) {
      this.pictures.push(value.slice(value.indexOf(",") + 1));
      shape.attributes.push(["href", value]);
    } else this.leave(`${shape.name} from elsewhere`);
  }

  text(text: string): void {
    const within = this.open.at(-1);
    if (this.inLeftOut === 0 && within && /^(text|tspan|textPath|title|desc|style)$/.test(within.name)) within.content.push(text);
  }

  end(): void {
    if (this.inLeftOut > 0) {
      this.inLeftOut--;
      return;
    }
    this.open.pop();
  }

  /** Styles are looked at once all that they may speak of is there. */
  private settleStyles(shape: Shape): void {
    if (shape.name === "style") {
      const css = shape.content.filter((part) => typeof part === "string").join("");
      const gradients = (id: string): boolean => /^(linear|radial)Gradient$/.test(this.byId.get(id)?.name ?? "");
      if (!isSafeStyleSheet(css, gradients)) {
        shape.content.length = 0;
        this.leave("style sheet that is not safe");
      }
      return;
    }
    for (const part of shape.content) if (typeof part !== "string") this.settleStyles(part);
  }

  finish(): SafeDrawing {
    const { root } = this;
    if (!root) throw new Refusal("it is empty");
    this.settleStyles(root);
    checkPainting(root, this.byId);
    const asked = new Map(root.attributes);
    const size = drawingSize(asked.get("viewBox"), asked.get("width"), asked.get("height"));
    if (!size.ok) throw new Refusal(size.error);
    const { viewBox, width, height } = size.value;
    const own = root.attributes.filter(([name]) => !["viewBox", "width", "height", "x", "y", "preserveAspectRatio"].includes(name));
    const whole = {
      ...root,
      attributes: [["xmlns", svgSpace], ["viewBox", viewBox], ["width", String(width)], ["height", String(height)], ...own] as [string, string][],
    };
    return { text: written(whole), width, height, pictures: this.pictures, leftOut: this.leftOut };
  }
}

/**
 * A drawing (SVG 1.1 or 2) with nothing in it that runs, moves, fetches or never ends; or why it cannot be one, with line and column where it is not well
 * formed.
 * What is left out is told. Definitions of its own (entities) are refused.
 */
export function safeDrawing(text: string): Result<SafeDrawing, string> {
  const reader = new DrawingReader();
  const parser = new SaxesParser({ xmlns: true, position: true });
  parser.on("error", (error) => {
    throw new Refusal(`it is not well formed: ${error.message.replace(/^undefined:/, "")}`);
  });
  parser.on("doctype", (doctype) => {
    if (doctype.includes("[")) throw new Refusal("it has definitions of its own in its DOCTYPE");
  });
  parser.on("opentag", (tag) => reader.begin(tag));
  parser.on("closetag", () => reader.end());
  parser.on("text", (part) => reader.text(part));
  parser.on("cdata", (part) => reader.text(part));
  try {
    parser.write(text).close();
    return success(reader.finish());
  } catch (error) {
    if (error instanceof Refusal) return failure(error.message);
    throw error;
  }
}
