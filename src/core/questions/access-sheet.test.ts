import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom } from "~/tests/builders";
import type { Cardholder, Door, Grant } from "../facility/document";
import { ordinary } from "../paths/paths";
import { horizonOf } from "../table/horizon";
import { intersect } from "../time/intervals";
import { AccessSheet } from "./access-sheet";
import type { SheetAxes } from "./access-sheet";
import { askedPeople, bearerOf } from "./asked-people";
import { Openings } from "./openings";

/** Names that sort alike, that are missing, and that are no good keys of objects. */
const names = fc.constantFrom("Ash", "ash", "Åsh", "__proto__", "constructor", "", "10", "2", "z".repeat(400));
const sizes = { people: 9, doors: 6 };
const documents = fc
  .record({
    people: fc.array(fc.tuple(names, fc.constantFrom(undefined, "dep1", "dep2")), { minLength: 1, maxLength: sizes.people }),
    doors: fc.array(fc.tuple(names, fc.constantFrom(undefined, "ar1", "ar2")), { minLength: 1, maxLength: sizes.doors }),
    grants: fc.array(fc.tuple(fc.nat(sizes.people - 1), fc.nat(sizes.doors - 1), fc.constantFrom("always", "office")), { maxLength: 24 }),
  })
  .map(({ people, doors, grants }) => ({
    areas: ["ar1", "ar2"].map((id) => ({ id, name: `Area ${id}`, site: "garden" })),
    groups: ["dep1", "dep2"].map((id) => ({ id, name: `Department ${id}`, kind: "department" as const })),
    cardholders: people.map(([name, department], i): Cardholder => ({
      id: `p${i}`,
      name: name === "" ? "nameless" : name,
      status: "active",
      ...(department !== undefined && { department }),
    })),
    credentials: people.map((_, i) => ({ id: `c${i}`, cardholder: `p${i}`, kind: "card" as const, status: "active" as const })),
    doors: doors.map(([name, area], i): Door => ({ id: `d${i}`, name: name === "" ? "nameless" : name, site: "garden", ...(area !== undefined && { area }) })),
    grants: grants
      .filter(([person, door]) => person < people.length && door < doors.length)
      .map(([person, door, schedule], i): Grant => ({ id: `g${i}`, to: { cardholder: `p${person}` }, open: { door: `d${door}` }, schedule })),
  }));

const compareNames = (a: string, b: string): number => a.localeCompare(b, "en", { numeric: true, sensitivity: "base" });
/** Mornings, for the sake of the test. */
const early = [0, 600];

function laidOut(document: Parameters<typeof compiledFrom>[0], fold: { readonly people: boolean; readonly doors: boolean }) {
  const compiled = compiledFrom(document);
  const horizon = horizonOf(compiled);
  const { facility, groupById, indexes } = compiled;
  const departmentOf = (holder: Parameters<SheetAxes["rowNames"]>[0]) => {
    const bearer = bearerOf(holder);
    return "card" in bearer ? -1 : (groupById.get(facility.cardholders[bearer.cardholder]?.department ?? "") ?? -1);
  };
  const areaOf = (door: number) => indexes.of("areas").get(facility.doors[door]?.area ?? "") ?? -1;
  const sheet = new AccessSheet(
    new Openings(horizon.table(ordinary), undefined, () => undefined),
    new Openings(horizon.week(ordinary), undefined, () => undefined),
    askedPeople(compiled, undefined, horizon.asOf),
    {
      departmentOf: fold.people ? departmentOf : undefined,
      areaOf: fold.doors ? areaOf : undefined,
      rowNames: (holder) => [facility.groups[departmentOf(holder)]?.name],
      columnNames: (door) => [facility.areas[areaOf(door)]?.name, facility.doors[door]?.name],
      compareNames,
      outside: (_door, week) => intersect(week, early),
    },
  );
  const idOf = (holder: Parameters<SheetAxes["rowNames"]>[0]): string => {
    const bearer = bearerOf(holder);
    return "card" in bearer ? "" : (facility.cardholders[bearer.cardholder]?.id ?? "");
  };
  const opened = (person: string, door: string): string[] =>
    (document?.grants ?? []).filter(({ to, open }) => to.cardholder === person && open.door === door).map(({ schedule }) => schedule ?? "");
  return { sheet, facility, idOf, opened };
}

describe("a sheet of people by doors", () => {
  it("has a row for whoever opens anything, a column for what anybody opens, and in each cell who opens it and for how long", () => {
    fc.assert(
      fc.property(documents, fc.boolean(), fc.boolean(), (document, people, doors) => {
        const { sheet, facility, idOf, opened } = laidOut(document, { people, doors });
        const opens = (person: string, door: string): boolean => opened(person, door).length > 0;
        const allPeople = facility.cardholders.map(({ id }) => id).filter((id) => facility.doors.some((door) => opens(id, door.id)));
        const allDoors = facility.doors.map(({ id }) => id).filter((id) => facility.cardholders.some((one) => opens(one.id, id)));
        expect(sheet.rows.flatMap(({ holders }) => holders.map(idOf)).sort()).toEqual([...allPeople].sort());
        expect(sheet.columns.flatMap((column) => column.doors.map((door) => facility.doors[door]?.id ?? "")).sort()).toEqual([...allDoors].sort());
        sheet.rows.forEach(({ holders }, row) =>
          sheet.columns.forEach((column, at) => {
            const ids = column.doors.map((door) => facility.doors[door]?.id ?? "");
            const weeks = holders.map(idOf).flatMap((person) => {
              const schedules = ids.flatMap((id) => opened(person, id));
              // At all hours a week has 10,080 minutes, of which 600 are early on Monday; office is 10 hours on five days from 08 on, of which two on
              // Monday are early.
              return schedules.length === 0 ? [] : [schedules.includes("always") ? [10_080, 600] : [3000, 120]];
            });
            const most = weeks.sort((a, b) => (b[0] ?? 0) - (a[0] ?? 0))[0];
            expect(sheet.cell(row, at)).toEqual(most && { people: weeks.length, asleep: 0, weekMinutes: most[0], outOfHoursMinutes: most[1] });
          }),
        );
      }),
      { numRuns: 150 },
    );
  });

  it("puts people who open the same doors next to each other within their department, and doors by the names of their areas", () => {
    fc.assert(
      fc.property(documents, (document) => {
        const { sheet, facility, idOf, opened } = laidOut(document, { people: false, doors: false });
        const departments = sheet.rows.map(
          ({ holders: [holder] }) => facility.cardholders.find(({ id }) => holder !== undefined && id === idOf(holder))?.department ?? "~",
        );
        expect(departments).toEqual([...departments].sort());
        const doorsOf = (person: string): string =>
          facility.doors
            .filter(({ id }) => opened(person, id).length > 0)
            .map(({ id }) => id)
            .join();
        const alike = sheet.rows.map(({ holders: [holder] }, i) => `${departments[i]} ${holder === undefined ? "" : doorsOf(idOf(holder))}`);
        // Each likeness begins once.
        const begun = alike.filter((one, i) => one !== alike[i - 1]);
        expect(new Set(begun).size).toBe(begun.length);
        const areas = sheet.columns.map(({ doors: [door] }) => facility.doors[door ?? -1]?.area ?? "~");
        expect(areas).toEqual([...areas].sort());
      }),
      { numRuns: 150 },
    );
  });

  it("is empty where nobody opens anything", () => {
    const { sheet } = laidOut({ grants: [] }, { people: true, doors: true });
    expect([sheet.rows, sheet.columns, sheet.cell(0, 0)]).toEqual([[], [], undefined]);
  });
});
