import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";

/** What an event tells of a card: its id, or a number with a facility code. An id counts before a number. */
export interface ToldCard {
  readonly credential?: string | undefined;
  readonly number?: string | undefined;
  readonly facilityCode?: string | undefined;
}

/** Whose an event is: of a credential, of one of several that it could be of and so of none, or of something unknown. */
export type EventOwner = Position | "one-of-several" | "unknown";

/** A text, or undefined where there is none or it is empty: both count as missing. */
export const present = (text: string | undefined): string | undefined => (text === "" ? undefined : text);

/** One text for what an event tells of a card; equal texts are of the same card. */
export const cardKey = ({ credential, number, facilityCode }: ToldCard): string =>
  JSON.stringify(credential === undefined ? [number ?? "", facilityCode ?? null] : [credential]);

/** What a text of `cardKey` tells. */
export function cardOfKey(key: string): ToldCard {
  const [first = "", code] = JSON.parse(key) as readonly [string, (string | null)?];
  return code === undefined ? { credential: first } : { number: first, ...(code !== null && { facilityCode: code }) };
}

/** Whether a text is one of `cardKey`. */
export function isCardKey(text: string): boolean {
  try {
    const told: unknown = JSON.parse(text);
    if (!Array.isArray(told) || typeof told[0] !== "string" || told.length > 2) return false;
    return cardKey(cardOfKey(text)) === text && (told.length === 1 || told[1] === null || typeof told[1] === "string");
  } catch {
    return false;
  }
}

/** Credentials of a register by what events tell of them. Source: `findings.md`, 2.3. */
export class CardOwners {
  private readonly byNumber = new Map<string, EventOwner>();

  constructor(private readonly compiled: CompiledFacility) {
    compiled.facility.credentials.forEach(({ number, facilityCode }, position) => {
      const key = numberKeyOf(number, facilityCode);
      if (key !== undefined) this.byNumber.set(key, this.byNumber.has(key) ? "one-of-several" : position);
    });
  }

  ownerOf(card: ToldCard): EventOwner {
    return card.credential === undefined ? (this.byNumber.get(cardKey(card)) ?? "unknown") : (this.compiled.credentialById.get(card.credential) ?? "unknown");
  }

  /** All that events tell of a credential: its id, and its number where no other has it. */
  keysOf(credential: Position): readonly string[] {
    const { id, number, facilityCode } = this.compiled.facility.credentials[credential] ?? { id: "" };
    const byNumber = numberKeyOf(number, facilityCode);
    const own = cardKey({ credential: id });
    return byNumber !== undefined && this.byNumber.get(byNumber) === credential ? [own, byNumber] : [own];
  }
}

const known = new WeakMap<CompiledFacility, CardOwners>();

/** The owners of cards in a register, worked out once. */
export function ownersIn(compiled: CompiledFacility): CardOwners {
  const owners = known.get(compiled) ?? new CardOwners(compiled);
  known.set(compiled, owners);
  return owners;
}

const numberKeyOf = (number: string | undefined, facilityCode: string | undefined): string | undefined =>
  present(number) === undefined ? undefined : cardKey({ number, facilityCode: present(facilityCode) });
