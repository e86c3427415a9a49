import { describe, expect, test } from "@jest/globals";
import type { NamedDoor, NamedHolder } from "@/operations/inquiry/inquiry";
import type { RoutesAnswer } from "@/operations/inquiry/routes-answer";
import { routesTable, untoldRows } from "./routes-file";

const door = (id: string): NamedDoor => ({ id, name: `Door ${id}`, area: undefined, site: "Mill", zone: "Europe/Vienna" });
const ada: NamedHolder = { kind: "cardholder", id: "ada", name: "Ada", detail: "Press house" };
const tableOf = (of: object) => routesTable({ of } as unknown as RoutesAnswer);

describe("routes as a table", () => {
  test("tell the ways of one person door by door, and that there are more where not all are told", () => {
    const end = {
      steps: 2,
      words: undefined,
      minutes: 5,
      areAll: false,
      shutWay: undefined,
      ways: [{ doors: [door("a"), door("b")], words: "Mon 06:00–07:00" }],
    };
    expect(tableOf({ kind: "one", holder: ada, end, places: [], morePlaces: 0, stranded: [] }).rows).toEqual([
      ["Ada", 1, 1, "Door a", "a", "opens", "Mon 06:00–07:00"],
      ["Ada", 1, 2, "Door b", "b", "opens", "Mon 06:00–07:00"],
      ["Ada", "more ways than these", undefined, undefined, undefined, undefined, undefined],
    ]);
    const shutWay = [
      { door: door("a"), isShut: false },
      { door: door("b"), isShut: true },
    ];
    expect(tableOf({ kind: "one", holder: ada, end: { ...end, areAll: true, ways: [], shutWay }, places: [] }).rows.map((row) => [row[4], row[5]])).toEqual([
      ["a", "opens"],
      ["b", "stays shut"],
    ]);
  });

  test("tell who gets there by which door last, and places where no end is asked about", () => {
    const end = {
      arriving: 3,
      rows: [{ holder: ada, steps: 2, last: [door("a"), door("b")], minutes: 90 }],
      bySteps: [],
      byLast: [],
      never: [],
      neverCount: 0,
    };
    const several = { kind: "several", end, places: [], morePlaces: 0 };
    expect(tableOf(several).rows).toEqual([["Ada", "cardholder", "ada", "Press house", 2, "Door a; Door b", "a; b", 1.5]]);
    expect(untoldRows({ of: several } as unknown as RoutesAnswer)).toBe(2);
    const places = [{ area: "cellar", name: "Cellar", holders: 4, steps: 1 }];
    expect(tableOf({ kind: "several", end: undefined, places, morePlaces: 7 }).rows).toEqual([["Cellar", "cellar", 4, 1]]);
    expect(untoldRows({ of: { kind: "several", end: undefined, places, morePlaces: 7 } } as unknown as RoutesAnswer)).toBe(7);
    expect(tableOf({ kind: "one", holder: ada, end: undefined, places: [{ area: "cellar", name: "Cellar", steps: 1, words: "always" }] }).rows).toEqual([
      ["Ada", "Cellar", "cellar", 1, "always"],
    ]);
  });

  test("have as many cells in each row as columns", () => {
    for (const of of [
      { kind: "one", holder: ada, end: { ways: [{ doors: [door("a")], words: undefined }], areAll: false }, places: [] },
      { kind: "several", end: { rows: [{ holder: ada, steps: 1, last: [door("a")], minutes: 0 }] }, places: [] },
    ]) {
      const { columns, rows } = tableOf(of);
      for (const row of rows) expect(row).toHaveLength(columns.length);
    }
  });
});
