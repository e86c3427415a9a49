import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { EpochMinute } from "@/core/time/instant";
import { localTime, zoneOf } from "@/core/time/zone";
import type { DoorPlace, EventRow, EventStore } from "@/operations/ports/events";
import { ownDatabase } from "~/tests/integration/own-database";
import type { OwnDatabase } from "~/tests/integration/own-database";
import { memoryEvents } from "./memory-events";

const credentials = ["c1", "C1", "c1 ", "é", "e"] as const;
const doors = ["d1", "d2", "d3"] as const;
const places: Readonly<Record<string, DoorPlace>> = {
  d1: { site: "x", zone: "Europe/Vienna" },
  d2: { site: "y", zone: "Pacific/Apia" },
};
const around = 29_600_000;

const row: fc.Arbitrary<EventRow> = fc.record({
  at: fc.integer({ min: around, max: around + 20_000 }),
  door: fc.constantFrom(...doors),
  credential: fc.constantFrom(...credentials),
  result: fc.constantFrom("granted" as const, "refused" as const),
  reason: fc.constant(undefined),
});

async function* streamed(rows: readonly EventRow[]): AsyncGenerator<EventRow> {
  for (const one of rows) {
    await Promise.resolve();
    yield one;
  }
}

let own: OwnDatabase;
beforeAll(async () => {
  own = await ownDatabase("nomade_event_contract");
});
afterAll(() => own.close());

const inMemory = memoryEvents(() => false);
const stores: readonly (readonly [string, () => EventStore])[] = [
  ["in memory", () => inMemory],
  ["on MariaDB", () => own.services.events],
];

describe.each(stores)("events %s", (_, storeOf) => {
  let files = 0;

  it("count once however often their file comes, and are used as their rows say, by door, card and time", async () => {
    const who = { signIn: "test" };
    // Each store holds what came before.
    const all: EventRow[] = [];
    await fc.assert(
      fc.asyncProperty(fc.array(row, { maxLength: 12 }), fc.integer({ min: around, max: around + 20_000 }), async (rows, minute) => {
        const store = storeOf();
        const file = { name: `file ${files}`, hash: String(files++).padStart(64, "0") };
        const take = () => store.store(file, streamed(rows), who, "2026-03-01T00:00:00Z", () => undefined);
        expect(await take()).toEqual({ outcome: "stored", rows: rows.length });
        expect(await take()).toEqual({ outcome: "unchanged", rows: rows.length });
        all.push(...rows);
        await store.countDates((door) => places[door]);

        const upTo = minute as EpochMinute;
        const granted = all.filter(({ result, at }) => result === "granted" && at <= upTo);
        const last = (used: readonly EventRow[]) => (used.length === 0 ? undefined : Math.max(...used.map(({ at }) => at)));
        const lastUses = await store.lastUses(upTo);
        const whole = await store.use({ upTo });
        const ofDoor = await store.use({ door: "d1", upTo });
        const ofCards = await store.use({ credentials: ["c1", "e"], upTo });
        for (const credential of credentials) {
          const used = granted.filter((one) => one.credential === credential);
          expect([credential, lastUses.lastUse(credential), whole.lastUse(credential)]).toEqual([credential, last(used), last(used)]);
          expect(ofDoor.lastUse(credential)).toBe(last(used.filter(({ door }) => door === "d1")));
          expect(ofCards.lastUse(credential)).toBe(credential === "c1" || credential === "e" ? last(used) : undefined);
          for (const door of doors) {
            const there = used.filter((one) => one.door === door);
            expect(whole.useOfDoor(credential, door)).toEqual(there.length === 0 ? undefined : { count: there.length, last: last(there) });
          }
        }
        for (const [door, { site, zone }] of Object.entries(places)) {
          const dates = all.filter((one) => one.door === door).map(({ at }) => localTime(zoneOf(zone), at as EpochMinute).date);
          expect(lastUses.eventDates(site)).toEqual([...new Set(dates)].sort((a, b) => a - b));
        }
        expect(lastUses.eventDates("nowhere")).toEqual([]);
        const unknown = await store.unknownCredentials(2);
        const times = credentials.map((credential) => all.filter((one) => one.credential === credential).length).filter((n) => n > 0);
        expect(unknown.map((one) => one.times)).toEqual(times.sort((a, b) => b - a).slice(0, 2));
      }),
      { numRuns: 12 },
    );
  });
});
