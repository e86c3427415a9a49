import fc from "fast-check";
import type { FacilityDocument } from "@/core/facility/document";
import { allRules } from "@/core/findings/catalogue";
import type { Demand, HouseQuestion, HouseRule } from "@/core/findings/house-rule";
import type { RuleSettings } from "@/core/findings/settings";
import type { DayFilter, HoursOfDay, When } from "@/core/questions/when";
import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { arbitraryFacility, arbitraryGrant } from "./arbitrary-facility";
import type { RawDecision, RawPeopleSource, RawEvent } from "./findings/terms";

const some = <T>(...of: readonly T[]) => fc.constantFrom(...of);
const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined, freq: 3 });
const flag = maybe(fc.boolean());

const exports = ["2026-03-26T11:30:30Z", "2026-04-01T00:00:00Z", "2026-10-21T22:10:59Z", "2026-12-29T23:59:00Z"] as const;
const minute = 60_000;
const day = 1440 * minute;
const text = (at: number): string => new Date(at).toISOString().replace(".000Z", "Z");

/** An instant around an export, some of its grain below the minute. */
const near = (asOf: number, back: number, on: number) =>
  fc
    .tuple(fc.integer({ min: -back, max: on }), some(0, 0, 1, 30))
    .map(([minutes, seconds]) => text(Math.floor(asOf / minute) * minute + minutes * minute + seconds * 1000));

const cardholders = ["h1", "h2", "h3", "h4"] as const;
const cards = ["c1", "c2", "c3", "c4", "c5", "c6"] as const;
const areas = ["a1", "a2", "a3"] as const;
const authorised = maybe(fc.record({ by: maybe(some("", "Ada")), reference: maybe(some("", "T-1")) }));

const personal = (asOf: number) =>
  fc.record({
    name: some("Ada  Tannwald", " ada tannwald", "Bo", ""),
    type: maybe(some("employee", "contractor", "visitor", "contractor")),
    email: maybe(some("a@x.test", " A@x.test ", "")),
    staffNumber: maybe(some("1", "2", "")),
    manager: maybe(some(...cardholders)),
    company: maybe(some("", "Firn")),
    sponsor: maybe(some(...cardholders)),
    requirements: maybe(
      fc.array(fc.record({ name: some("induction", "vetting"), until: maybe(fc.oneof(near(asOf, 3000, 3000), some("2026-03-25", "2027-01-01"))) }), {
        maxLength: 3,
      }),
    ),
    until: maybe(fc.oneof(near(asOf, 90_000, 20_000), some("9999-12-31"))),
    from: maybe(near(asOf, 90_000, 20_000)),
    extraTime: flag,
    firstIn: flag,
    department: maybe(some("g1", "g2", "g3", "g3")),
  });

const carried = (asOf: number) =>
  fc.record({
    status: some("active", "active", "active", "lost", "returned", "suspended"),
    statusSince: maybe(near(asOf, 60_000, 5000)),
    authorised,
    number: maybe(some("1", "2", "70000", "A1", "")),
    facilityCode: maybe(some("1", "300", "")),
    bitFormat: maybe(some("26", "own", "none")),
    issue: maybe(some("", "2")),
    printedNumber: maybe(some("1", "2", "")),
    pinTag: maybe(some("t1", "t1", "t2", "")),
    temporary: flag,
    issuedAt: maybe(near(asOf, 200_000, 1000)),
    firstUse: maybe(near(asOf, 200_000, 1000)),
    lastUse: maybe(near(asOf, 200_000, 1000)),
    from: maybe(near(asOf, 200_000, 20_000)),
    until: maybe(near(asOf, 90_000, 20_000)),
  });

const entries = fc.array(
  fc.record({
    name: some("feast", "fair", ""),
    dayType: some("public", "company"),
    priority: maybe(some(0, 1)),
    on: some(
      "2026-03-27",
      "2026-10-24",
      "2024-10-22",
      "2025-10-24",
      "2026-03-27",
      "2026-04-02",
      "2026-10-24",
      "2027-01-01",
      "2024-02-29",
      "2025-03-30",
      "2026-12-30",
    ),
  }),
  { maxLength: 6 },
);

const withoutNothing = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Registers with everything that rules look at. */
const arbitraryRegister = (asOf: string): fc.Arbitrary<FacilityDocument> => {
  const at = Date.parse(asOf);
  return fc
    .record({
      draft: arbitraryFacility,
      areas: fc.array(fc.record({ sensitivity: maybe(some(0, 1, 2, 3, 2, 3)), owner: maybe(some(...cardholders)), maxHolders: maybe(some(0, 1, 2)) }), {
        minLength: 3,
        maxLength: 3,
      }),
      doors: fc.array(fc.record({ from: maybe(some(...areas)), area: maybe(some(...areas)), kind: maybe(some("door", "floor")) }), {
        minLength: 3,
        maxLength: 3,
      }),
      people: fc.array(personal(at), { minLength: 4, maxLength: 4 }),
      carried: fc.array(carried(at), { minLength: 6, maxLength: 6 }),
      entries: fc.tuple(entries, entries),
      actions: fc.array(maybe(fc.array(some("open", "arm", "unlock"), { maxLength: 2 })), { minLength: 5, maxLength: 5 }),
      managers: fc.array(maybe(some(...cardholders)), { minLength: 3, maxLength: 3 }),
      grants: fc.tuple(arbitraryGrant("p7"), arbitraryGrant("p8"), arbitraryGrant("p9")),
      always: fc.array(
        fc.record({
          to: some({ cardholder: "h1" }, { cardholder: "h2" }, { group: "g1" }, { credential: "c1" }, { credential: "c3" }, { group: "g3" }),
          open: some({ area: "a1" }, { area: "a3" }, { door: "d1" }, { door: "d2" }, { door: "d3" }, { level: "l1" }, { doorGroup: "dg1" }),
        }),
        {
          minLength: 1,
          maxLength: 4,
        },
      ),
      authorised: fc.array(authorised, { minLength: 12, maxLength: 12 }),
      isPlain: some(true, true, true, false),
    })
    .map((made) => {
      const { draft, isPlain } = made;
      const [first, second] = draft.cardholders ?? [];
      let row = 0;
      return withoutNothing({
        ...draft,
        asOf,
        areas: areas.map((id, i) => ({ id, name: id, site: id === "a3" ? "y" : "x", ...(id === "a2" && { parent: "a1" }), ...made.areas[i] })),
        doors: (draft.doors ?? []).map((door, i) => ({
          ...door,
          ...(isPlain && { entry: undefined, entryRows: i === 0 ? door.entryRows : undefined }),
          ...made.doors[i],
        })),
        calendars: (draft.calendars ?? []).map((calendar, i) => ({ ...calendar, days: [...(calendar.days ?? []), ...(made.entries[i] ?? [])] })),
        levels: (draft.levels ?? []).map((level) => ({ ...level, rows: (level.rows ?? []).map((one) => ({ ...one, actions: made.actions[row++ % 5] })) })),
        groups: (draft.groups ?? []).map((group, i) => ({ ...group, kind: i === 0 ? "department" : undefined, manager: made.managers[i] })),
        // Half of the people and cards are without windows and statuses, or hardly anybody would open anything.
        cardholders: cardholders.map((id, i) => ({
          ...(i % 2 === 0 ? first : second),
          ...(isPlain && { sites: undefined, status: "active", statusSince: undefined }),
          ...made.people[i],
          ...(isPlain && i < 2 && { from: undefined, until: undefined, hours: undefined }),
          id,
        })),
        credentials: cards.map((id, i) => ({
          kind: draft.credentials?.[i % 3]?.kind ?? "card",
          hasPin: draft.credentials?.[i % 3]?.hasPin,
          expiry: draft.credentials?.[i % 3]?.expiry,
          ...made.carried[i],
          ...(isPlain && i < 4 && { kind: "card" }),
          ...(isPlain && i < 3 && { status: "active", statusSince: undefined, from: undefined, until: undefined, expiry: undefined }),
          id,
          cardholder: ["h1", "h2", undefined, "h1", "h3", undefined][i],
        })),
        memberships: (draft.memberships ?? []).map((membership, i) => ({ ...membership, authorised: made.authorised[i] })),
        grants: [
          ...(draft.grants ?? []),
          ...made.grants,
          ...made.always.map((one, i) => ({ id: `q${i}`, ...one, ...(!("level" in one.open) && { schedule: "always" }) })),
        ].map((grant, i) => ({ ...grant, authorised: made.authorised[i % 12] })),
      }) as FacilityDocument;
    });
};

const arbitraryEvent = (asOf: number): fc.Arbitrary<RawEvent> =>
  fc
    .record({
      at: fc.oneof(near(asOf, 43_000, 30), near(asOf, 700, 5), near(asOf, 90, 5)),
      door: some("d1", "d2", "d3", "d1", "d2", "d3", "d9"),
      who: fc.oneof(fc.record({ credential: some(...cards, "c9") }), fc.record({ number: some("1", "2", "9"), facilityCode: maybe(some("1", "300", "")) })),
      result: some("granted" as const, "refused" as const),
      reason: maybe(some("", "unknown")),
      id: maybe(some("", "e1", "e2", "e3")),
    })
    .map(({ who, ...event }) => withoutNothing({ ...event, ...who }));

/** Scenes that rules about sequences tell of: somebody let in by another, a card tried again and again, somebody in two places. */
const scene = (asOf: number): fc.Arbitrary<RawEvent[]> =>
  fc
    .record({
      at: fc.integer({ min: 5, max: 20_000 }),
      who: some("c1", "c2", "c3", "c5"),
      other: some("c1", "c2", "c3", "c5"),
      doors: fc.tuple(some("d1", "d2", "d3"), some("d1", "d2", "d3")),
      gaps: fc.array(some(0, 1, 10, 60, 61, 300, 1800), { minLength: 6, maxLength: 6 }),
      kind: some("let in", "again", "two places"),
    })
    .map(({ at, who, other, doors: [door, next], gaps, kind }) => {
      let now = Math.floor(asOf / minute) * minute - at * minute;
      const event = (i: number, credential: string, where: string, result: RawEvent["result"]): RawEvent => {
        now += (gaps[i] ?? 0) * 1000;
        return { at: text(now), door: where, credential, result };
      };
      if (kind === "let in")
        return [event(0, who, door, "refused"), event(1, other, door, "granted"), event(2, who, next, "granted"), event(3, who, door, "granted")];
      if (kind === "again") return gaps.map((_, i) => event(i, who, door, "refused"));
      return [event(0, who, door, "granted"), event(1, who, next, "granted"), event(2, who, door, "granted")];
    });

/** Events of every date, so that something can be told. */
const steady = (asOf: number, days: number): RawEvent[] =>
  ["d1", "d2", "d3"].flatMap((door) =>
    Array.from({ length: Math.ceil(days / 3) }, (_, i) => ({
      at: text(Math.floor(asOf / minute) * minute - i * 3 * day),
      door,
      credential: "c9",
      result: "refused" as const,
    })),
  );

/** Parameters that small documents come up against: a few of them, small. */
const parameters = fc
  .array(
    fc.tuple(
      some(
        ...allRules.flatMap(({ key, parameters: own }) => Object.keys(own).map((name) => [key as string, name] as const)),
        ["events", "gapDays"] as const,
        ["events", "coveredPercent"] as const,
      ),
      fc.integer({ min: 0, max: 4 }),
    ),
    { maxLength: 25 },
  )
  .map((drawn) => {
    const made: Record<string, Record<string, number>> = {
      "unlike-peers": { peers: 1, percent: 40 },
      "all-doors": { percent: 50, holders: 1 },
      "level-limit": { levels: 2 },
      "many-credentials": { most: 1 },
      "mover-kept": { days: 0 },
    };
    for (const [[key, name], value] of drawn) {
      const least = ["times", "dates", "entries", "levels", "peers"].includes(name) ? 1 : 0;
      const shown = /percent/i.test(name) ? value * 25 : Math.max(least, name === "sensitivity" ? Math.min(value, 3) : value);
      made[key] = { ...made[key], [name]: shown };
    }
    return made;
  });

const side = fc.oneof(fc.record({ area: some(...areas) }), fc.record({ level: some("l1", "l2") }));
const business = some(
  { always: true as const },
  { week: { mon: [["22:00", "06:00"]], sat: [["00:00", "24:00"]] }, holidays: { company: [["08:00", "09:00"]] } },
  { week: {}, until: "2026-03-28" },
);

const arbitrarySettings = fc
  .record({
    horizonDays: some(1, 2, 8, 9, 14),
    parameters,
    duties: maybe(fc.array(fc.record({ a: side, b: side }), { maxLength: 2 }).map((all) => all.map((one, i) => ({ id: `duty${i}`, ...one })))),
    sites: maybe(
      fc.record({ x: maybe(fc.record({ business: maybe(business), minutesTo: maybe(fc.record({ y: some(0, 5, 90) })) })), y: maybe(fc.record({ business })) }),
    ),
    formats: maybe(some({ own: { facilityCode: 1, number: 1 } }, { "26": { facilityCode: 400, number: 80_000 } })),
    weights: maybe(
      fc.record({
        base: maybe(some({ unused: 100 }, { privilege: 0 })),
        sensitivity: maybe(some(0, 7, 99)),
        outOfHours: maybe(some(1, 33)),
        standing: maybe(some(5, 50)),
      }),
    ),
  })
  .map((made) => withoutNothing({ format: "nomade.rules/1" as const, ...made }) as RuleSettings & { readonly horizonDays: number });

const decision = (asOf: number): fc.Arbitrary<RawDecision> =>
  fc
    .record({
      at: near(asOf, 400_000, 100),
      who: fc.oneof(fc.record({ cardholder: some(...cardholders) }), fc.record({ credential: some("c3", "c6", "c1") })),
      area: some(...areas),
      decision: some("keep", "narrow", "withdraw"),
    })
    .map(({ who, ...made }) => ({ ...made, ...who }));

const place: fc.Arbitrary<HouseQuestion["where"]> = some(
  { kind: "area", id: "a1" },
  { kind: "area", id: "a3" },
  { kind: "door", id: "d2" },
  { kind: "site", id: "x" },
  { kind: "level", id: "l1" },
  { kind: "doorGroup", id: "dg1" },
  { kind: "sensitivity", from: 2 },
  { kind: "anywhere" },
  { kind: "area", id: "gone" },
);
const people: fc.Arbitrary<HouseQuestion["who"]> = some(
  undefined,
  { kind: "cardholder", id: "h1" },
  { kind: "cardholder", id: "gone" },
  { kind: "credential", id: "c1" },
  { kind: "credential", id: "c3" },
  { kind: "type", type: "contractor" },
  { kind: "type", type: "employee" },
  { kind: "group", id: "g1" },
  { kind: "group", id: "g3" },
  { kind: "level", id: "l1" },
  { kind: "bundle", id: "b1" },
);

/** Times that recur around an export, or all. */
const times = (asOf: number): fc.Arbitrary<When> => {
  const today = Math.floor(asOf / day);
  const minuteOfExport = Math.floor(asOf / minute);
  return fc.oneof(
    fc.constant<When>({ kind: "any" }),
    fc
      .record({
        days: some<DayFilter>(
          { kind: "every-day" },
          { kind: "weekend" },
          { kind: "weekdays", weekdays: ["mon", "thu"] },
          { kind: "day-type", dayType: "public" },
          { kind: "holiday", name: "feast" },
        ),
        hours: some<HoursOfDay>(
          { kind: "all-day" },
          { kind: "business" },
          { kind: "out-of-hours" },
          { kind: "clock", minuteOfDay: 150 },
          { kind: "between", start: 22 * 60, end: 6 * 60 },
          { kind: "between", start: 600, end: 720 },
        ),
        within: fc.oneof(
          fc.record({ from: fc.integer({ min: -3, max: 3 }), length: fc.integer({ min: 0, max: 9 }) }).map(({ from, length }) => ({
            kind: "dates" as const,
            from: (today + from) as CivilDay,
            to: (today + from + length) as CivilDay,
          })),
          fc.record({ from: fc.integer({ min: -2000, max: 4000 }), length: fc.integer({ min: 1, max: 20_000 }) }).map(({ from, length }) => ({
            kind: "instants" as const,
            from: (minuteOfExport + from) as EpochMinute,
            to: (minuteOfExport + from + length) as EpochMinute,
          })),
        ),
      })
      .map((made): When => ({ kind: "recurring", ...made })),
  );
};

const houseRule = (asOf: number): fc.Arbitrary<HouseRule> =>
  fc
    .record({
      id: some("1", "2", "3"),
      must: some<Demand["must"]>("none", "only", "not-both", "at-least", "at-most"),
      other: place,
      count: fc.integer({ min: 0, max: 3 }),
      asks: fc.option(fc.record({ who: people, where: place, when: times(asOf) }), { nil: undefined, freq: 12 }),
    })
    .map(({ id, must, other, count, asks }): HouseRule => {
      const demand: Demand = must === "not-both" ? { must, other } : must === "at-least" || must === "at-most" ? { must, count } : { must };
      return { id, name: `rule ${id}`, demand, asks };
    });

export interface JudgedCase {
  readonly facility: FacilityDocument;
  readonly settings: RuleSettings & { readonly horizonDays: number };
  readonly events: readonly RawEvent[];
  readonly earlier: readonly FacilityDocument[];
  readonly decisions: readonly RawDecision[] | undefined;
  readonly peopleSources: readonly RawPeopleSource[];
  readonly houseRules: readonly HouseRule[];
}

/** An earlier register: another, or the same with other people, or where only their departments were others. */
function before(facility: FacilityDocument, other: FacilityDocument, changed: "other" | "people" | "departments"): FacilityDocument {
  if (changed === "other") return other;
  if (changed === "people") return { ...facility, cardholders: other.cardholders ?? [] };
  return {
    ...facility,
    cardholders: (facility.cardholders ?? []).map((cardholder, i) => {
      const { department: _, ...others } = cardholder;
      const department = other.cardholders?.[i]?.department;
      return { ...others, ...(department !== undefined && { department }) };
    }),
  };
}

/** A register with settings, events, earlier documents and decisions, all around its export. */
export const arbitraryCase: fc.Arbitrary<JudgedCase> = some(...exports).chain((asOf) => {
  const at = Date.parse(asOf);
  const back = (days: number): string => text(Math.floor(at / 1000) * 1000 - days * day);
  return fc
    .record({
      facility: arbitraryRegister(asOf),
      settings: arbitrarySettings,
      events: fc
        .tuple(fc.array(arbitraryEvent(at), { maxLength: 30 }), fc.array(scene(at), { maxLength: 5 }))
        .map(([single, scenes]) => [...single, ...scenes.flat()]),
      covered: some(0, 40, 200),
      past: fc.array(fc.tuple(some(1, 8, 45), arbitraryRegister(asOf), some("other" as const, "people" as const, "departments" as const)), { maxLength: 2 }),
      decisions: maybe(fc.array(decision(at), { maxLength: 5 })),
      peopleSources: fc.uniqueArray(fc.record({ source: some("staff", "Büro", "\u{1f4db}"), people: fc.subarray([...cardholders]) }), {
        selector: ({ source }) => source,
        maxLength: 2,
      }),
      houseRules: fc.uniqueArray(houseRule(at), { selector: ({ id }) => id, maxLength: 3 }),
    })
    .map(({ facility, settings, events, covered, past, decisions, peopleSources, houseRules }): JudgedCase => {
      const byDate = new Map(past.map(([days, other, changed]) => [days, before(facility, other, changed)]));
      return {
        facility,
        settings,
        events: [...events, ...steady(at, covered)],
        earlier: [...byDate].sort(([a], [b]) => b - a).map(([days, document]) => ({ ...document, asOf: back(days) })),
        decisions,
        peopleSources,
        houseRules,
      };
    });
});
