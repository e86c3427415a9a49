import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { arbitrarySecond, changed, crowded } from "~/tests/judge/second-facility";
import { withAllLists } from "../facility/facility";
import { compileFacility } from "./compile-facility";
import type { CompiledFacility } from "./compiled-facility";

/** Numbers by the place at which each first comes: of two facilities they may differ, as long as they tell the same things apart. */
function told(numbers: ArrayLike<number>): number[] {
  const first = new Map<number, number>();
  return Array.from(numbers, (number, i) => first.get(number) ?? (first.set(number, i), i));
}

/** What people, cards, memberships and grants say, with numbers of the vocabulary replaced by what they stand for: those of two facilities may differ. */
function said({ objects: { memberships, holders, cards, grants }, vocabulary: { windows, grantKinds } }: CompiledFacility): unknown {
  return {
    memberships: { ...memberships, window: Array.from(memberships.window, (number) => [windows.at(number).outward, windows.at(number).inward]) },
    holders: { ...holders, personalRules: [...told(holders.personalRules), ...Array.from(holders.personalRules, (number) => number === 0)] },
    cards,
    grants: { ...grants, kind: Array.from(grants.kind, (number) => ({ ...grantKinds.at(number), target: undefined })) },
  };
}

describe("a facility compiled after another with which it shares objects", () => {
  it("is laid out just as it would be alone", () => {
    fc.assert(
      fc.property(arbitraryFacility.map(crowded), arbitrarySecond, (first, how) => {
        const draft = withAllLists(changed(first, how));
        const alone = compileFacility(draft);
        const after = compileFacility(draft, compileFacility(withAllLists(first)));
        expect(after.holdings).toEqual(alone.holdings);
        expect(said(after)).toEqual(said(alone));
        expect(after.doors).toEqual(alone.doors);
        for (const [i, { routes }] of alone.cardholders.all().entries()) expect(after.cardholders.at(i)?.routes).toEqual(routes);
        for (const [i, { ownRoutes }] of alone.credentials.all().entries()) expect(after.credentials.at(i)?.ownRoutes).toEqual(ownRoutes);
        for (const { id } of draft.cardholders) expect(after.cardholderById.get(id)).toBe(alone.cardholderById.get(id));
        for (const { id } of draft.credentials) expect(after.credentialById.get(id)).toBe(alone.credentialById.get(id));
      }),
      { numRuns: 500 },
    );
  });

  it("does not read again what is the same object", () => {
    const draft = withAllLists({
      format: "nomade.facility/1",
      name: "n",
      timeZone: "UTC",
      asOf: "2026-03-01T00:00:00Z",
      cardholders: [{ id: "iris", name: "Iris", status: "active", until: "2026-05-01" }],
    });
    const before = compileFacility(draft);
    // The end is written into what is remembered, so that whoever read the object again would find another one.
    before.objects.holders.until[0] = 7;
    expect(compileFacility(draft, before).objects.holders.until[0]).toBe(7);
    expect(compileFacility({ ...draft, cardholders: draft.cardholders.map((one) => ({ ...one })) }, before).objects.holders.until[0]).not.toBe(7);
  });
});
