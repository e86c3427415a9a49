import type { Event } from "../../events/event-book";
import { compareCodePoints } from "../../kernel/compare";
import { eventsByHolder } from "../holder-events";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";
import { own } from "../settings";
import { writtenSecond } from "../written";

/** Pairs of events by what they are told apart with: how many, and the second of the last. */
class Pairs {
  private readonly found = new Map<string, { readonly distinct: readonly string[]; times: number; last: number }>();

  add(distinct: readonly string[], second: number): void {
    const key = JSON.stringify(distinct);
    const known = this.found.get(key) ?? { distinct, times: 0, last: second };
    this.found.set(key, known);
    known.times++;
    known.last = second;
  }

  all() {
    return [...this.found.values()];
  }
}

/** The least minutes on the way from one site to another. */
function minutesBetween({ settings }: Judged, from: string, to: string, usual: number): number {
  const way = (a: string, b: string): number | undefined => own(own(settings.sites, a)?.minutesTo, b);
  return way(from, to) ?? way(to, from) ?? usual;
}

/** Areas that can be left by a reader: some door leads out of each, and not into it. */
const areasLeftByReader = ({ compiled }: Judged): readonly string[] => [
  ...new Set(compiled.doors.flatMap(({ door }) => (door.from === undefined || door.from === door.area ? [] : [door.from]))),
];

/** Somebody who was at two sites within less than the way takes, or who came into an area twice without leaving it. */
export const twoPlaces = rule({
  key: "two-places",
  base: 30,
  source: standards.practice,
  parameters: { days: 30, minutes: 30, hours: 12 },
  find: (judged, { days, minutes, hours }) => {
    const left = new Set(areasLeftByReader(judged));
    const doorOf = ({ at }: Event) => judged.door(at).door;
    return {
      flags: [...eventsByHolder(judged, days, ({ granted }) => granted)].flatMap(([holder, events]) => {
        const pairs = new Pairs();
        events.forEach((event, i) => {
          const before = events[i - 1];
          if (!before) return;
          const [from, to] = [doorOf(before).site, doorOf(event).site];
          if (from !== to && event.second - before.second < minutesBetween(judged, from, to, minutes) * 60)
            pairs.add(["sites", ...[from, to].sort(compareCodePoints)], event.second);
        });
        const inside = new Map<string, number>();
        for (const event of events) {
          const { area, from } = doorOf(event);
          if (from !== undefined) inside.delete(from);
          if (area === undefined || area === from || !left.has(area)) continue;
          const entered = inside.get(area);
          if (entered !== undefined && event.second - entered <= hours * 3600) pairs.add(["area", area], event.second);
          inside.set(area, event.second);
        }
        return pairs.all().map(({ distinct, times, last }) => ({
          subject: { kind: holder.kind, id: holder.id },
          distinct,
          proof: { times, last: writtenSecond(last) },
        }));
      }),
    };
  },
});
