import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { FacilityDocument } from "@/core/facility/document";
import { areaOfPlace, outside } from "@/core/routes/places";
import type { Place } from "@/core/routes/places";
import { Routes } from "@/core/routes/routes";
import { exactTimeframe } from "@/core/paths/timeframe";
import { accessTable } from "@/core/table/access-table";
import { weekdays } from "@/core/time/civil-day";
import { contains, subtract } from "@/core/time/intervals";
import type { EpochMinute } from "@/core/time/instant";
import { compiledFrom, minute } from "../builders";
import { arbitraryFacility, askedDays } from "./arbitrary-facility";
import type { JudgeMode } from "./judge";
import { Judge } from "./judge";

const area = fc.constantFrom(undefined, "a1", "a2", "a3");

/** Documents in which doors lead from areas into areas, so that there are ways to go, round and about. */
const arbitraryPlan: fc.Arbitrary<FacilityDocument> = fc
  .tuple(
    arbitraryFacility,
    fc.array(fc.record({ from: area, area, copyOf: fc.constantFrom(0, 1, 2), schedule: fc.constantFrom("always", "half", undefined) }), {
      minLength: 3,
      maxLength: 6,
    }),
  )
  .map(([drawn, ways]) => {
    const doors = ways.map(({ from, area: into, copyOf }, i) => {
      const { area: _area, ...door } = drawn.doors?.[copyOf] ?? { name: "d", site: "x" };
      return { ...door, id: `d${i + 1}`, ...(from && { from }), ...(into && { area: into }), via: undefined };
    });
    // Else hardly anybody would ever come through two doors.
    const more = ways.flatMap(({ schedule }, i) =>
      schedule ? [{ id: `more${i}`, to: { cardholder: "h1" }, open: { door: `d${i + 1}` }, schedule, inLockdown: true }] : [],
    );
    const halves: [string, string][] = [
      ["06:00", "12:00"],
      ["18:00", "21:00"],
    ];
    const half = { id: "half", name: "half", week: Object.fromEntries(weekdays.map((day) => [day, halves])) };
    const made = {
      ...drawn,
      schedules: [...(drawn.schedules ?? []), half],
      grants: [...(drawn.grants ?? []), ...more],
      areas: [...(drawn.areas ?? []), { id: "a3", name: "a3", site: "y" }],
      doors,
    };
    return JSON.parse(JSON.stringify(made)) as FacilityDocument;
  });

type Door = NonNullable<FacilityDocument["doors"]>[number];

/** The slow, obvious program: at one minute, from place to place through what opens then; with the fewest doors to each. */
function walkedAt(doors: readonly Door[], isTaken: (door: Door) => boolean, start: string | undefined, forwards: boolean): Map<string | undefined, number> {
  const steps = new Map<string | undefined, number>([[start, 0]]);
  for (let round = 1; round <= doors.length; round++) {
    const before = new Map(steps);
    for (const door of doors) {
      const [from, to] = forwards ? [door.from, door.area] : [door.area, door.from];
      if (before.has(from) && !steps.has(to) && isTaken(door)) steps.set(to, round);
    }
  }
  return steps;
}

describe("routes against a walk minute by minute", () => {
  it("says when each place is got to, by how many doors, through which last, and who is shut in", () => {
    const met = { places: 0, twoDoors: 0, arrivals: 0, never: 0, shutIn: 0, stranded: 0, outOfUse: 0, shutWays: 0 };
    fc.assert(
      fc.property(
        arbitraryPlan,
        fc.constantFrom(...askedDays),
        fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() }),
        fc.uniqueArray(fc.nat(2), { minLength: 1, maxLength: 2 }),
        fc.option(fc.nat(5), { nil: undefined }),
        (document, day, mode: JudgeMode, through, out) => {
          const compiled = compiledFrom(document);
          const doors = document.doors ?? [];
          const judge = new Judge(document);
          const from = minute(`${day}T00:00:00Z`);
          const to = (from + 1440) as EpochMinute;
          const table = accessTable(compiled, exactTimeframe(compiled, from, to, mode));
          const outOfUse = out !== undefined && out < doors.length ? out : undefined;
          const routes = new Routes(table, { through, meantAt: () => undefined, outOfUse });
          const anywhere = new Routes(table, { through: undefined, meantAt: () => undefined, outOfUse });
          const idOf = (place: Place): string | undefined => document.areas?.[areaOfPlace(place) ?? -1]?.id;
          for (const [cardholder, { id }] of compiled.facility.cardholders.entries()) {
            const row = table.rowOfCardholder(cardholder);
            const cards = compiled.facility.credentials.filter((card) => card.cardholder === id).map((card) => card.id);
            const opensAt = (door: Door, at: number): boolean => cards.some((card) => judge.reason(card, door.id, BigInt(at), mode) === "open");
            const takenAt = (at: number) => {
              const taken = new Map(doors.map((door, i) => [door.id, i !== outOfUse && (judge.free(door, BigInt(at), mode) || opensAt(door, at))]));
              return (door: Door): boolean => taken.get(door.id) === true;
            };
            // Everything changes only at quarters of an hour in these documents, and at bounds of windows, which are told by the table's own bounds.
            const bounds = doors.flatMap((_, door) => {
              for (let i = table.rows.start(row); i < table.rows.end(row); i++)
                if (table.rows.doors[i] === door) return [...table.timelines.set(table.rows.times[i] as number)];
              return [];
            });
            const minutes = [...new Set([...Array.from({ length: 96 }, (_, i) => from + i * 15), ...bounds.flatMap((bound) => [bound - 1, bound, bound - 2])])]
              .filter((at) => at >= from && at < to)
              .sort((a, b) => a - b);
            const reached = anywhere.reached(row);
            const [times, steps] = [Int32Array.from(reached.times), Int32Array.from(reached.steps)];
            const arrival = routes.arrival(row);
            const shutIn = new Map(anywhere.shutIn(row).map(({ place, at }) => [place, at]));
            // Where an end is asked about, of whoever got in through it: nothing else.
            for (const { place, at } of routes.shutIn(row)) expect([place, subtract(at, shutIn.get(place) ?? [])]).toEqual([place, []]);
            const fewest = new Map<Place, number>();
            let fewestThrough = Infinity;
            const last = new Set<number>();
            const everOut = walkedAt(doors, () => true, undefined, false);
            const lastOpen = Math.max(0, ...bounds);
            for (const at of minutes) {
              const isTaken = takenAt(at);
              const there = walkedAt(doors, isTaken, undefined, true);
              for (let place = 0; place < routes.places; place++) {
                const count = there.get(idOf(place));
                expect([place, at, contains(table.timelines.set(times[place] as number), at)]).toEqual([place, at, count !== undefined]);
                if (count === undefined) continue;
                fewest.set(place, Math.min(fewest.get(place) ?? Infinity, count));
                if (place === outside) continue;
                met.places++;
                if (at + 1 >= to || !minutes.includes(at + 1) || !everOut.has(idOf(place))) continue;
                const isShut = at + 1 < lastOpen && !walkedAt(doors, takenAt(at + 1), undefined, false).has(idOf(place));
                if (isShut) met.shutIn++;
                expect([place, at, contains(shutIn.get(place) ?? [], at)]).toEqual([place, at, isShut]);
              }
              const before = walkedAt(doors, (door) => isTaken(door) && !through.includes(doors.indexOf(door)), undefined, true);
              const ends = through.filter((door) => isTaken(doors[door] as Door) && before.has(doors[door]?.from));
              for (const door of ends) {
                last.add(door);
                fewestThrough = Math.min(fewestThrough, (before.get(doors[door]?.from) ?? 0) + 1);
              }
              expect([at, arrival !== undefined && contains(table.timelines.set(arrival.times), at)]).toEqual([at, ends.length > 0]);
            }
            for (let place = 0; place < routes.places; place++) {
              expect([place, steps[place]]).toEqual([place, fewest.get(place) ?? -1]);
              if ((fewest.get(place) ?? 0) > 1) met.twoDoors++;
            }
            expect(arrival?.steps ?? Infinity).toBe(fewestThrough);
            expect([...(arrival?.last ?? [])].sort()).toEqual([...last].sort());
            const { ways, areAll } = routes.ways(row, 1000);
            expect(areAll).toBe(true);
            for (const at of minutes) {
              const open = ways.filter((way) => contains(table.timelines.set(way.times), at));
              const isTaken = takenAt(at);
              expect(open.length > 0).toBe(arrival !== undefined && contains(table.timelines.set(arrival.times), at));
              for (const way of open) {
                let place: string | undefined;
                for (const position of way.doors) {
                  const door = doors[position] as Door;
                  expect([door.from, isTaken(door)]).toEqual([place, true]);
                  place = door.area;
                }
                expect(through).toContain(way.doors.at(-1));
              }
            }
            expect(ways[0]?.doors.length ?? Infinity).toBe(fewestThrough);
            const stranded = anywhere.stranded(row);
            const everIn = walkedAt(doors, () => true, undefined, true);
            const opened = doors.flatMap((door, i) => (minutes.some((at) => opensAt(door, at)) ? [i] : []));
            const expected = opened.filter((door) => {
              const start = doors[door]?.from;
              return everIn.has(start) && !minutes.some((at) => walkedAt(doors, takenAt(at), undefined, true).has(start));
            });
            expect([...stranded]).toEqual(expected);
            met.stranded += stranded.length;
            if (outOfUse !== undefined) met.outOfUse++;
            if (arrival) met.arrivals++;
            else {
              met.never++;
              const shut = routes.leastShut(row);
              // The fewest doors that would have to open, tried from none on: every choice of so many.
              const couldOpen = doors.map((door, i) => i !== outOfUse && minutes.some((at) => takenAt(at)(door)));
              const arrives = (opened: readonly number[]): boolean => {
                const there = walkedAt(doors, (door) => couldOpen[doors.indexOf(door)] === true || opened.includes(doors.indexOf(door)), undefined, true);
                return through.some((door) => there.has(doors[door]?.from) && (couldOpen[door] === true || opened.includes(door)));
              };
              const choices = Array.from({ length: 2 ** doors.length }, (_, bits) => doors.flatMap((__, i) => (bits & (2 ** i) ? [i] : [])));
              const least = Math.min(Infinity, ...choices.filter(arrives).map((choice) => choice.length));
              expect(shut?.shut.length ?? Infinity).toBe(least);
              if (shut) met.shutWays++;
            }
          }
        },
      ),
      { numRuns: 40 },
    );
    // Documents in which something of this never comes would prove little.
    expect(Object.entries(met).filter(([, count]) => count === 0)).toEqual([]);
  }, 240_000);

  it("keeps to the asked minutes, and lists no more ways than are asked for", () => {
    const compiled = compiledFrom({
      areas: [{ id: "a", name: "a", site: "garden" }],
      doors: ["d1", "d2", "d3"].map((id) => ({ id, name: id, site: "garden", area: "a" })),
      cardholders: [{ id: "h", name: "h", status: "active" }],
      credentials: [{ id: "c", cardholder: "h", kind: "card", status: "active" }],
      schedules: [{ id: "always", name: "always", always: true }],
      grants: [{ id: "p", to: { cardholder: "h" }, open: { area: "a" }, schedule: "always" }],
    });
    const from = minute("2026-03-02T00:00:00Z");
    const table = accessTable(compiled, exactTimeframe(compiled, from, (from + 100) as EpochMinute, { lockdown: false, asIfLive: false }));
    const routes = new Routes(table, { through: [0, 1, 2], meantAt: () => [from + 10, from + 11] });
    const row = table.rowOfCardholder(0);
    expect(table.timelines.set(routes.arrival(row)?.times ?? 0)).toEqual([from + 10, from + 11]);
    expect(routes.ways(row, 2)).toMatchObject({ areAll: false, ways: [{ doors: [0] }, { doors: [1] }] });
  });

  it("walks by the clock of where the way ends, whatever the clocks show that it comes past", () => {
    const compiled = compiledFrom({
      sites: [
        { id: "garden", name: "Garden", timeZone: "Europe/Vienna" },
        { id: "island", name: "Island", timeZone: "Atlantic/Azores" },
      ],
      areas: [
        { id: "a", name: "a", site: "garden" },
        { id: "b", name: "b", site: "island" },
      ],
      doors: [
        { id: "d1", name: "d1", site: "garden", area: "a" },
        { id: "d2", name: "d2", site: "island", from: "a", area: "b" },
      ],
      grants: [
        { id: "p", to: { cardholder: "iris" }, open: { area: "a" }, schedule: "always" },
        { id: "q", to: { cardholder: "iris" }, open: { door: "d2" }, schedule: "always" },
      ],
    });
    const from = minute("2026-03-02T00:00:00Z");
    const table = accessTable(compiled, exactTimeframe(compiled, from, (from + 1440) as EpochMinute, { lockdown: false, asIfLive: false }));
    // Noon on either clock.
    const noon = { garden: [from + 660, from + 661], island: [from + 780, from + 781] };
    const meantAt = (door: number) => (door === 0 ? noon.garden : noon.island);
    const row = table.rowOfCardholder(0);
    const through = (doors: number[]) => table.timelines.set(new Routes(table, { through: doors, meantAt }).arrival(row)?.times ?? 0);
    expect(through([1])).toEqual(noon.island);
    expect(through([0])).toEqual(noon.garden);
    expect(through([0, 1])).toEqual([...noon.garden, ...noon.island]);
  });
});
