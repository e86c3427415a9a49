import { describe, expect, it } from "@jest/globals";
import { anyTime, shownOrchard, shownRegister } from "~/tests/components/inquiry";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { answerTable, sheetTable } from "./answer-table";

const orchard = shownRegister(shownOrchard(3));
const byTitle = ({ columns, rows }: ReturnType<typeof answerTable>) => rows.map((row) => Object.fromEntries(columns.map(({ title }, i) => [title, row[i]])));

describe("an answer as a table", () => {
  it("has a row for each holder with what they open and whether only if made active", async () => {
    const asked: Inquiry = { ...anyTime, where: { kind: "door", id: "gate" } };
    const table = byTitle(answerTable(await orchard.answer(asked)));
    expect(table.map(({ who, id, doors, "door id": door }) => [who, id, doors, door])).toEqual([
      ["Person 001", "p1", 1, "gate"],
      ["Person 002", "p2", 1, "gate"],
      ["Person 000", "p0", 1, "gate"],
    ]);
    expect(table.map((row) => Object.values(row).includes("only if made active"))).toEqual([false, false, true]);
  });

  it("has a row for each door with how many open it", async () => {
    const table = byTitle(answerTable(await orchard.answer({ ...anyTime, who: { kind: "everybody" }, form: "doors" })));
    expect(table.map(({ door, area, zone, "opened by": by }) => [door, area, zone, by])).toEqual([
      ["Hatch", "Cellar", "Europe/Vienna", 1],
      ["Gate", undefined, "Europe/Vienna", 2],
    ]);
  });

  it("has the hours of each cell of a sheet, or how many people, and says of those that are not live that they are not", async () => {
    const sheet: Inquiry = { ...anyTime, who: { kind: "everybody" }, form: "sheet" };
    const live = sheetTable(sheet, await orchard.sheet(sheet));
    expect(live.columns.map(({ title }) => title)).toEqual(["who", "id", "of", "Hatch (hatch)", "Gate (gate)"]);
    expect(live.rows.map((row) => [row[1], row[3], row[4]])).toEqual([
      ["p1", 10, 20],
      ["p2", undefined, 20],
    ]);
    const asIfLive: Inquiry = { ...sheet, asIfLive: true, fold: "people" };
    const folded = sheetTable(asIfLive, await orchard.sheet(asIfLive));
    expect(folded.rows.map((row) => [row[0], row[3], row[4]])).toEqual([
      ["Frost watch", 1, 1],
      ["Press house", undefined, "2, of these 1 people only if made active"],
    ]);
  });
});
