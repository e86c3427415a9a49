import { expect, it } from "@jest/globals";
import fc from "fast-check";
import type { LineFilter } from "@/operations/ports/rounds";
import { linesHref, linesOfAddress } from "./lines-address";

it("the address of lines says which, and nothing that it does not understand is left aside", () => {
  const filters: fc.Arbitrary<LineFilter> = fc.record(
    {
      docket: fc.integer({ min: 1, max: 999_999_999 }),
      department: fc.option(fc.string({ minLength: 1, maxLength: 200, unit: "grapheme" }).filter((text) => text.length <= 255)),
      definitions: fc.constant(true as const),
      decision: fc.constantFrom("keep", "withdraw", "narrow", "pass-on", "decided", "undecided"),
      flagged: fc.constant(true as const),
      commented: fc.constant(true as const),
    },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(filters, fc.integer({ min: 1, max: 9999 }), (filter, page) => {
      const query = Object.fromEntries(new URL(linesHref(7, filter, page), "http://x").searchParams);
      expect(linesOfAddress(query)).toEqual({ filter, page });
      expect(linesOfAddress({ ...query, another: "1" })).toBeNull();
    }),
  );
  for (const bad of [{ docket: "0" }, { docket: "1e3" }, { page: "-1" }, { decision: "kept" }, { flagged: "no" }, { department: ["a", "b"] }])
    expect(linesOfAddress(bad)).toBeNull();
});
