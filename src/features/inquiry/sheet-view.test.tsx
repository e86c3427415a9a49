/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { SheetView } from "./sheet-view";
import { anyTime, shownOrchard, shownRegister } from "~/tests/components/inquiry";
import { show } from "~/tests/components/show";

const keep = () => Promise.resolve("kept" as const);
const everybody: Inquiry = { ...anyTime, who: { kind: "everybody" }, form: "sheet" };
const label = (name: RegExp) => screen.getByRole("gridcell", { name });

describe("a sheet of people by doors", () => {
  it("says in each cell how many hours open and how many of them out of hours, and of the chosen one why", async () => {
    const orchard = shownRegister(shownOrchard(4));
    const trace = await orchard.trace({ ...everybody, form: undefined, who: { kind: "cardholder", id: "p1" }, where: { kind: "door", id: "hatch" } });
    const { asked } = show(
      <SheetView asked={orchard.asked(everybody)} first={await orchard.sheet(everybody)} reference="Snapshot 1" keep={keep} />,
      (address) => (address.startsWith("/inquiry/trace") ? trace : undefined),
    );
    screen.getByRole("heading", { name: "Three holders open something of two doors" });
    // Of Mon and Tue 08–18 an hour each is before 19, none before 07; the night is out of hours altogether.
    label(/^Person 001, Gate: 20 h in an ordinary week, 0 h of them out of hours$/);
    label(/^Person 001, Hatch: 10 h in an ordinary week, 10 h of them out of hours$/);
    label(/^Person 002, Hatch: nothing opens$/);
    fireEvent.click(label(/^Person 001, Hatch/));
    await screen.findByRole("heading", { name: /^Person 001 (opens|does not open) Hatch$/ });
    expect(asked.map((address) => decodeURIComponent(address)).filter((address) => address.includes("/trace"))).toEqual([
      "/inquiry/trace?who=cardholder:p1&where=door:hatch",
    ]);
    fireEvent.click(label(/^Person 002, Hatch/));
    await screen.findByRole("link", { name: "Why it does not open" });
  });

  it("is walked with the arrow keys, and never past its edges", async () => {
    const orchard = shownRegister(shownOrchard(4));
    show(<SheetView asked={orchard.asked(everybody)} first={await orchard.sheet(everybody)} reference="Snapshot 1" keep={keep} />);
    const grid = screen.getByRole("grid", { name: "People by doors" });
    const chosen = (): string | null | undefined =>
      screen
        .getAllByRole("gridcell")
        .find((cell) => cell.getAttribute("aria-selected") === "true")
        ?.getAttribute("aria-label");
    const press = (key: string): void => void fireEvent.keyDown(grid, { key });
    press("ArrowRight");
    const first = chosen();
    for (let i = 0; i < 9; i++) press("ArrowLeft");
    expect(chosen()).toBe(first);
    for (let i = 0; i < 9; i++) press("ArrowDown");
    for (let i = 0; i < 9; i++) press("ArrowRight");
    expect(grid.getAttribute("aria-activedescendant")).toBe("cell-2-1");
    press("PageUp");
    expect(grid.getAttribute("aria-activedescendant")).toBe("cell-0-1");
  });

  it("asks for the parts that come into view, and says what is on its way or could not be had", async () => {
    const orchard = shownRegister(shownOrchard(30));
    const first = await orchard.sheet(everybody, { row: 0, column: 0 }, { rows: 4, columns: 2 });
    const parts = new Map<string, Awaited<ReturnType<typeof orchard.sheet>>>();
    for (let row = 4; row < 30; row += 4) parts.set(String(row), await orchard.sheet(everybody, { row, column: 0 }, { rows: 4, columns: 2 }));
    const { asked } = show(<SheetView asked={orchard.asked(everybody)} first={first} reference="Snapshot 1" keep={keep} />, (address) =>
      parts.get(new URLSearchParams(address.split("?")[1]).get("row") ?? ""),
    );
    await waitFor(() => expect(screen.getAllByRole("rowheader").filter(({ textContent }) => textContent?.startsWith("…")).length).toBe(0));
    expect(asked.filter((address) => address.startsWith("/inquiry/sheet")).every((address) => /&row=\d+&column=0$/.test(address))).toBe(true);
    const names = screen.getAllByRole("rowheader").map(({ textContent }) => textContent?.slice(0, 10));
    expect(new Set(names).size).toBe(names.length);
  });

  it("puts in brackets what opens only if cards were made active, and counts people where they are taken together", async () => {
    const orchard = shownRegister(shownOrchard(4));
    const asIfLive: Inquiry = { ...everybody, asIfLive: true };
    const { unmount } = show(<SheetView asked={orchard.asked(asIfLive)} first={await orchard.sheet(asIfLive)} reference="Snapshot 1" keep={keep} />);
    screen.getByRole("heading", { name: "Four holders would open something of two doors if every card were live" });
    expect(label(/^Person 000, Gate: 20 h .*, only if made active$/).textContent).toBe("(20)");
    expect(label(/^Person 002, Gate: 20 h in an ordinary week, 0 h of them out of hours$/).textContent).toBe("20");
    unmount();
    const folded: Inquiry = { ...asIfLive, fold: "both" };
    show(<SheetView asked={orchard.asked(folded)} first={await orchard.sheet(folded)} reference="Snapshot 1" keep={keep} />);
    label(/^Press house, No area: 2 of 2 people, at most 20 h .*, 1 of them only if made active$/);
    expect(label(/^Frost watch, Cellar: 2 of 2 people, at most 10 h/).textContent).toBe("2");
  });
});
