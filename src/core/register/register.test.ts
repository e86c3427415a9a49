import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { verraneInstitute } from "~/demo/institute";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { compiledFrom } from "~/tests/builders";
import { compileFacility } from "../compile/compile-facility";
import { withAllLists } from "../facility/facility";
import type { Grant } from "../facility/document";
import { required } from "../kernel/invariant";
import { formatCivilDay, parseCivilDay } from "../time/civil-day";
import { comingDays } from "./coming-days";
import { fold } from "./fold";
import { listOfKind, registerKinds } from "./kinds";
import { levelsHeld } from "./levels-held";
import type { ListQuery } from "./list-index";
import { ListIndex } from "./list-index";
import type { Related } from "./related/ways";
import { relatedKinds, relatedTo } from "./related/related";
import { yearSheet } from "./year-sheet";

const demo = compileFacility(withAllLists(verraneInstitute({ cardholders: 420, doors: 95, seed: 7 })));
const query = (more: Partial<ListQuery> = {}): ListQuery => ({ text: "", filters: {}, sort: "name", group: undefined, ...more });
const date = (text: string) => required(parseCivilDay(text), text);

describe("folding", () => {
  it("takes away case and accents, and keeps letters of other scripts apart", () => {
    expect(fold("Ågot Nørgård-MÜLLER")).toBe(fold("agot nørgard-muller"));
    // The long s and the ligature fi are compatibility forms (Unicode, UAX #15; the examples from memory).
    expect(fold("ﬁne ſtone")).toBe("fine stone");
    expect(fold("Žofie")).not.toBe(fold("Жофие"));
  });
});

describe("a list", () => {
  const people = ["Ågot Berg", "Otto Zwirn", "agnes berg", "Žofie Linde"].map((name, i) => ({
    id: `p${i}`,
    name,
    status: i === 1 ? ("left" as const) : ("active" as const),
    department: i < 2 ? "d" : undefined,
    staffNumber: `10${i}7`,
  }));
  const index = new ListIndex(
    compiledFrom({
      groups: [{ id: "d", name: "Förderung", kind: "department" }],
      cardholders: people.map(({ department, ...one }) => (department === undefined ? one : { ...one, department })),
      credentials: [{ id: "c1", cardholder: "p0", kind: "card", status: "active", facilityCode: "87", number: "4711", printedNumber: "0012345" }],
    }),
    "cardholder",
    people.length,
  );
  const found = (more: Partial<ListQuery>) => Array.from(index.find(query(more)).positions, (i) => people[i]?.id);

  it("is found by any part of any field, all words together, whatever their case and accents", () => {
    expect(found({ text: "AGOT" })).toEqual(["p0"]);
    expect(found({ text: "erg" })).toEqual(["p2", "p0"]);
    expect(found({ text: "forder 007" })).toEqual(["p0"]);
    expect(found({ text: "p3" })).toEqual(["p3"]);
    expect(found({ text: "berg linde" })).toEqual([]);
  });

  it("is ordered by a column either way, with what is empty last", () => {
    expect(found({})).toEqual(["p2", "p0", "p1", "p3"]);
    expect(found({ sort: "department" })).toEqual(["p0", "p1", "p2", "p3"]);
    expect(found({ sort: "-department" })).toEqual(["p0", "p1", "p2", "p3"]);
    expect(found({ sort: "-staffNumber" })).toEqual(["p3", "p2", "p1", "p0"]);
  });

  it("is narrowed to a value, the empty one too, and says how many have which", () => {
    expect(found({ filters: { status: "left" } })).toEqual(["p1"]);
    expect(found({ filters: { department: "" } })).toEqual(["p2", "p3"]);
    expect(index.choices("department", query({ filters: { department: "" } }), 10)).toEqual([
      { value: "", count: 2 },
      { value: "Förderung", count: 2 },
    ]);
    expect(index.choices("staffNumber", query(), 10)).toEqual([]);
  });

  it("is broken up by a column, those without a value at the end", () => {
    const { positions, groups } = index.find(query({ group: "department", sort: "-name" }));
    expect(groups).toEqual([
      { value: "Förderung", count: 2 },
      { value: "", count: 2 },
    ]);
    expect(Array.from(positions, (i) => people[i]?.id)).toEqual(["p1", "p0", "p3", "p2"]);
  });

  it("finds a card by its number with and without the facility code, joined or not, and by what is printed on it", () => {
    const cards = new ListIndex(
      compiledFrom({
        credentials: [
          { id: "c1", kind: "card", status: "active", facilityCode: "87", number: "4711", printedNumber: "0012345" },
          { id: "c2", kind: "card", status: "stock", number: "99" },
        ],
      }),
      "credential",
      2,
    );
    for (const text of ["4711", "87-4711", "874711", "87 4711", "12345"]) expect([text, [...cards.find(query({ text })).positions]]).toEqual([text, [0]]);
  });

  it("holds for every kind, sorted by every column, just the objects whose fields contain the word", () => {
    for (const kind of registerKinds) {
      const count = demo.facility[listOfKind[kind]].length;
      const all = new ListIndex(demo, kind, count);
      for (const { key } of all.columns) expect(all.find(query({ sort: key })).positions).toHaveLength(count);
      const cells = (i: number) =>
        fold([(demo.facility[listOfKind[kind]][i] as { id: string }).id, ...all.columns.filter(({ derived }) => !derived).map(({ value }) => String(value(i) ?? ""))].join("\n"));
      for (const text of ["a", "se", "87-40", "day"]) {
        const expected = Array.from({ length: count }, (_, i) => i).filter((i) => cells(i).includes(text));
        expect([kind, text, [...all.find(query({ text })).positions].sort((a, b) => a - b)]).toEqual([kind, text, expected]);
      }
    }
  });
});

describe("what hangs on what", () => {
  const names = (related: Related, list: readonly { readonly id: string }[]): Record<string, string> =>
    Object.fromEntries([...related].map(([position, way]) => [required(list[position], "positions are valid").id, way]));
  const compiled = compiledFrom({
    groups: [
      { id: "all", name: "Everybody" },
      { id: "night", name: "Night", parent: "all", manager: "otto" },
    ],
    cardholders: [
      { id: "iris", name: "Iris", status: "active", department: "night" },
      { id: "otto", name: "Otto", status: "active", hours: "office" },
    ],
    memberships: [{ group: "all", cardholder: "otto", until: "2026-05-31" }],
    credentials: [
      { id: "c1", cardholder: "iris", kind: "card", status: "active" },
      { id: "c2", cardholder: "otto", kind: "card", status: "active", number: "7" },
    ],
    areas: [
      { id: "a", name: "Wing", site: "garden" },
      { id: "b", name: "Vault", site: "garden", parent: "a", owner: "otto" },
    ],
    doors: [
      { id: "gate", name: "Gate", site: "garden", area: "b", unlock: "office" },
      { id: "hatch", name: "Hatch", site: "garden", via: "gate" },
    ],
    doorGroups: [
      { id: "in", name: "Inner", doors: ["hatch"] },
      { id: "out", name: "Outer", groups: ["in"] },
    ],
    levels: [
      {
        id: "l",
        name: "Level",
        rows: [
          { area: "a", schedule: "office" },
          { doorGroup: "out", schedule: "always" },
        ],
      },
    ],
    bundles: [{ id: "bu", name: "Bundle", levels: ["l"] }],
    grants: [
      { id: "g1", to: { group: "all" }, open: { bundle: "bu" } },
      { id: "g2", to: { credential: "c2" }, open: { level: "l" }, until: "2026-04-30" },
    ],
  });
  const { facility } = compiled;

  it("says who has a level, by every way at once", () => {
    expect(names(relatedTo(compiled, "cardholder", { kind: "level", id: "l" }), facility.cardholders)).toEqual({
      iris: "Everybody: department through Night, in the bundle Bundle",
      otto: "Everybody: member until 2026-05-31, in the bundle Bundle; given to Card 7 until 2026-04-30",
    });
  });

  it("says which doors a level opens and when, through areas and nested door groups", () => {
    expect(names(relatedTo(compiled, "door", { kind: "level", id: "l" }), facility.doors)).toEqual({ gate: "Office", hatch: "Always" });
    expect(names(relatedTo(compiled, "level", { kind: "door", id: "hatch" }), facility.levels)).toEqual({ l: "Always" });
  });

  it("says who and what depends on a schedule", () => {
    expect(names(relatedTo(compiled, "door", { kind: "schedule", id: "office" }), facility.doors)).toEqual({ gate: "unlocked by it; level Level" });
    expect(names(relatedTo(compiled, "cardholder", { kind: "schedule", id: "office" }), facility.cardholders).otto).toContain("own hours");
    expect(names(relatedTo(compiled, "level", { kind: "schedule", id: "office" }), facility.levels)).toEqual({ l: "in one row" });
  });

  it("says what comes to a person and a group from above", () => {
    expect(names(relatedTo(compiled, "grant", { kind: "cardholder", id: "iris" }), facility.grants)).toEqual({ g1: "department Night, in Everybody" });
    expect(names(relatedTo(compiled, "grant", { kind: "group", id: "night" }), facility.grants)).toEqual({ g1: "from Everybody above it" });
    expect(names(relatedTo(compiled, "group", { kind: "cardholder", id: "otto" }), facility.groups)).toEqual({
      all: "member until 2026-05-31",
      night: "manages it",
    });
    expect(names(relatedTo(compiled, "area", { kind: "cardholder", id: "otto" }), facility.areas)).toEqual({ b: "owns it" });
  });

  it("shows among the levels of whoever has one that level, and the other way round, in any document", () => {
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        const any = compiledFrom(draft);
        any.facility.levels.forEach((level, position) => {
          const holders = relatedTo(any, "cardholder", { kind: "level", id: level.id });
          any.facility.cardholders.forEach((holder, at) => {
            const direct = relatedTo(any, "level", { kind: "cardholder", id: holder.id }).has(position);
            const byCard = (any.cardholders.at(at)?.credentials ?? []).some((card) =>
              relatedTo(any, "level", { kind: "credential", id: any.facility.credentials[card]?.id ?? "" }).has(position),
            );
            expect([level.id, holder.id, holders.has(at)]).toEqual([level.id, holder.id, direct || byCard]);
            // What a list of people says of each is the same, but for blocks, which give nothing.
            const gives = ({ open, effect }: Grant): boolean =>
              effect !== "block" &&
              (open.level === level.id || any.facility.bundles.some(({ id, levels }) => id === open.bundle && levels?.includes(level.id) === true));
            const cards = (any.cardholders.at(at)?.credentials ?? []).map((card) => any.facility.credentials[card]?.id ?? "");
            const given = [{ kind: "cardholder" as const, id: holder.id }, ...cards.map((id) => ({ kind: "credential" as const, id }))].some((ref) =>
              [...relatedTo(any, "grant", ref).keys()].some((grant) => gives(required(any.facility.grants[grant], "positions are valid"))),
            );
            expect([level.id, holder.id, levelsHeld(any)(at).includes(position)]).toEqual([level.id, holder.id, given]);
          });
        });
        for (const kind of registerKinds)
          for (const { id } of any.facility[listOfKind[kind]])
            for (const linked of relatedKinds[kind])
              for (const position of relatedTo(any, linked, { kind, id }).keys()) expect(any.facility[listOfKind[linked]][position]).toBeDefined();
      }),
      { numRuns: 60 },
    );
  });
});

describe("the coming days", () => {
  const compiled = compiledFrom({
    sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "k" }],
    calendars: [
      {
        id: "k",
        name: "K",
        days: [
          { name: "Good Friday", dayType: "public", priority: 10, easter: -2 },
          { name: "Planting", dayType: "company", priority: 5, from: "2026-04-01", to: "2026-04-03" },
          { name: "Saturday feast", dayType: "public", on: "2026-04-11" },
        ],
      },
    ],
    schedules: [
      { id: "always", name: "Always", always: true },
      {
        id: "office",
        name: "Office",
        week: Object.fromEntries(["mon", "tue", "wed", "thu", "fri"].map((day) => [day, [["08:00", "18:00"]]])),
        holidays: { company: [["10:00", "12:00"]] },
      },
      {
        id: "nights",
        name: "Nights",
        week: Object.fromEntries(["mon", "tue", "wed", "thu", "fri", "sat", "sun"].map((day) => [day, [["22:00", "06:00"]]])),
        onHoliday: "weekday",
      },
    ],
  });

  it("are what calendar and clock make of a schedule", () => {
    const days = comingDays(compiled, 1, 0, date("2026-03-30"), 10);
    const told = Object.fromEntries(days.map((day) => [formatCivilDay(day.date), [day.open.join("-"), day.entry?.dayType ?? "", day.unlike]]));
    expect(told["2026-03-31"]).toEqual(["480-1080", "", false]);
    expect(told["2026-04-02"]).toEqual(["600-720", "company", true]);
    expect(told["2026-04-03"]).toEqual(["", "public", true]);
    // In Vienna the clock is put forward on 29 March 2026 at 02:00 (IANA time zone database).
    const spring = comingDays(compiled, 2, 0, date("2026-03-28"), 2);
    expect(spring.map(({ clockChange, unlike }) => [clockChange, unlike])).toEqual([
      [0, false],
      [-60, true],
    ]);
    expect(spring[1]?.open).toEqual([0, 120, 180, 360, 1320, 1440]);
  });

  it("stand on the year sheet with the entry that wins, those it beats, and where the typed dates end", () => {
    const sheet = yearSheet(required(compiled.calendars[0], "there is one"), date("2026-03-15"));
    expect(formatCivilDay(sheet.from)).toBe("2026-03-01");
    const good = required(
      sheet.days.find(({ date: at }) => at === date("2026-04-03")),
      "Good Friday is on the sheet",
    );
    expect(good).toMatchObject({ name: "Good Friday", dayType: "public", beaten: [{ name: "Planting", priority: 5 }], closedAnyway: false });
    expect(sheet.days.find(({ date: at }) => at === date("2026-04-11"))?.closedAnyway).toBe(true);
    expect(sheet.dayTypes).toEqual(["public", "company"]);
    expect(formatCivilDay(required(sheet.enteredUntil, "dates were typed in"))).toBe("2026-04-11");
    expect(sheet.runningOut.map(({ name }) => name).sort()).toEqual(["Planting", "Saturday feast"]);
    // Good Friday of 2027 lies behind the end of the sheet, Easter Sunday 2027 being 28 March.
    expect(sheet.days.filter(({ name }) => name === "Good Friday").map(({ date: at }) => formatCivilDay(at))).toEqual(["2026-04-03", "2027-03-26"]);
  });
});
