import type { CompiledFacility } from "../compile/compiled-facility";
import { ordinary } from "../paths/paths";
import { isFree, reasonAt } from "../paths/verdict";
import type { Reason } from "../paths/verdict";
import type { EpochMinute } from "../time/instant";
import type { ToldEvent } from "./event-book";
import { ownersIn } from "./told-card";

/** What the record says of an event: the reason of its verdict at that minute, and whether the door stood open to anybody. */
export interface RecordSays {
  readonly reason: Reason;
  readonly free: boolean;
}

/** Whether a door did what the record says: it did, it did otherwise, or the record does not tell, as it has no such door or no one card is meant. */
export type Agreement =
  { readonly agrees: "yes" | "no"; readonly says: RecordSays } | { readonly agrees: "cannot-tell"; readonly why: "unknown-door" | "one-of-several" };

/**
 * Holds an event against a register: a door that let somebody in agrees where the record opens it, or it was free then; one that refused agrees where the
 * record does not open it, also where it was free, since nobody needs a card then. An unknown card opens nothing.
 */
export function agreementOf(compiled: CompiledFacility, event: ToldEvent): Agreement {
  const door = compiled.doors[compiled.doorById.get(event.door) ?? -1];
  if (!door) return { agrees: "cannot-tell", why: "unknown-door" };
  const owner = ownersIn(compiled).ownerOf(event);
  if (owner === "one-of-several") return { agrees: "cannot-tell", why: "one-of-several" };
  const minute = Math.floor(event.second / 60) as EpochMinute;
  const credential = owner === "unknown" ? undefined : compiled.credentials.at(owner);
  const says: RecordSays = {
    reason: credential ? reasonAt(compiled, credential, door.position, minute, ordinary) : "unknown-credential",
    free: isFree(compiled, door, minute, ordinary),
  };
  const isOpen = says.reason === "open";
  return { agrees: (event.granted ? isOpen || says.free : !isOpen) ? "yes" : "no", says };
}
