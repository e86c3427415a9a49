import type { CompiledFacility } from "../compile/compiled-facility";
import type { Event } from "../events/event-book";
import { groupBy } from "../kernel/compare";
import { ordinary } from "../paths/paths";
import { isFree, reasonAt } from "../paths/verdict";
import type { EpochMinute } from "../time/instant";
import type { Judged } from "./judged";

/** What a document says of an event: the reason of its verdict, `open` too, and whether the door stood free. */
export interface Said {
  readonly reason: string;
  readonly free: boolean;
}

/** What a document says of a credential at a door at a minute; undefined where it lacks the door. */
function saidBy(compiled: CompiledFacility, credential: string, door: string, minute: EpochMinute): Said | undefined {
  const at = compiled.doors[compiled.doorById.get(door) ?? -1];
  if (!at) return undefined;
  const who = compiled.credentialById.get(credential);
  const found = who === undefined ? undefined : compiled.credentials.at(who);
  return {
    reason: found ? reasonAt(compiled, found, at.position, minute, ordinary) : "unknown-credential",
    free: isFree(compiled, at, minute, ordinary),
  };
}

export interface HeldAgainst {
  readonly event: Event;
  /** The last document at or before the event, and the first at or after it; undefined where there is none, or where it lacks the door. */
  readonly before: Said | undefined;
  readonly after: Said | undefined;
}

/**
 * Events of the last days at doors of the register, held against the documents before and after each, by door and the credential that it names or that
 * its number is that of. Source: `findings.md`, "What the events tell".
 */
export function heldAgainstRecord(
  judged: Judged,
  days: number,
  isAsked: (event: Event) => boolean,
): readonly { readonly door: string; readonly credential: string; readonly events: readonly HeldAgainst[] }[] {
  const documents = [...judged.earlier, { compiled: judged.compiled, asOf: judged.asOf }];
  const asked = judged.events.events.flatMap((event) => {
    const credential = event.credential ?? (typeof event.owner === "number" ? judged.lives.credential(event.owner).id : undefined);
    return credential === undefined || event.at === -1 || event.minute < judged.daysBefore(days) || !isAsked(event) ? [] : [{ event, credential }];
  });
  return [...groupBy(asked, ({ event, credential }) => JSON.stringify([event.door, credential])).values()].flatMap((events) => {
    const [first] = events;
    if (!first) return [];
    const { credential } = first;
    const { door } = first.event;
    return [
      {
        door,
        credential,
        events: events.map(({ event }): HeldAgainst => {
          const before = documents.findLast(({ asOf }) => asOf <= event.minute);
          const after = documents.find(({ asOf }) => asOf >= event.minute);
          return {
            event,
            before: before && saidBy(before.compiled, credential, door, event.minute),
            after: after && saidBy(after.compiled, credential, door, event.minute),
          };
        }),
      },
    ];
  });
}
