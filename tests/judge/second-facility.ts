import fc from "fast-check";
import type { Cardholder, Credential, FacilityDocument, Grant, Group } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import { arbitraryFacility } from "./arbitrary-facility";

const extras = ["n1", "n2", "n3", "n4", "n5"];

/** The same document with more people, each with a card: they are like the first two in turn. */
export function crowded(draft: FacilityDocument): FacilityDocument {
  const like = required(draft.cardholders, "there are people");
  return {
    ...draft,
    cardholders: [...like, ...extras.map((id, i): Cardholder => ({ ...required(like[i % 2], "there are two"), id }))],
    credentials: [...(draft.credentials ?? []), ...extras.map((id): Credential => ({ id: `c-${id}`, cardholder: id, kind: "card", status: "active" }))],
  };
}

/** What becomes of an object in the second document. */
const fate = fc.constantFrom("kept", "kept", "kept", "written anew", "gone" as const);

export interface Second {
  readonly draft: FacilityDocument;
  readonly fates: readonly string[];
  readonly newGroup: number;
  readonly newPeople: readonly number[];
  readonly turned: boolean;
  readonly sameZone: boolean;
  readonly sameDoors: boolean;
}

export const arbitrarySecond: fc.Arbitrary<Second> = fc.record({
  draft: arbitraryFacility,
  fates: fc.array(fate, { minLength: 40, maxLength: 40 }),
  newGroup: fc.integer({ min: -1, max: 3 }),
  newPeople: fc.array(fc.integer({ min: 0, max: 7 }), { maxLength: 3 }),
  turned: fc.boolean(),
  sameZone: fc.boolean(),
  sameDoors: fc.boolean(),
});

function withSomeKept(was: readonly Grant[], others: readonly Grant[], stays: (grant: Grant) => boolean): Grant[] {
  const kept = was.filter(stays);
  const come = others.filter(({ id }) => !kept.some((one) => one.id === id));
  return [...come.slice(0, 2), ...kept, ...come.slice(2)];
}

/** A document that shares some objects with the first, has others in their stead, lacks some and has some more; references hold. */
export function changed(first: FacilityDocument, { draft, fates, newGroup, newPeople, turned, sameZone, sameDoors }: Second): FacilityDocument {
  let next = 0;
  const fateOf = (): string => required(fates[next++ % fates.length], "there are enough");
  const isExtra = (id: string): boolean => extras.includes(id);
  const cardholders = (first.cardholders ?? []).flatMap((was): Cardholder[] => {
    const fated = fateOf();
    if (fated === "kept") return [was];
    return fated === "gone" && isExtra(was.id) ? [] : [{ ...required((draft.cardholders ?? [])[0], "there are people"), id: was.id }];
  });
  newPeople.forEach((at, i) => cardholders.splice(at, 0, { ...required((draft.cardholders ?? [])[1], "there are people"), id: `x${i}` }));
  if (turned) cardholders.reverse();
  const known = new Set(cardholders.map(({ id }) => id));
  const credentials = (first.credentials ?? []).flatMap((was): Credential[] => {
    if (was.cardholder !== undefined && !known.has(was.cardholder)) return [];
    return fateOf() === "kept" ? [was] : [{ ...required((draft.credentials ?? [])[0], "there are cards"), id: was.id, cardholder: "h2" }];
  });
  const groups = [...(first.groups ?? [])];
  if (newGroup >= 0) groups.splice(newGroup, 0, { id: "g0", name: "g0" } satisfies Group);
  const { sites, areas, doors, doorGroups, calendars } = first;
  return {
    ...draft,
    // The doors and all that they refer to but schedules: documents of one layout have their rows in common.
    ...(sameDoors && { sites, areas, doors, doorGroups, calendars }),
    timeZone: sameZone ? first.timeZone : draft.timeZone,
    groups,
    cardholders,
    credentials,
    // Some of the grants stay as they are, some are written anew, some go, and the rest comes before or after them.
    grants: withSomeKept(
      first.grants ?? [],
      draft.grants ?? [],
      ({ to }) => fateOf() === "kept" && (to.credential === undefined || credentials.some(({ id }) => id === to.credential)),
    ),
    memberships: [
      ...(draft.memberships ?? []).slice(0, 1),
      ...(first.memberships ?? []).filter(() => fateOf() === "kept"),
      ...(draft.memberships ?? []).slice(1),
    ],
  };
}
