import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { findingsHref, findingsOfAddress } from "./findings-address";
import type { FindingsAddress } from "./findings-address";

const read = (href: string) => findingsOfAddress(Object.fromEntries(new URL(href, "http://nomade").searchParams));

describe("the address of the findings", () => {
  it("holds all that is asked, whatever ids are called", () => {
    const maybe = <T>(values: fc.Arbitrary<T>) => fc.option(values, { nil: undefined });
    const address: fc.Arbitrary<FindingsAddress> = fc.record({
      rule: maybe(fc.constantFrom("unused" as const, "leaver-live" as const)),
      life: maybe(fc.constantFrom("new" as const, "still" as const, "back" as const, "gone" as const)),
      waived: maybe(fc.constantFrom("only" as const, "with" as const)),
      isMine: maybe(fc.constant(true as const)),
      by: fc.constant(undefined),
      key: fc.constant(undefined),
      about: maybe(fc.record({ kind: fc.constantFrom("door", "area"), id: fc.string({ unit: "grapheme" }) })),
      from: maybe(fc.nat()),
      fingerprint: maybe(fc.string({ unit: "grapheme" })),
      past: maybe(fc.integer({ min: 1, max: 1e6 })),
    });
    const group = fc.oneof(
      fc.record({ by: maybe(fc.constantFrom("rule" as const, "area" as const)), key: fc.constant(undefined) }),
      fc.record({ by: fc.constantFrom("area" as const, "manager" as const, "department" as const), key: fc.string({ unit: "grapheme" }) }),
      fc.record({ by: fc.constant("rule" as const), key: fc.constantFrom("unused", "leaver-live") }),
      fc.record({ by: fc.constant("cardholder" as const), key: fc.string({ unit: "grapheme" }).map((id) => `door ${id}`) }),
    );
    fc.assert(
      fc.property(address, group, (others, of) => {
        const asked = { ...others, ...of };
        expect(read(findingsHref(asked))).toEqual({ asked, notUnderstood: [] });
      }),
    );
  });

  it("names what is not understood in it", () => {
    expect(read("/findings?rule=nothing&life=dead&snapshot=-1&x=1&by=rule").notUnderstood).toEqual(["rule=nothing", "life=dead", "snapshot=-1", "x=1"]);
    // A group of no grouping, of a rule that there is not, or of nobody that can be.
    for (const wrong of [
      "key=unused",
      "by=rule&key=nothing",
      "by=rule&key=toString",
      "by=cardholder&key=10000-01-01",
      "about=nothing:1",
      "toString=1",
      "isMine=yes",
    ])
      expect(read(`/findings?${wrong}`).notUnderstood).toEqual([wrong.split("&").at(-1)]);
  });
});
