import { expect, it } from "@jest/globals";
import fc from "fast-check";
import type { AskedRound } from "./round-address";
import { aboutOfAddress, newRoundAddress, newRoundHref, roundOfAddress } from "./round-address";

it("the address of a round about somebody says whom, whatever their id, and what says nobody is not taken for everybody", () => {
  fc.assert(
    fc.property(fc.constantFrom("cardholder" as const, "credential" as const), fc.string({ minLength: 1, unit: "grapheme" }), (kind, id) => {
      const query = new URL(newRoundHref({ kind, id }), "http://x").searchParams;
      expect(aboutOfAddress(Object.fromEntries(query))).toEqual({ kind, id });
    }),
  );
  expect(aboutOfAddress({})).toBeUndefined();
  expect([aboutOfAddress({ about: "door:1" }), aboutOfAddress({ about: "cardholder:" }), aboutOfAddress({ about: ["cardholder:1", "cardholder:2"] })]).toEqual([
    null,
    null,
    null,
  ]);
});

it("the address of a round says all that it covers, and nothing that it does not understand is left aside", () => {
  const id = fc.string({ minLength: 1, maxLength: 128, unit: "grapheme" }).filter((text) => text.length <= 128);
  const ids = fc.uniqueArray(id, { minLength: 1, maxLength: 4 }).map((all) => [...all].sort());
  const scopes = fc.record(
    {
      about: fc.record({ kind: fc.constantFrom("cardholder" as const, "credential" as const), id }),
      sites: ids,
      definitions: fc.constantFrom("too" as const, "only" as const),
      areas: ids,
      departments: ids,
      types: ids,
      sensitivity: fc.integer({ min: 0, max: 3 }),
      only: fc.constantFrom("findings" as const, "changed" as const),
    },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(scopes, fc.constantFrom("manager" as const, "owner" as const, "both" as const), (scope, by) => {
      const asked: Record<string, string | string[]> = {};
      const { searchParams } = new URL(newRoundAddress({ scope, by }), "http://x");
      for (const name of new Set(searchParams.keys())) {
        const values = searchParams.getAll(name);
        asked[name] = values.length === 1 ? (values[0] ?? "") : values;
      }
      expect(roundOfAddress(asked)).toEqual({ scope, by } satisfies AskedRound);
    }),
  );
  for (const odd of [{ sites: "a" }, { only: "all" }, { by: "me" }, { sensitivity: "9" }, { site: "" }, { by: ["owner", "both"] }, { about: "door:1" }])
    expect([odd, roundOfAddress(odd)]).toEqual([odd, null]);
});
