import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { FacilityDocument } from "@/core/facility/document";
import { Horizon } from "@/core/table/horizon";
import { openOf } from "@/core/table/table-questions";
import type { EpochMinute } from "@/core/time/instant";
import { zoneOf } from "@/core/time/zone";
import { compareEntry } from "@/core/units/compare-entry";
import { compareUnit } from "@/core/units/compare-unit";
import { ReadyMemory, decideAtUnit } from "@/core/units/decide-at-unit";
import { layOutUnit } from "@/core/units/lay-out-unit";
import type { UnitLimits, UnitMemory } from "@/core/units/unit-memory";
import { UnitSources } from "@/core/units/unit-sources";
import { roomTaken, withinLimits } from "@/core/units/within-limits";
import { compiledFrom } from "../builders";
import { arbitraryFacility } from "./arbitrary-facility";
import { beginnings, drawnIn, elsewhere, year } from "./elsewhere";
import { Judge } from "./judge";

/** Every door hangs on one unit. */
const onOneUnit = (document: FacilityDocument): FacilityDocument => ({
  ...document,
  doors: (document.doors ?? []).map((door) => ({ ...door, controller: "unit" })),
});

/** The register and what its unit is to hold, over so many days. */
function laidOut(document: FacilityDocument, days: number, before?: UnitMemory) {
  const compiled = compiledFrom(document);
  const from = new Horizon(compiled).ahead.from;
  const sources = new UnitSources(new Horizon(compiled, { from, to: (from + days * 1440) as EpochMinute }));
  return { compiled, sources, memory: layOutUnit(sources, "unit", before) };
}

/** Minutes at which something changes in the register, those before, and some others. */
function telling({ compiled, sources }: ReturnType<typeof laidOut>, seed: number): EpochMinute[] {
  const { table, from, to } = sources;
  const bounds = compiled.facility.credentials.flatMap((_, card) => compiled.doors.flatMap(({ position }) => [...openOf(table, card, position)]));
  const few = bounds.filter((_, i) => (i * 7 + seed) % Math.max(1, Math.ceil(bounds.length / 24)) === 0);
  const others = Array.from({ length: 8 }, (_, i) => from + ((seed * 7919 + i * 104_729) % (to - from)));
  return [...new Set([...few.flatMap((bound) => [bound - 1, bound]), ...others])].filter((at) => at >= from && at < to) as EpochMinute[];
}

/** What a unit decides of a credential that shows all that it has. */
const opensAtUnit = (memory: ReadyMemory, card: string, door: string, at: EpochMinute, lockdown: boolean): boolean =>
  decideAtUnit(memory, { door, card, ...(memory.cards.get(card)?.hasPin === true && { pin: "right" as const }) }, at, lockdown).granted;

describe("a unit without limits against the slow program", () => {
  it("decides as the register says, in any year, in a lockdown as well, and is no different by access", () => {
    const met = { open: 0, closed: 0, lockdown: 0, free: 0, kinds: 0 };
    fc.assert(
      fc.property(
        arbitraryFacility,
        year,
        fc.constantFrom(...beginnings),
        fc.constantFrom(12, 40, 400),
        fc.nat(1000),
        (drawn, inYear, beginning, days, seed) => {
          const document = elsewhere(onOneUnit(drawn), inYear - drawnIn, beginning);
          const made = laidOut(document, days);
          const judge = new Judge(document);
          const memory = new ReadyMemory(made.memory);
          met.kinds += made.memory.dates.length;
          for (const at of telling(made, seed))
            for (const { door, zone } of made.compiled.doors) {
              const held = memory.doors.get(door.id);
              for (const lockdown of [false, true]) {
                const mode = { lockdown, asIfLive: false };
                const isFree = judge.free(door, BigInt(at), mode);
                met.free += Number(isFree);
                expect([at, door.id, held && memory.isFree(held, zoneOf(held.timeZone), at, lockdown)]).toEqual([at, door.id, isFree]);
                for (const { id } of made.compiled.facility.credentials) {
                  const judged = judge.reason(id, door.id, BigInt(at), mode) === "open";
                  met[judged ? (lockdown ? "lockdown" : "open") : "closed"]++;
                  expect([at, zone.name, door.id, id, lockdown, opensAtUnit(memory, id, door.id, at, lockdown)]).toEqual([
                    at,
                    zone.name,
                    door.id,
                    id,
                    lockdown,
                    judged,
                  ]);
                }
              }
            }
          expect(compareUnit(made.sources, "unit", made.memory)).toEqual([]);
          expect(compareEntry(made.sources, "unit", made.memory)).toEqual([]);
        },
      ),
      { numRuns: 25 },
    );
    for (const [what, count] of Object.entries(met)) expect([what, count > 0]).toEqual([what, true]);
  });

  it("keeps the numbers of what it holds already: the same register is the same memory", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryFacility, (drawn, other) => {
        const before = laidOut(onOneUnit(other), 60).memory;
        const { memory, sources } = laidOut(onOneUnit(drawn), 60, before);
        expect(compareUnit(sources, "unit", memory)).toEqual([]);
        expect(layOutUnit(sources, "unit", memory)).toEqual(memory);
        const held = new Map(before.sets.map(({ id, week }) => [id, JSON.stringify(week)]));
        for (const { id, week } of memory.sets) expect(held.get(id) ?? JSON.stringify(week)).toBe(JSON.stringify(week));
      }),
      { numRuns: 40 },
    );
  });
});

describe("a unit that holds something else", () => {
  it("is told by door and credential, from the first minute at which it decides otherwise, with how much more and less it opens", () => {
    const met = { more: 0, less: 0, free: 0, none: 0 };
    fc.assert(
      fc.property(arbitraryFacility, arbitraryFacility, fc.nat(1000), (drawn, other, seed) => {
        const made = laidOut(onOneUnit(drawn), 12);
        // What was sent of another register, or of this one with a part cut off.
        const memory =
          seed % 3 === 0 ? { ...made.memory, sets: made.memory.sets.slice(1), cards: made.memory.cards.slice(seed % 2) } : laidOut(onOneUnit(other), 12).memory;
        const told = compareUnit(made.sources, "unit", memory);
        const judge = new Judge(onOneUnit(drawn));
        const held = new ReadyMemory(memory);
        const mode = { lockdown: false, asIfLive: false };
        const { from, to, table } = made.sources;
        met.none += Number(told.length === 0);
        for (const { door } of made.compiled.doors) {
          const heldDoor = held.doors.get(door.id);
          const freeAtUnit = (at: EpochMinute): boolean => heldDoor !== undefined && held.isFree(heldDoor, zoneOf(heldDoor.timeZone), at, false);
          for (const id of [undefined, "c1", "c2", "c3"]) {
            const found = told.find((one) => one.door === door.id && one.credential === id);
            const differs = (at: EpochMinute): number => {
              const register = judge.free(door, BigInt(at), mode) || (id !== undefined && judge.reason(id, door.id, BigInt(at), mode) === "open");
              const unit = freeAtUnit(at) || (id !== undefined && opensAtUnit(held, id, door.id, at, false));
              return Number(unit) - Number(register);
            };
            if (!found) {
              // Who opens the door by neither is not told of where it only stands free otherwise.
              const isTold = told.some((one) => one.door === door.id && one.credential === undefined);
              if (!isTold) for (const at of telling(made, seed)) expect([door.id, id, at, differs(at)]).toEqual([door.id, id, at, 0]);
              continue;
            }
            const [register, atUnit] = [table.timelines.set(found.register), table.timelines.set(found.held)];
            const bounds = [...register, ...atUnit].filter((at) => at >= from && at < to).sort((a, b) => a - b);
            // Within the register's and the unit's own bounds nothing changes, so that looking at each of them counts every minute.
            let [more, less] = [0, 0];
            let first: number | undefined;
            for (const [i, at] of [from, ...bounds].entries()) {
              const differing = differs(at as EpochMinute);
              if (differing !== 0) first ??= at;
              const length = ([from, ...bounds][i + 1] ?? to) - at;
              if (differing > 0) more += length;
              if (differing < 0) less += length;
            }
            met.more += Number(more > 0);
            met.less += Number(less > 0);
            met.free += Number(id === undefined);
            expect([found.first, found.minutesMore, found.minutesLess]).toEqual([first, more, less]);
            expect(found.unit).toBe(differs(found.first) > 0 ? "open" : "closed");
          }
        }
      }),
      { numRuns: 25 },
    );
    for (const [what, count] of Object.entries(met)) expect([what, count > 0]).toEqual([what, true]);
  });
});

const most = (greatest: number) => fc.option(fc.integer({ min: 1, max: greatest }), { nil: undefined });
const arbitraryLimits = fc
  .record({
    cards: most(2),
    sets: most(3),
    rangesPerRow: most(2),
    kinds: most(2),
    dates: most(3),
    rightsPerCard: most(2),
    windows: fc.constantFrom("minute", "day", "none"),
  })
  .map((limits) => JSON.parse(JSON.stringify(limits)) as UnitLimits);

describe("a unit with limits", () => {
  it("holds no more than it can, is told what it is without, and errs to the side that was chosen wherever that can be", () => {
    const met = { less: 0, more: 0, shortfalls: 0, exact: 0 };
    fc.assert(
      fc.property(arbitraryFacility, arbitraryLimits, fc.constantFrom("less", "more"), fc.constantFrom(12, 100), (drawn, limits, erring, days) => {
        const { memory: whole, sources } = laidOut(onOneUnit(drawn), days);
        const { memory, shortfalls } = withinLimits(whole, limits, erring, sources.from);
        const { windows, ...numbers } = limits;
        for (const [limit, bound] of Object.entries(numbers)) expect([limit, roomTaken(memory)[limit as keyof typeof numbers] <= bound]).toEqual([limit, true]);
        const differences = compareUnit(sources, "unit", memory);
        met.shortfalls += Number(shortfalls.length > 0);
        if (shortfalls.length === 0) {
          expect(memory).toEqual(whole);
          met.exact++;
        }
        const isWithin = (...few: readonly (keyof UnitLimits)[]): boolean => shortfalls.every(({ limit }) => few.includes(limit)) && windows !== "none";
        if (erring === "less" && isWithin("cards", "sets", "rangesPerRow", "kinds", "rightsPerCard", "windows")) {
          expect(differences.filter(({ minutesMore }) => minutesMore > 0)).toEqual([]);
          met.less += Number(differences.length > 0);
        }
        if (erring === "more" && isWithin("rangesPerRow", "windows")) {
          expect(differences.filter(({ minutesLess }) => minutesLess > 0)).toEqual([]);
          met.more += Number(differences.length > 0);
        }
      }),
      { numRuns: 600 },
    );
    for (const [what, count] of Object.entries(met)) expect([what, count > 0]).toEqual([what, true]);
  });
});
