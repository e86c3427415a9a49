import type { Event } from "../../events/event-book";
import { groupBy } from "../../kernel/compare";
import { eventsByHolder } from "../holder-events";
import { rule, standards } from "../rule";
import type { FlagOf } from "../flag";
import { writtenSecond } from "../written";

/** Index of the first event at or after a second. */
function firstFrom(events: readonly Event[], second: number): number {
  let [low, high] = [0, events.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((events[middle] as Event).second < second) low = middle + 1;
    else high = middle;
  }
  return low;
}

function between(events: readonly Event[], from: number, to: number): readonly Event[] {
  const found: Event[] = [];
  for (let i = firstFrom(events, from); i < events.length && (events[i] as Event).second <= to; i++) found.push(events[i] as Event);
  return found;
}

/** Somebody who was refused, and whom the next one seems to have let in. */
export const letIn = rule({
  key: "let-in",
  base: 24,
  source: standards.practice,
  parameters: { days: 30, seconds: 60, minutes: 30 },
  find: (judged, { days, seconds, minutes }) => {
    const byHolder = eventsByHolder(judged, days, () => true);
    const grantedAt = new Map(
      [
        ...groupBy(
          [...byHolder].flatMap(([, events]) => events.filter(({ granted }) => granted)),
          ({ at }) => at,
        ),
      ].map(([at, events]) => [at, events.sort((a, b) => a.second - b.second)]),
    );
    const flags: FlagOf<"let-in">[] = [];
    for (const [holder, own] of byHolder) {
      const found = new Map<string, { times: number; last: number; readonly by: Set<string> }>();
      for (const refusal of own) {
        const { area, id } = judged.door(refusal.at).door;
        if (refusal.granted || area === undefined) continue;
        const inside = judged.compiled.indexes.of("areas").get(area) ?? -1;
        const isWithin = (place: string | undefined): boolean =>
          place !== undefined && judged.chainOfArea(judged.compiled.indexes.of("areas").get(place) ?? -1).includes(inside);
        const by = new Set<string>();
        for (const opening of between(grantedAt.get(refusal.at) ?? [], refusal.second, refusal.second + seconds)) {
          const other = typeof opening.owner === "number" ? judged.holderOfCredential(opening.owner) : undefined;
          if (!other || other === holder) continue;
          const isFollowed = between(own, opening.second, opening.second + minutes * 60).some(
            (later) =>
              later !== refusal &&
              isWithin(judged.door(later.at).door.from) &&
              !between(own, refusal.second, later.second).some((entry) => entry !== later && entry.granted && judged.isInto(entry.at, inside)),
          );
          if (isFollowed) by.add(other.id);
        }
        if (by.size === 0) continue;
        const known = found.get(id) ?? { times: 0, last: refusal.second, by: new Set<string>() };
        found.set(id, known);
        known.times++;
        known.last = Math.max(known.last, refusal.second);
        for (const one of by) known.by.add(one);
      }
      for (const [door, { times, last, by }] of found)
        flags.push({ subject: { kind: holder.kind, id: holder.id }, distinct: [door], proof: { times, last: writtenSecond(last), by: [...by] } });
    }
    return { flags };
  },
});
