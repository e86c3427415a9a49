import { describe, expect, it } from "@jest/globals";
import { anyTime, shownOrchard, shownRegister } from "~/tests/components/inquiry";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { yearOfAccess } from "@/core/questions/year-of-access";
import { zoneOf } from "@/core/time/zone";
import { minute } from "~/tests/builders";
import { answerTable, pastTable, sheetTable, yearTable } from "./answer-table";

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
      ["Press house", undefined, "2, of these 1 only if made active"],
    ]);
  });

  it("has a row for each date of somebody at a door, and for whoever could over several snapshots", () => {
    const [from, to] = [minute("2026-03-28T23:00:00Z"), minute("2026-03-30T22:00:00Z")];
    const open = [minute("2026-03-29T08:00:00Z"), minute("2026-03-29T10:30:00Z")];
    const year = yearOfAccess(open, { zone: zoneOf("Europe/Vienna"), calendar: undefined, business: [] }, from, to);
    expect(yearTable(year).rows).toEqual([
      ["2026-03-29", "Sun", "10:00–12:30", 2.5, 2.5, "clocks go forward by 60 minutes"],
      ["2026-03-30", "Mon", "stays shut", 0, 0, undefined],
    ]);
    const past = { by: "people" as const, isOver: true, parts: [], total: 1 };
    const iris = { kind: "cardholder" as const, id: "iris", name: "Iris", detail: "Press house" };
    expect(pastTable({ ...past, rows: [{ subject: iris, count: 2, snapshots: [1, 3] }] }).rows).toEqual([["Iris", "iris", "Press house", 2, "1, 3"]]);
  });
});
