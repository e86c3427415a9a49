import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { cardOfKey, ownersIn } from "@/core/events/told-card";
import type { ToldCard } from "@/core/events/told-card";
import type { Services } from "../services";

/** A card that events tell of and no credential of the register is; or several may be. */
export interface CardWithoutOwner {
  readonly card: string;
  readonly words: string;
  readonly events: number;
  /** The second of the last of them. */
  readonly last: number;
  readonly isUnknown: boolean;
}

const withoutOwner = new WeakMap<readonly object[], WeakMap<CompiledFacility, readonly CardWithoutOwner[]>>();

/** Those cards, the ones seen most often first. Worked out once for what was counted and a register: events tell of as many cards as there are. */
export async function cardsWithoutOwner({ events: store }: Pick<Services, "events">, compiled: CompiledFacility): Promise<readonly CardWithoutOwner[]> {
  const cards = await store.cards();
  const byRegister = withoutOwner.get(cards) ?? new WeakMap<CompiledFacility, readonly CardWithoutOwner[]>();
  withoutOwner.set(cards, byRegister);
  const known = byRegister.get(compiled);
  if (known) return known;
  const owners = ownersIn(compiled);
  const found = cards.flatMap(({ card, events, last }): CardWithoutOwner[] => {
    const told = cardOfKey(card);
    const owner = owners.ownerOf(told);
    return typeof owner === "number" ? [] : [{ card, words: wordsOfCard(told), events, last, isUnknown: owner === "unknown" }];
  });
  byRegister.set(compiled, found);
  return found;
}

/** What events tell of a card, as people write it. */
export const wordsOfCard = ({ credential, number, facilityCode }: ToldCard): string =>
  credential ?? [facilityCode, number].filter((part) => part !== undefined).join("-");
