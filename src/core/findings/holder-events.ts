import type { Event } from "../events/event-book";
import { compareCodePoints } from "../kernel/compare";
import type { Holder, Judged } from "./judged";

/** Events of holders at doors of the register within so many days, each holder's in order of second, door and credential. */
export function eventsByHolder(judged: Judged, days: number, isAsked: (event: Event) => boolean): ReadonlyMap<Holder, readonly Event[]> {
  const limit = judged.daysBefore(days);
  const byHolder = new Map<Holder, Event[]>();
  for (const event of judged.events.events) {
    if (typeof event.owner !== "number" || event.at === -1 || event.minute < limit || !isAsked(event)) continue;
    const holder = judged.holderOfCredential(event.owner);
    const known = byHolder.get(holder);
    if (known) known.push(event);
    else byHolder.set(holder, [event]);
  }
  const credentialOf = ({ owner }: Event): string => (typeof owner === "number" ? judged.lives.credential(owner).id : "");
  for (const events of byHolder.values())
    events.sort((a, b) => a.second - b.second || compareCodePoints(a.door, b.door) || compareCodePoints(credentialOf(a), credentialOf(b)));
  return byHolder;
}
