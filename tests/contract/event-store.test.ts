import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { ToldEvent } from "@/core/events/event-book";
import { cardKey } from "@/core/events/told-card";
import { firstSecondOfMonth } from "@/core/events/use-counts";
import type { PlaceOfDoor } from "@/core/findings/counted-places";
import { zoneOf } from "@/core/time/zone";
import type { DoorClocks, EventFilter, EventStore, PlaceOf } from "@/operations/ports/events";
import { ownDatabase } from "~/tests/integration/own-database";
import type { OwnDatabase } from "~/tests/integration/own-database";
import { memoryEvents } from "./memory-events";

let own: OwnDatabase;
beforeAll(async () => {
  own = await ownDatabase("nomade_event_contract");
});
afterAll(() => own.close());

const doors = ["d1", "D1", "d1 ", "tür"] as const;
const place = (site: string, zone: string, from: number, to: number): PlaceOfDoor => ({
  site,
  zone: zoneOf(zone),
  isBusiness: (minute) => ((minute % 1440) + 1440) % 1440 >= from && ((minute % 1440) + 1440) % 1440 < to,
  hoursText: `${zone} ${from} ${to}`,
});
/** Where doors may be: one has no place, and clocks and hours differ. */
const arrangements: readonly PlaceOf[] = [
  (door) => (door === "tür" ? undefined : place("x", "Europe/Vienna", 400, 1000)),
  (door) => (door === "d1" ? place("y", "Pacific/Apia", 400, 1000) : place("x", "Europe/Vienna", 400, 1000)),
  () => place("x", "Europe/Vienna", 0, 30),
];

/** A zone with summer time, one whose hours begin at the half, and one that once left out a date; what is on no list keeps the first's. */
const clocks: DoorClocks = {
  zones: [
    { zone: zoneOf("Asia/Kolkata"), doors: ["d1"] },
    { zone: zoneOf("Europe/Vienna"), doors: ["D1"] },
    { zone: zoneOf("Pacific/Apia"), doors: [] },
  ],
  others: zoneOf("Europe/Vienna"),
};

/** Around the turn of a month, far before and after, and in years whose numbers are short or the last. */
const turn = firstSecondOfMonth(2026 * 12 + 2);
const second = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: turn - 90_000, max: turn + 90_000 }) },
  fc.constantFrom(0, -62_135_596_800, 253_402_300_799, turn - 1, turn, firstSecondOfMonth(12), -1),
);
const event: fc.Arbitrary<ToldEvent> = fc.oneof(
  fc.record(
    {
      second,
      door: fc.constantFrom(...doors),
      credential: fc.constantFrom("c1", "C1", "é"),
      granted: fc.boolean(),
      reason: fc.constantFrom("no-grant", "blocked "),
      id: fc.constantFrom("1", "2", "x".repeat(128)),
    },
    { requiredKeys: ["second", "door", "credential", "granted"] },
  ),
  fc.record(
    { second, door: fc.constantFrom(...doors), number: fc.constantFrom("4711", "é"), facilityCode: fc.constantFrom("87", "0"), granted: fc.boolean() },
    { requiredKeys: ["second", "door", "number", "granted"] },
  ),
);

type Step =
  | { readonly do: "store"; readonly source: string; readonly events: readonly ToldEvent[] }
  | { readonly do: "withdraw"; readonly which: number }
  | { readonly do: "move"; readonly to: number };
const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ do: fc.constant("store" as const), source: fc.constantFrom("", "a", "b"), events: fc.array(event, { maxLength: 14 }) }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant("withdraw" as const), which: fc.nat(2) }) },
  fc.record({ do: fc.constant("move" as const), to: fc.nat(arrangements.length - 1) }),
);

async function* streamed(rows: readonly ToldEvent[]): AsyncGenerator<ToldEvent> {
  for (const one of rows) {
    await Promise.resolve();
    yield one;
  }
}

const listed = async <T>(items: AsyncIterable<T>): Promise<T[]> => {
  const all: T[] = [];
  for await (const item of items) all.push(item);
  return all;
};

const sorted = (items: readonly object[]): string[] => items.map((item) => JSON.stringify(item, Object.keys(item).sort())).sort();

/** Everything that can be asked of a store, in an order of its own where none is promised. */
async function told(store: EventStore, placeOf: PlaceOf, upTo: number, filter: EventFilter): Promise<unknown> {
  const files = (await store.files()).map(({ id: _, ...file }) => file);
  const plain = (events: readonly object[]) => events.map(({ file: _, ...one }: Partial<Record<"file", number>>) => one);
  const page = await store.page(filter, undefined, 7);
  const last = page.at(-1);
  return {
    files,
    uses: sorted(await store.uses({}, placeOf)),
    usesUpTo: sorted(await store.uses({ upTo }, placeOf)),
    usesOfSome: sorted(await store.uses({ cards: [cardKey({ credential: "c1" }), cardKey({ number: "4711" })], doors: ["d1", "tür"], upTo }, placeOf)),
    lastUses: [...(await store.lastUses())].sort(),
    dates: [...(await store.dates())].sort(),
    lastDates: [...(await store.lastDates())].sort(),
    between: plain(await listed(store.between(turn - 50_000, turn + 50_000, filter))),
    page: plain(page),
    behind: plain(await store.page(filter, last, 7)),
    groups: await Promise.all((["door", "card"] as const).map(async (by) => sorted(await store.groups(filter, by, 1000)))),
    hours: sorted(await store.hours(filter, clocks)),
    cards: sorted(await store.cards()),
    reasons: await store.reasons(),
    span: await store.span(),
  };
}

const filterOf = fc.record(
  {
    doors: fc.subarray([...doors]),
    cards: fc.subarray([cardKey({ credential: "c1" }), cardKey({ number: "4711", facilityCode: "87" }), cardKey({ number: "é" })]),
    either: fc.record({ doors: fc.subarray([...doors]), cards: fc.subarray([cardKey({ credential: "é" })]), reasons: fc.subarray(["no-grant"]) }),
    granted: fc.boolean(),
    reason: fc.constantFrom("no-grant", "", "none"),
    from: fc.integer({ min: turn - 90_000, max: turn + 10_000 }),
    before: fc.integer({ min: turn - 10_000, max: turn + 90_000 }),
  },
  { requiredKeys: [] },
) as fc.Arbitrary<EventFilter>;

describe("the store of events on MariaDB", () => {
  const who = { signIn: "test" };
  let hashes = 0;

  it("tells the same as one that works everything out anew, whatever comes, goes and moves", async () => {
    let [stored, withdrawn, repeats] = [0, 0, 0];
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 7 }), second, filterOf, async (steps, upTo, filter) => {
        const store = own.services.events;
        const model = memoryEvents();
        for (const { id } of await store.files()) await store.withdraw(id, () => undefined, who, "2026-03-01T00:00:00Z");
        await own.asOwner("DELETE FROM event_reasons");
        let placeOf: PlaceOf = arrangements[0] as PlaceOf;
        for (const one of steps) {
          if (one.do === "move") {
            placeOf = arrangements[one.to] as PlaceOf;
            await Promise.all([store.countBy(placeOf), model.countBy(placeOf)]);
          } else if (one.do === "withdraw") {
            const [ours, theirs] = [(await store.files())[one.which], (await model.files())[one.which]];
            expect(ours === undefined).toBe(theirs === undefined);
            if (!ours || !theirs) continue;
            withdrawn++;
            expect(await store.withdraw(ours.id, placeOf, who, "2026-03-02T00:00:00Z")).toBe(true);
            await model.withdraw(theirs.id, placeOf, who, "2026-03-02T00:00:00Z");
          } else {
            const file = { name: `file ${hashes}`, source: one.source, hash: String(hashes++).padStart(64, "0") };
            const take = (to: EventStore) => to.store(file, streamed(one.events), placeOf, who, "2026-03-01T00:00:00Z", () => undefined);
            const outcome = await take(store);
            expect(outcome).toEqual(await take(model));
            expect((await take(store)).outcome).toBe("unchanged");
            stored++;
            repeats += outcome.repeated;
          }
        }
        expect(await told(store, placeOf, upTo, filter)).toEqual(await told(model, placeOf, upTo, filter));
      }),
      { numRuns: 12 },
    );
    expect(Math.min(stored, repeats, withdrawn)).toBeGreaterThan(0);
  });

  it("shows nothing of a file that was cut off, and sweeps what is left of it", async () => {
    const store = own.services.events;
    for (const { id } of await store.files()) await store.withdraw(id, () => undefined, who, "2026-03-01T00:00:00Z");
    const one = (at: number): ToldEvent => ({ second: turn + at, door: "d1", credential: "c1", granted: true });
    async function* cutOff(): AsyncGenerator<ToldEvent> {
      for (let i = 0; i < 5000; i++) yield await Promise.resolve(one(i));
      throw new Error("the file ends here");
    }
    const file = { name: "cut off", source: "", hash: "c".repeat(64) };
    await expect(store.store(file, cutOff(), arrangements[0] as PlaceOf, who, "2026-03-01T00:00:00Z", () => undefined)).rejects.toThrow("the file ends here");
    expect([await store.files(), await store.span(), await store.page({}, undefined, 5), await store.uses({}, () => undefined)]).toEqual([
      [],
      undefined,
      [],
      [],
    ]);
    const again = await store.store(file, streamed([one(1), one(2)]), arrangements[0] as PlaceOf, who, "2026-03-01T00:00:00Z", () => undefined);
    expect(again).toEqual({ outcome: "stored", rows: 2, repeated: 0 });
    expect((await store.uses({}, () => undefined)).map(({ uses }) => uses)).toEqual([2]);
  });

  it("brings files that come at once one after the other, and lets nobody who counts wait for a long one", async () => {
    const store = own.services.events;
    for (const { id } of await store.files()) await store.withdraw(id, () => undefined, who, "2026-03-01T00:00:00Z");
    const one = (at: number): ToldEvent => ({ second: turn + at, door: "d1", credential: "c1", granted: true });
    let letGo = (): void => undefined;
    const held = new Promise<void>((resolve) => (letGo = resolve));
    async function* slow(): AsyncGenerator<ToldEvent> {
      yield one(1);
      await held;
      yield one(2);
    }
    const place0 = arrangements[0] as PlaceOf;
    const take = (name: string, rows: AsyncIterable<ToldEvent>) =>
      store.store({ name, source: "", hash: name.padStart(64, "d") }, rows, place0, who, "2026-03-01T00:00:00Z", () => undefined);
    const first = take("1", slow());
    await new Promise((resolve) => setTimeout(resolve, 300));
    const second = take("2", streamed([one(2), one(3)]));
    // Comes to its end although the first file has not.
    await store.countBy(arrangements[1] as PlaceOf);
    expect(await store.files()).toEqual([]);
    letGo();
    expect([await first, await second]).toEqual([
      { outcome: "stored", rows: 2, repeated: 0 },
      { outcome: "stored", rows: 2, repeated: 1 },
    ]);
    expect((await store.uses({}, place0)).map(({ uses }) => uses)).toEqual([3]);
  });
});
