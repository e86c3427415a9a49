import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { NumberOf } from "../kernel/brand";
import { unreachable } from "../kernel/invariant";
import type { EpochMinute } from "../time/instant";
import type { CardholderType, Who } from "./question";

/** Who or what opens doors: the position of a cardholder, with all their cards; or, of a card by itself, -1 less its position. */
export type HolderNumber = NumberOf<"holder">;

export const cardholderAsHolder = (cardholder: Position): HolderNumber => cardholder as number;
export const cardByItself = (credential: Position): HolderNumber => -1 - credential;

/** What a holder's number stands for. */
export type Bearer = { readonly cardholder: Position } | { readonly card: Position };

export const bearerOf = (holder: HolderNumber): Bearer => (holder < 0 ? { card: -1 - holder } : { cardholder: holder as number });

/** Everybody who can open anything: cardholders, and cards that nobody is written down for. */
function everybody({ objects: { cards, holders } }: CompiledFacility): HolderNumber[] {
  const found = Array.from(holders.department, (_department, holder) => cardholderAsHolder(holder));
  cards.holderOf.forEach((holder, credential) => {
    if (holder === -1) found.push(cardByItself(credential));
  });
  return found;
}

/** Cardholders of some groups, by department or by a membership that is not over before `from`. */
function membersOf(
  { objects: { holders, memberships }, vocabulary: { windows } }: CompiledFacility,
  groups: ReadonlySet<Position>,
  from: EpochMinute,
): HolderNumber[] {
  const found: HolderNumber[] = [];
  holders.department.forEach((department, holder) => {
    if (groups.has(department)) found.push(cardholderAsHolder(holder));
  });
  memberships.groupOf.forEach((group, m) => {
    if (groups.has(group) && windows.at(memberships.window[m] as number).outward.until > from) found.push(memberships.memberOf[m] as HolderNumber);
  });
  return found;
}

/** Some groups and all groups below them. */
function withThoseBelow({ facility: { groups }, chainOf }: CompiledFacility, above: ReadonlySet<Position>): Set<Position> {
  return new Set(groups.map((_group, position) => position).filter((position) => chainOf(position).some((group) => above.has(group))));
}

/** Whoever is given a level or a bundle by a grant that is not over before `from`, in whatever way; blocks of it give nothing. */
function holdersOf(compiled: CompiledFacility, who: { readonly kind: "level" | "bundle"; readonly id: string }, from: EpochMinute): HolderNumber[] {
  const { facility, objects, vocabulary } = compiled;
  const bundles = new Set(who.kind === "bundle" ? [who.id] : facility.bundles.filter(({ levels }) => levels?.includes(who.id)).map(({ id }) => id));
  const { toCardholder, toCredential, toGroup, kind } = objects.grants;
  const found: HolderNumber[] = [];
  const groups = new Set<Position>();
  for (let grant = 0; grant < kind.length; grant++) {
    const { open, blocks, window } = vocabulary.grantKinds.at(kind[grant] as number);
    const gives = (who.kind === "level" && open.level === who.id) || (open.bundle !== undefined && bundles.has(open.bundle));
    if (!gives || blocks || window.until <= from) continue;
    if (toCardholder[grant] !== -1) found.push(toCardholder[grant] as HolderNumber);
    else if (toGroup[grant] !== -1) groups.add(toGroup[grant] as Position);
    else {
      const credential = toCredential[grant] as Position;
      const holder = objects.cards.holderOf[credential] as number;
      found.push(holder === -1 ? cardByItself(credential) : holder);
    }
  }
  return [...found, ...membersOf(compiled, withThoseBelow(compiled, groups), from)];
}

const typeOf = (compiled: CompiledFacility, holder: Position): CardholderType => compiled.facility.cardholders[holder]?.type ?? "employee";

/**
 * Whom a question is about, each once. Members of a group and holders of a level are those whose membership or grant is not over before `from`: a
 * minute of UTC, the first that is asked about. Empty where the register does not hold them.
 */
export function askedPeople(compiled: CompiledFacility, who: Who | undefined, from: EpochMinute): readonly HolderNumber[] {
  if (who === undefined) return everybody(compiled);
  switch (who.kind) {
    case "everybody":
      return everybody(compiled);
    case "cardholder": {
      const holder = compiled.cardholderById.get(who.id);
      return holder === undefined ? [] : [cardholderAsHolder(holder)];
    }
    case "credential": {
      const credential = compiled.credentialById.get(who.id);
      return credential === undefined ? [] : [cardByItself(credential)];
    }
    case "group": {
      const group = compiled.groupById.get(who.id);
      return group === undefined ? [] : [...new Set(membersOf(compiled, withThoseBelow(compiled, new Set([group])), from))];
    }
    case "level":
    case "bundle":
      return [...new Set(holdersOf(compiled, { kind: who.kind, id: who.id }, from))];
    case "type":
      return compiled.facility.cardholders.flatMap((_cardholder, holder) => (typeOf(compiled, holder) === who.type ? [cardholderAsHolder(holder)] : []));
    default:
      return unreachable(who);
  }
}

const lists = { cardholder: "cardholders", credential: "credentials", group: "groups", level: "levels", bundle: "bundles" } as const;

/** Whether the register holds whom a question is about. */
export const areThere = (compiled: CompiledFacility, who: Who): boolean =>
  who.kind === "everybody" || who.kind === "type" || compiled.indexes.of(lists[who.kind]).get(who.id) !== undefined;
