import { expect, it } from "@jest/globals";
import fc from "fast-check";
import { aboutOfAddress, newRoundHref } from "./round-address";

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
