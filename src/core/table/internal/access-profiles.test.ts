import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { arbitrarySecond, changed, crowded } from "~/tests/judge/second-facility";
import { compileFacility } from "../../compile/compile-facility";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { withAllLists } from "../../facility/facility";
import { profilesOf } from "./access-profiles";

/** Numbers by the place at which each first comes: of two facilities they may differ, as long as they tell the same things apart. */
function told(numbers: ArrayLike<number>): number[] {
  const first = new Map<number, number>();
  return Array.from(numbers, (number, i) => first.get(number) ?? (first.set(number, i), i));
}

function profiles(compiled: CompiledFacility): unknown {
  const { entitlement, profileOf, samples, profileEntitlement, profilePresents } = profilesOf(compiled);
  return { entitlement: told(entitlement), profileOf, samples, profileEntitlement: told(profileEntitlement), profilePresents };
}

describe("the profiles of a facility", () => {
  it("are those that it has alone, also where it goes on with the numbers of another that was compiled before", () => {
    fc.assert(
      fc.property(arbitraryFacility.map(crowded), arbitrarySecond, fc.boolean(), (first, how, isKnown) => {
        const second = withAllLists(changed(first, how));
        const before = compileFacility(withAllLists(first));
        if (isKnown) profilesOf(before);
        expect(profiles(compileFacility(second, before))).toEqual(profiles(compileFacility(second)));
      }),
      { numRuns: 500 },
    );
  });

  it("are one for all who have the same, and others for whoever has a PIN, a rule of their own, or a grant more", () => {
    const people = ["a", "b", "c", "d"].map((id) => ({ id, name: id, status: "active" as const, ...(id === "d" && { pinExempt: true }) }));
    const { profileOf } = profilesOf(
      compileFacility(
        withAllLists({
          format: "nomade.facility/1",
          name: "n",
          timeZone: "UTC",
          asOf: "2026-03-01T00:00:00Z",
          cardholders: people,
          credentials: ["a", "b", "c", "d"].map((id) => ({ id, cardholder: id, kind: "card", status: "active", ...(id === "c" && { hasPin: true }) })),
        }),
      ),
    );
    expect([...profileOf]).toEqual([0, 0, 1, 2]);
  });
});
