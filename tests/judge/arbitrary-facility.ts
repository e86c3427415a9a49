import fc from "fast-check";
import type { FacilityDocument, Grant } from "@/core/facility/document";

/** Zones with clock changes of all kinds: by an hour, by half an hour, at midnight, over midnight, none, and east of the date line. */
export const zones = ["Europe/Vienna", "Australia/Lord_Howe", "Asia/Beirut", "America/Santiago", "Atlantic/Azores", "Asia/Kathmandu", "UTC", "Pacific/Apia"];

/** Instants around the days on which clocks change in 2026, and around a turn of the year. */
export const askedDays = [
  "2026-03-28",
  "2026-03-29",
  "2026-04-04",
  "2026-04-05",
  "2026-09-05",
  "2026-09-06",
  "2026-10-24",
  "2026-10-25",
  "2026-12-31",
  "2026-05-14",
  "2026-04-03",
];

const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined, freq: 2 });
const some = <T>(of: readonly T[]) => fc.constantFrom(...of);
const clock = fc.integer({ min: 0, max: 95 }).map((n) => `${String(Math.floor(n / 4)).padStart(2, "0")}:${String((n % 4) * 15).padStart(2, "0")}`);
const row = fc.array(fc.tuple(clock, fc.oneof(clock, fc.constant("24:00"))), { maxLength: 2 });
const instant = fc.tuple(some(askedDays), clock, some([":00Z", ":30Z", "Z", ":15.25+02:00", "-03:30"])).map(([day, time, rest]) => `${day}T${time}${rest}`);
const moment = fc.oneof(some(askedDays), instant);
const window = { from: maybe(moment), until: maybe(moment) };
const dayType = some(["public", "company"]);
const date = some(askedDays);
const monthDay = some(["03-29", "04-05", "10-25", "12-31", "01-01", "05-14", "02-29"]);

const day = fc
  .tuple(
    fc.record({ name: fc.constant("day"), dayType, priority: maybe(fc.integer({ min: 0, max: 2 })) }),
    fc.oneof(
      fc.record({ on: date }),
      fc.record({ from: date, to: date }),
      fc.record({ yearly: monthDay }),
      fc.record({ yearlyFrom: monthDay, yearlyTo: monthDay }),
      fc.record({ easter: some([-2, -1, 0, 1, 39, 50, -280]) }),
      fc.record({ nth: fc.record({ month: some([3, 4, 10, 12]), weekday: some(["sun", "thu", "sat"] as const), n: some([1, 2, 4, 5, -1]) }) }),
    ),
  )
  .map(([base, rule]) => ({ ...base, ...rule }));

const weekly = (id: string) =>
  fc.record({
    id: fc.constant(id),
    name: fc.constant(id),
    week: fc.record({ mon: maybe(row), thu: maybe(row), fri: maybe(row), sat: maybe(row), sun: maybe(row) }),
    holidays: maybe(fc.dictionary(dayType, row, { maxKeys: 2 })),
    onHoliday: maybe(some(["closed", "weekday"] as const)),
    from: maybe(date),
    until: maybe(date),
  });

const schedule = some(["always", "s1", "s2", "s3"]);
const door = some(["d1", "d2", "d3"]);
const entry = some(["card", "card+pin", "pin", "card-or-pin"] as const);
const flag = maybe(fc.boolean());

/** A grant of any kind within the documents below. */
export const arbitraryGrant = (id: string): fc.Arbitrary<Grant> =>
  fc
    .record({
      id: fc.constant(id),
      to: fc.oneof(
        fc.record({ cardholder: some(["h1", "h2"]) }),
        fc.record({ group: some(["g1", "g2", "g3"]) }),
        fc.record({ credential: some(["c1", "c2", "c3"]) }),
      ),
      open: fc.oneof(
        fc.record({ level: some(["l1", "l2"]) }),
        fc.constant({ bundle: "b1" }),
        fc.record({ door }),
        fc.record({ doorGroup: some(["dg1", "dg2"]) }),
        fc.record({ area: some(["a1", "a2"]) }),
      ),
      schedule: maybe(schedule),
      effect: maybe(some(["allow", "allow", "block"] as const)),
      inLockdown: flag,
      ...window,
    })
    .map((made) => ("level" in made.open || "bundle" in made.open || made.effect === "block" ? made : { ...made, schedule: made.schedule ?? "s1" }) as Grant);

const credential = (id: string, cardholder: string | undefined) =>
  fc.record({
    id: fc.constant(id),
    cardholder: fc.constant(cardholder),
    kind: some(["card", "card", "fob", "pin"] as const),
    status: some(["active", "active", "active", "suspended"] as const),
    statusSince: maybe(instant),
    hasPin: flag,
    pinTag: maybe(fc.constant("tag")),
    expiry: maybe(fc.record({ after: some(["first-use", "last-use"] as const), days: fc.integer({ min: 1, max: 200 }) })),
    firstUse: maybe(instant),
    lastUse: maybe(instant),
    ...window,
  });

const cardholder = (id: string) =>
  fc.record({
    id: fc.constant(id),
    name: fc.constant(id),
    status: some(["active", "active", "active", "left"] as const),
    statusSince: maybe(instant),
    department: maybe(some(["g1", "g2", "g3"])),
    sites: maybe(fc.uniqueArray(some(["x", "y"]), { maxLength: 2 })),
    calendar: maybe(some(["k1", "k2"])),
    hours: maybe(schedule),
    override: fc.oneof(
      { weight: 4, arbitrary: fc.constant(undefined) },
      { weight: 1, arbitrary: fc.oneof(fc.constant(true as const), fc.uniqueArray(some(["x", "y"]), { maxLength: 2 })) },
    ),
    lockdownPass: flag,
    pinExempt: flag,
    ...window,
  });

const levelRow = fc
  .tuple(fc.oneof(fc.record({ door }), fc.record({ doorGroup: some(["dg1", "dg2"]) }), fc.record({ area: some(["a1", "a2"]) })), schedule)
  .map(([target, s]) => ({ ...target, schedule: s }));

/** Small documents that use every feature of the format. */
export const arbitraryFacility: fc.Arbitrary<FacilityDocument> = fc
  .record({
    timeZone: some(zones),
    sites: fc.tuple(some(zones), some(zones), maybe(some(["k1", "k2"])), maybe(some(["k1", "k2"]))).map(([x, y, k, l]) => [
      { id: "x", name: "x", timeZone: x, calendar: k },
      { id: "y", name: "y", timeZone: y, calendar: l },
    ]),
    calendars: fc.tuple(fc.array(day, { maxLength: 4 }), fc.array(day, { maxLength: 4 })).map(([a, b]) => [
      { id: "k1", name: "k1", days: a },
      { id: "k2", name: "k2", days: b },
    ]),
    schedules: fc.tuple(weekly("s1"), weekly("s2"), weekly("s3")).map((made) => [{ id: "always", name: "always", always: true as const }, ...made]),
    doors: fc
      .array(
        fc.record({
          site: some(["x", "y"]),
          area: maybe(some(["a1", "a2"])),
          entry: maybe(entry),
          entryRows: maybe(fc.array(fc.record({ schedule, entry }), { maxLength: 2 })),
          unlock: maybe(schedule),
        }),
        { minLength: 3, maxLength: 3 },
      )
      .chain((doors) => fc.boolean().map((via) => doors.map((d, i) => ({ id: `d${i + 1}`, name: `d${i + 1}`, ...d, ...(via && i > 0 && { via: `d${i}` }) })))),
    levels: fc.tuple(fc.array(levelRow, { maxLength: 3 }), fc.array(levelRow, { maxLength: 2 })).map(([a, b]) => [
      { id: "l1", name: "l1", rows: a },
      { id: "l2", name: "l2", rows: b },
    ]),
    memberships: fc.array(fc.record({ group: some(["g1", "g2", "g3"]), cardholder: some(["h1", "h2"]), ...window }), { maxLength: 4 }),
    cardholders: fc.tuple(cardholder("h1"), cardholder("h2")),
    credentials: fc.tuple(credential("c1", "h1"), credential("c2", "h2"), credential("c3", undefined)),
    grants: fc.tuple(arbitraryGrant("p1"), arbitraryGrant("p2"), arbitraryGrant("p3"), arbitraryGrant("p4"), arbitraryGrant("p5"), arbitraryGrant("p6")),
  })
  .map(
    (made) =>
      // Keys that are left out must be gone, not undefined: the document is JSON.
      JSON.parse(
        JSON.stringify({
          format: "nomade.facility/1",
          name: "arbitrary",
          asOf: "2026-03-01T00:00:00Z",
          areas: [
            { id: "a1", name: "a1", site: "x" },
            { id: "a2", name: "a2", site: "x", parent: "a1" },
          ],
          doorGroups: [
            { id: "dg1", name: "dg1", doors: ["d1"], groups: ["dg2"] },
            { id: "dg2", name: "dg2", doors: ["d2", "d3"] },
          ],
          bundles: [{ id: "b1", name: "b1", levels: ["l1", "l2"] }],
          groups: [
            { id: "g1", name: "g1" },
            { id: "g2", name: "g2", parent: "g1" },
            { id: "g3", name: "g3", parent: "g2" },
          ],
          ...made,
        }),
      ) as FacilityDocument,
  );

/** A pair, a minute and a way of asking, about a document drawn by `arbitraryFacility`. */
export const arbitraryQuestion = fc.record({
  credential: fc.constantFrom("c1", "c2", "c3"),
  door: fc.constantFrom("d1", "d2", "d3"),
  day: some(askedDays),
  minuteOfDay: fc.integer({ min: 0, max: 1439 }),
  lockdown: fc.boolean(),
  asIfLive: fc.boolean(),
});
