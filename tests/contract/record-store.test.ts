import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { AskedEntries, RecordStore } from "@/operations/ports/record";
import { ownDatabase } from "../integration/own-database";
import type { OwnDatabase } from "../integration/own-database";
import { memoryRecord } from "./memory-record";

let own: OwnDatabase;
const memory = memoryRecord();
let stores: readonly (readonly [name: string, store: RecordStore])[] = [];

/** Names and texts as people and sources write them, and as somebody writes who wants to find more than is theirs. */
const texts = ["round 1", "round 11", "docket 2", "line 3 of docket 2", "100%", "a_b", "c\\d", "O'Neil", '"quoted"', "Zoë", "x' OR '1'='1", "", "%", "_"];
const whats = ["round.opened", "docket.signed", "sign-in", "draft.changed"];
const dates = ["2026-02-28", "2026-03-01", "2026-03-02", "9999-12-31"];

const text = fc.constantFrom(...texts);
const value = fc.oneof(
  text.map((reason) => ({ reason })),
  text.map((fingerprint) => ({ fingerprint })),
  text.map((key) => [{ list: "cardholders", key, value: null }]),
);
const written = fc.record(
  {
    who: fc.constantFrom("tessa", "Tessa", "dagmar", "a_b"),
    date: fc.constantFrom(...dates.slice(0, 3)),
    what: fc.constantFrom(...whats),
    on: text,
    before: value,
    after: value,
  },
  { requiredKeys: ["who", "date", "what", "on"] },
);

beforeAll(async () => {
  own = await ownDatabase("nomade_record_contract");
  stores = [
    ["MariaDB", own.services.record],
    ["memory", memory],
  ];
  for (const { who, date, what, on, ...values } of fc.sample(written, { numRuns: 120, seed: 20_261_127 }))
    for (const [, store] of stores) await store.append({ signIn: who }, `${date}T10:00:00.000Z`, { what, on, ...values });
});
afterAll(() => own.close());

const both = async <T>(ask: (store: RecordStore) => Promise<T>): Promise<readonly [T, T]> => {
  const [database, fake] = await Promise.all(stores.map(([, store]) => ask(store)));
  return [database as T, fake as T];
};

describe("the record, in the database and in memory", () => {
  it("is the same chain of the same entries", async () => {
    const [database, fake] = await both((store) => store.page({}, 500));
    expect(database.length).toBe(120);
    expect(database).toEqual(fake);
    const [is, was] = await both((store) => store.verify());
    expect(is.sound && was.sound && [is.count, is.head, is.withoutValues]).toEqual(was.sound && [was.count, was.head, was.withoutValues]);
  });

  it("gives the same entries for whatever is asked", async () => {
    // One or two of the things that can be asked at once: with all of them hardly an entry would ever be found.
    const parts: readonly fc.Arbitrary<AskedEntries>[] = [
      fc.integer({ min: 1, max: 130 }).map((before) => ({ before })),
      fc.constantFrom(...whats, "nothing").map((what) => ({ what })),
      fc.record({ text, textAsWhat: fc.subarray(whats) }),
      text.map((one) => ({ text: one })),
      fc.constantFrom("tessa", "Tessa", "dagmar", "a_b", "%").map((who) => ({ who })),
      fc.record({ from: fc.constantFrom(...dates), until: fc.constantFrom(...dates) }),
      fc
        .subarray(
          texts.filter((one) => one !== ""),
          { minLength: 1, maxLength: 3 },
        )
        .map((on) => ({ on })),
      text.map((finding) => ({ finding })),
      text.map((id) => ({ object: { list: "cardholders", id } })),
    ];
    const one = fc.oneof(...parts);
    const asked = fc.oneof(
      one,
      fc.tuple(one, one).map(([a, b]) => ({ ...a, ...b })),
    );
    const found = new Set<number>();
    await fc.assert(
      fc.asyncProperty(asked, fc.integer({ min: 1, max: 60 }), async (given, limit) => {
        const [database, fake] = await both((store) => store.page(given, limit));
        expect([given, database.map(({ number }) => number)]).toEqual([given, fake.map(({ number }) => number)]);
        for (const { number } of database) found.add(number);
      }),
      { numRuns: 300 },
    );
    expect(found.size).toBe(120);
  });

  it("knows the same people, and the same entries from one on", async () => {
    const [database, fake] = await both((store) => store.people());
    expect([...database].sort()).toEqual(fake);
    for (const on of texts)
      for (const what of whats) {
        const [is, was] = await both((store) => store.since(what, on));
        expect([what, on, is]).toEqual([what, on, was]);
      }
  });
});
