import { describe, expect, it } from "@jest/globals";
import { horizonOf } from "../table/horizon";
import fc from "fast-check";
import { compiledFrom, minute } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { FacilityDocument } from "../facility/document";
import { findAll } from "../findings/find";
import { areasOf } from "../findings/about";
import type { Finding } from "../findings/finding";
import type { UseRecord } from "../findings/use";
import { noEvents } from "../findings/use";
import { isToldToCertifiers } from "./against";
import { judgedOf } from "~/tests/judged";
import { required } from "../kernel/invariant";
import { exactTimeframe, ordinaryWeekTimeframe } from "../paths/timeframe";
import type { Timeframe } from "../paths/timeframe";
import { liveIn, openIn } from "../paths/timetable";
import type { CivilDay } from "../time/civil-day";
import { monthsAhead } from "../time/horizon";
import type { EpochMinute } from "../time/instant";
import { subtract, union } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import type { Line } from "./line";
import { isAsleep } from "./line";
import { linesByHolder, linesOf } from "./lines-of-register";

const asOf = minute("2026-03-01T00:00:00Z");

/** Several people of the generated documents carry two cards, and some departments have two members. */
const documents = fc.tuple(arbitraryFacility, fc.boolean(), fc.boolean()).map(([draft, two, alike]): FacilityDocument => ({
  ...draft,
  credentials: (draft.credentials ?? []).map((one) => (two && one.id === "c3" ? { ...one, cardholder: "h1" } : one)),
  cardholders: (draft.cardholders ?? []).map((one) => (alike ? { ...one, department: "g2" } : one)),
}));

/** Pair by pair, without tables: when each holder opens each door, by ids. */
function pairByPair(compiled: CompiledFacility, timeframe: Timeframe): Map<string, Map<string, IntervalSet>> {
  const found = new Map<string, Map<string, IntervalSet>>();
  for (const credential of compiled.credentials)
    for (const { position, door } of compiled.doors) {
      const open = openIn(compiled, timeframe, credential, position);
      if (open.length === 0) continue;
      const holder = credential.holder?.cardholder.id ?? credential.credential.id;
      const doors = found.get(holder) ?? new Map<string, IntervalSet>();
      found.set(holder, doors.set(door.id, union(doors.get(door.id) ?? [], open)));
    }
  return found;
}

const holderOf = (line: Line): string => line.cardholder ?? line.credential ?? "";
const isPlace = ({ subject }: Line): boolean => subject.kind !== "credential";
const doorsOf = ({ hours }: Line): string[] => hours.flatMap(({ doors }) => doors.map(({ id }) => id));

describe("the lines of a round", () => {
  it("hold every door that somebody opens in the 13 months just once, at the place it leads into, grouped by when it opens", () => {
    fc.assert(
      fc.property(documents, (draft) => {
        const compiled = compiledFrom(draft);
        const timeframe = exactTimeframe(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), { lockdown: false, asIfLive: false });
        const weeks = pairByPair(compiled, ordinaryWeekTimeframe(compiled, asOf, { lockdown: false, asIfLive: false }));
        const opened = pairByPair(compiled, timeframe);
        const lines = linesOf(compiled, noEvents, []);
        const placeOf = new Map((draft.doors ?? []).map(({ id, area, site }) => [id, area === undefined ? `site ${site}` : `area ${area}`]));
        const told = lines
          .filter(isPlace)
          .flatMap((line) => doorsOf(line).map((door) => `${holderOf(line)}: ${door} at ${line.subject.kind} ${line.subject.id}`));
        expect(told.sort()).toEqual(
          [...opened].flatMap(([holder, doors]) => [...doors.keys()].map((door) => `${holder}: ${door} at ${placeOf.get(door)}`)).sort(),
        );
        for (const line of lines.filter(isPlace)) {
          const own = required(opened.get(holderOf(line)), "told above");
          for (const { doors, week } of line.hours)
            for (const { id } of doors) {
              expect(own.get(id)).toEqual(own.get(required(doors[0], "groups are not empty").id));
              expect(week).toEqual(weeks.get(holderOf(line))?.get(id) ?? []);
            }
        }
      }),
      { numRuns: 50 },
    );
  });

  it("tell of each card that is not live and does not begin by itself what it would open besides, and of no other card", () => {
    fc.assert(
      fc.property(documents, (draft) => {
        const compiled = compiledFrom(draft);
        const readings = [false, true].map((asIfLive) =>
          exactTimeframe(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), { lockdown: false, asIfLive }),
        );
        const opened = pairByPair(compiled, readings[0] as Timeframe);
        const sleeping = compiled.credentials.all().filter((credential) => {
          const own = opened.get(credential.holder?.cardholder.id ?? credential.credential.id);
          if (liveIn(readings[0] as Timeframe, credential).length > 0) return false;
          return compiled.doors.some(
            ({ position, door }) => subtract(openIn(compiled, readings[1] as Timeframe, credential, position), own?.get(door.id) ?? []).length > 0,
          );
        });
        const told = linesOf(compiled, noEvents, []).filter((line) => !isPlace(line));
        expect(told.map(({ subject }) => subject.id).sort()).toEqual(sleeping.map(({ credential }) => credential.id).sort());
        expect(told.filter(({ life }) => !isAsleep(life))).toEqual([]);
      }),
      { numRuns: 50 },
    );
  });

  it("count as peers who of the department opens something at all, and as the same who opens the same doors of the place in the same hours of a week", () => {
    fc.assert(
      fc.property(documents, (draft) => {
        const compiled = compiledFrom(draft);
        const mode = { lockdown: false, asIfLive: false };
        const opened = pairByPair(compiled, exactTimeframe(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), mode));
        const weeks = pairByPair(compiled, ordinaryWeekTimeframe(compiled, asOf, mode));
        const departmentOf = (holder: string) => draft.cardholders?.find(({ id }) => id === holder)?.department;
        const placeOf = (door: string): string =>
          (({ area, site }) => area ?? `site ${site}`)(
            required(
              draft.doors?.find(({ id }) => id === door),
              "doors are there",
            ),
          );
        const inPlace = (holder: string, place: string): string[] =>
          [...(opened.get(holder)?.keys() ?? [])]
            .filter((door) => placeOf(door) === place)
            .map((door) => `${door} ${(weeks.get(holder)?.get(door) ?? []).join()}`)
            .sort();
        for (const line of linesOf(compiled, noEvents, []).filter(isPlace)) {
          const department = line.cardholder === undefined ? undefined : departmentOf(line.cardholder);
          const others = [...opened.keys()].filter((other) => other !== line.cardholder && department !== undefined && departmentOf(other) === department);
          const place = placeOf(required(doorsOf(line)[0], "a place has doors"));
          const own = inPlace(holderOf(line), place);
          expect(line.peers).toEqual(
            department === undefined ? undefined : { same: others.filter((other) => inPlace(other, place).join() === own.join()).length, of: others.length },
          );
        }
      }),
      { numRuns: 50 },
    );
  });

  const watched: Partial<FacilityDocument> = {
    areas: [
      { id: "vault", name: "Vault", site: "garden", sensitivity: 3 },
      { id: "barn", name: "Barn", site: "garden" },
    ],
    doors: [
      { id: "vault-door", name: "Vault door", site: "garden", area: "vault" },
      { id: "barn-door", name: "Barn door", site: "garden", area: "barn" },
      { id: "gate", name: "Gate", site: "garden" },
    ],
    cardholders: [
      { id: "iris", name: "Iris Almond", status: "active" },
      { id: "nora", name: "Nora Moss", status: "active" },
    ],
    credentials: [
      { id: "c1", cardholder: "iris", kind: "card", status: "active", number: "7" },
      { id: "c2", cardholder: "iris", kind: "fob", status: "active" },
      { id: "spare", kind: "card", status: "active" },
    ],
    grants: [
      ...["vault-door", "barn-door", "gate"].map((door) => ({ id: `iris-${door}`, to: { cardholder: "iris" }, open: { door }, schedule: "always" })),
      { id: "spare-gate", to: { credential: "spare" }, open: { door: "gate" }, schedule: "office" },
    ],
  };
  const finding = (given: Partial<Finding>): Finding =>
    ({
      rule: "unused",
      fingerprint: "f",
      risk: 40,
      cardholder: "iris",
      subject: { kind: "cardholder", id: "iris" },
      distinct: [],
      proof: { days: 90, coveredDays: 90 },
      terms: [],
      ...given,
    }) as Finding;
  const atVault: Partial<Finding> = {
    rule: "around-the-clock",
    distinct: ["vault"],
    proof: { sensitivity: 3, week: "2026-03-02", doors: ["vault-door"], override: false },
  };

  it("put what speaks against somebody at the area or the card that it is about, the riskiest first", () => {
    const lines = linesOf(compiledFrom(watched), noEvents, [
      finding({ ...atVault, fingerprint: "vault", risk: 70 }),
      finding({ fingerprint: "card", risk: 90, subject: { kind: "credential", id: "c2" } }),
    ]);
    expect(
      lines.filter(({ cardholder }) => cardholder === "iris").map(({ subject, findings }) => [subject.id, findings.map(({ fingerprint }) => fingerprint)]),
    ).toEqual([
      ["c2", ["card"]],
      ["vault", ["vault"]],
      ["barn", []],
      ["garden", []],
    ]);
    // A card that nobody holds has lines of its own; who has no card has none.
    expect(lines.filter(({ cardholder }) => cardholder !== "iris").map(({ cardholder, credential, subject }) => [cardholder, credential, subject.id])).toEqual([
      [undefined, "spare", "garden"],
    ]);
  });

  it("put what speaks against access to an area at the areas within it that somebody opens, and nowhere else", () => {
    const within: Partial<FacilityDocument> = {
      ...watched,
      areas: [
        { id: "vault", name: "Vault", site: "garden", sensitivity: 3 },
        { id: "cage", name: "Cage", site: "garden", parent: "vault" },
        { id: "barn", name: "Barn", site: "garden" },
      ],
      doors: [
        { id: "vault-door", name: "Cage door", site: "garden", area: "cage" },
        { id: "barn-door", name: "Barn door", site: "garden", area: "barn" },
        { id: "gate", name: "Gate", site: "garden" },
      ],
    };
    const lines = linesOf(compiledFrom(within), noEvents, [finding(atVault)]);
    expect(lines.filter(({ findings }) => findings.length > 0).map(({ subject }) => subject.id)).toEqual(["cage"]);
  });

  it("leave out no finding that is told to certifiers: each is with its holder's lines", () => {
    let [seen, atAreas] = [0, 0];
    // Only the outer area is sensitive, and somebody opens a door in the inner one at all hours.
    const sensitive = documents.map((draft): FacilityDocument => ({
      ...draft,
      areas: (draft.areas ?? []).map((area) => (area.parent === undefined ? { ...area, sensitivity: 3 } : area)),
      doors: (draft.doors ?? []).map((door) => (door.id === "d1" ? { ...door, area: "a2" } : door)),
      grants: [...(draft.grants ?? []), { id: "round", to: { cardholder: "h2" }, open: { door: "d1" }, schedule: "always" }],
    }));
    fc.assert(
      fc.property(sensitive, (draft) => {
        const compiled = compiledFrom(draft);
        const { findings } = findAll(judgedOf(horizonOf(compiled)));
        const lines = linesOf(compiled, noEvents, findings);
        seen += findings.length;
        atAreas += findings.filter((finding) => areasOf(finding).length > 0).length;
        const told = lines.flatMap((line) => line.findings.map(({ fingerprint }) => `${holderOf(line)} ${fingerprint}`));
        const certified = new Set(lines.map(holderOf));
        const missing = findings.filter(
          (finding) =>
            isToldToCertifiers(finding) &&
            certified.has(finding.cardholder ?? finding.subject.id) &&
            !told.includes(`${finding.cardholder ?? finding.subject.id} ${finding.fingerprint}`),
        );
        expect(missing.map(({ fingerprint }) => fingerprint)).toEqual([]);
      }),
      { numRuns: 200 },
    );
    // A few hundred documents come to dozens of findings, some of them at areas: were there none, nothing would have been tried.
    expect(Math.min(seen / 10, atAreas)).toBeGreaterThan(1);
  });

  it("add up what all cards of somebody did at all doors of the place, and say where events do not cover it", () => {
    // Every date of the last year, and one of long ago.
    const everyDay = [0, ...Array.from({ length: 365 }, (_, i) => Math.floor(asOf / 1440) - 365 + i)] as CivilDay[];
    const uses = new Map([
      ["c1 vault-door", { count: 3, last: 500 as EpochMinute }],
      ["c2 vault-door", { count: 2, last: 900 as EpochMinute }],
      ["c1 gate", { count: 7, last: 100 as EpochMinute }],
    ]);
    const use: UseRecord = {
      lastUse: () => undefined,
      useOfDoor: (credential, door) => uses.get(`${credential} ${door}`),
      eventDates: (site) => (site === "garden" ? everyDay : []),
    };
    const used = (record: UseRecord) =>
      Object.fromEntries(
        linesOf(compiledFrom(watched), record, [])
          .filter(({ cardholder }) => cardholder === "iris")
          .map(({ subject, use: told }) => [subject.id, told]),
      );
    expect(used(use)).toEqual({
      vault: { count: 5, last: 900, coveredDays: 90 },
      barn: { count: 0, last: undefined, coveredDays: 90 },
      garden: { count: 7, last: 100, coveredDays: 90 },
    });
    expect(used(noEvents).vault).toEqual({ count: 0, last: undefined, coveredDays: 0 });
  });

  it("are the same where they are had part by part", () => {
    fc.assert(
      fc.property(arbitraryFacility, fc.nat(), (document, cut) => {
        const compiled = compiledFrom(document);
        const { holders, credentialsOf, lines } = linesByHolder(compiled, []);
        const middle = holders === 0 ? 0 : cut % holders;
        expect([...lines(0, middle, noEvents), ...lines(middle, holders, noEvents)]).toEqual(linesOf(compiled, noEvents, []));
        expect([...credentialsOf(0, middle), ...credentialsOf(middle, holders)].sort()).toEqual(compiled.facility.credentials.map(({ id }) => id).sort());
      }),
      { numRuns: 30 },
    );
  });
});
