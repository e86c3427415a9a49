import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import type { Cardholder, Credential, FacilityDraft, Grant, Group } from "../facility/draft";
import { withAllLists } from "../facility/facility";
import { present } from "../kernel/invariant";
import { compileFacility } from "./compile-facility";
import type { CompiledFacility } from "./compiled-facility";

const extras = ["n1", "n2", "n3", "n4", "n5"];

/** The same document with more people, each with a card: they are like the first two in turn. */
function crowded(draft: FacilityDraft): FacilityDraft {
  const like = present(draft.cardholders, "there are people");
  return {
    ...draft,
    cardholders: [...like, ...extras.map((id, i): Cardholder => ({ ...present(like[i % 2], "there are two"), id }))],
    credentials: [...(draft.credentials ?? []), ...extras.map((id): Credential => ({ id: `c-${id}`, cardholder: id, kind: "card", status: "active" }))],
  };
}

/** What becomes of an object in the second document. */
const fate = fc.constantFrom("kept", "kept", "kept", "written anew", "gone" as const);

interface Second {
  readonly draft: FacilityDraft;
  readonly fates: readonly string[];
  readonly newGroup: number;
  readonly newPeople: readonly number[];
  readonly turned: boolean;
  readonly sameZone: boolean;
}

const second: fc.Arbitrary<Second> = fc.record({
  draft: arbitraryFacility,
  fates: fc.array(fate, { minLength: 40, maxLength: 40 }),
  newGroup: fc.integer({ min: -1, max: 3 }),
  newPeople: fc.array(fc.integer({ min: 0, max: 7 }), { maxLength: 3 }),
  turned: fc.boolean(),
  sameZone: fc.boolean(),
});

function withSomeKept(was: readonly Grant[], others: readonly Grant[], stays: (grant: Grant) => boolean): Grant[] {
  const kept = was.filter(stays);
  const come = others.filter(({ id }) => !kept.some((one) => one.id === id));
  return [...come.slice(0, 2), ...kept, ...come.slice(2)];
}

/** A document that shares some objects with the first, has others in their stead, lacks some and has some more; references hold. */
function changed(first: FacilityDraft, { draft, fates, newGroup, newPeople, turned, sameZone }: Second): FacilityDraft {
  let next = 0;
  const fateOf = (): string => present(fates[next++ % fates.length], "there are enough");
  const isExtra = (id: string): boolean => extras.includes(id);
  const cardholders = (first.cardholders ?? []).flatMap((was): Cardholder[] => {
    const fated = fateOf();
    if (fated === "kept") return [was];
    return fated === "gone" && isExtra(was.id) ? [] : [{ ...present((draft.cardholders ?? [])[0], "there are people"), id: was.id }];
  });
  newPeople.forEach((at, i) => cardholders.splice(at, 0, { ...present((draft.cardholders ?? [])[1], "there are people"), id: `x${i}` }));
  if (turned) cardholders.reverse();
  const known = new Set(cardholders.map(({ id }) => id));
  const credentials = (first.credentials ?? []).flatMap((was): Credential[] => {
    if (was.cardholder !== undefined && !known.has(was.cardholder)) return [];
    return fateOf() === "kept" ? [was] : [{ ...present((draft.credentials ?? [])[0], "there are cards"), id: was.id, cardholder: "h2" }];
  });
  const groups = [...(first.groups ?? [])];
  if (newGroup >= 0) groups.splice(newGroup, 0, { id: "g0", name: "g0" } satisfies Group);
  return {
    ...draft,
    timeZone: sameZone ? first.timeZone : draft.timeZone,
    groups,
    cardholders,
    credentials,
    // Some of the grants stay as they are, some are written anew, some go, and the rest comes before or after them.
    grants: withSomeKept(first.grants ?? [], draft.grants ?? [], ({ to }) => fateOf() === "kept" && (to.credential === undefined || credentials.some(({ id }) => id === to.credential))),
    memberships: [...(draft.memberships ?? []).slice(0, 1), ...(first.memberships ?? []).filter(() => fateOf() === "kept"), ...(draft.memberships ?? []).slice(1)],
  };
}

/** Numbers by the place at which each first comes: of two facilities they may differ, as long as they tell the same things apart. */
function told(numbers: ArrayLike<number>): number[] {
  const first = new Map<number, number>();
  return Array.from(numbers, (number, i) => first.get(number) ?? (first.set(number, i), i));
}

/** The columns, with numbers that may differ replaced by what they tell apart. */
function columnsOf({ columns: { numbers, membershipGives, combination, profileCombination, ...columns } }: CompiledFacility): unknown {
  return { ...columns, gives: Array.from(membershipGives, (given) => numbers.givenBy(given).group), combination: told(combination), profileCombination: told(profileCombination) };
}

/** What people, cards, memberships and grants say, with numbers of the vocabulary replaced by what they stand for: those of two facilities may differ. */
function said({ objects: { memberships, holders, cards, grants }, vocabulary: { windows, grantKinds } }: CompiledFacility): unknown {
  return {
    memberships: { ...memberships, window: Array.from(memberships.window, (number) => [windows.at(number).outward, windows.at(number).inward]) },
    holders: { ...holders, peculiarity: [...told(holders.peculiarity), ...Array.from(holders.peculiarity, (number) => number === 0)] },
    cards,
    grants: { ...grants, kind: Array.from(grants.kind, (number) => ({ ...grantKinds.at(number), target: undefined })) },
  };
}

describe("a facility compiled after another with which it shares objects", () => {
  it("is laid out just as it would be alone", () => {
    fc.assert(
      fc.property(arbitraryFacility.map(crowded), second, (first, how) => {
        const draft = withAllLists(changed(first, how));
        const alone = compileFacility(draft);
        const after = compileFacility(draft, compileFacility(withAllLists(first)));
        expect(columnsOf(after)).toEqual(columnsOf(alone));
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
    const draft = withAllLists({ format: "nomade.facility/1", name: "n", timeZone: "UTC", asOf: "2026-03-01T00:00:00Z", cardholders: [{ id: "iris", name: "Iris", status: "active", until: "2026-05-01" }] });
    const before = compileFacility(draft);
    // The end is written into what is kept, so that whoever read the object again would find another one.
    before.objects.holders.until[0] = 7;
    expect(compileFacility(draft, before).objects.holders.until[0]).toBe(7);
    expect(compileFacility({ ...draft, cardholders: draft.cardholders.map((one) => ({ ...one })) }, before).objects.holders.until[0]).not.toBe(7);
  });
});
