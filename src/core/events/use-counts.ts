import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { localTime } from "../time/zone";
import type { Zone } from "../time/zone";
import type { ToldEvent } from "./event-book";
import { cardKey } from "./told-card";

/** Months since year 0, of UTC: what is counted of events is counted by month. */
export const monthOfSecond = (second: number): number => {
  const at = new Date(second * 1000);
  return at.getUTCFullYear() * 12 + at.getUTCMonth();
};

/** The first second of a month. */
export function firstSecondOfMonth(month: number): number {
  const at = new Date(0);
  at.setUTCFullYear(Math.floor(month / 12), month % 12, 1);
  return at.getTime() / 1000;
}

/** Where a door is counted: its site, the site's clock, and when business hours are open there. */
export interface CountedPlace {
  readonly site: string;
  readonly zone: Zone;
  readonly isBusiness: (minute: EpochMinute) => boolean;
}

/** Granted uses of a door with a card in a month; seconds since 1970-01-01T00:00Z. */
export interface DoorUseCount {
  readonly month: number;
  readonly card: string;
  readonly door: string;
  uses: number;
  last: number;
  usesOutOfHours: number;
  /** Undefined where none was out of hours. */
  lastOutOfHours: number | undefined;
}

/** Events of a card in a month, whatever came of them. */
export interface CardCount {
  readonly month: number;
  readonly card: string;
  events: number;
  last: number;
}

/** Events of a door on a local date of its site. */
export interface DateCount {
  readonly month: number;
  readonly door: string;
  readonly site: string;
  readonly date: CivilDay;
  events: number;
}

function counted<T>(counts: Map<string, T>, key: string, first: () => T): T {
  const known = counts.get(key);
  if (known) return known;
  const made = first();
  counts.set(key, made);
  return made;
}

/** What is kept of events beside themselves, added up while they pass by. Source: `findings.md`, 2. */
export class UseCounts {
  private readonly useByKey = new Map<string, DoorUseCount>();
  private readonly cardByKey = new Map<string, CardCount>();
  private readonly dateByKey = new Map<string, DateCount>();
  readonly months = new Set<number>();

  constructor(private readonly placeOf: (door: string) => CountedPlace | undefined) {}

  add(event: ToldEvent): void {
    const { second, door, granted } = event;
    const month = monthOfSecond(second);
    const minute = Math.floor(second / 60) as EpochMinute;
    this.months.add(month);
    const card = cardKey(event);
    const ofCard = counted(this.cardByKey, `${month} ${card}`, () => ({ month, card, events: 0, last: second }));
    ofCard.events++;
    ofCard.last = Math.max(ofCard.last, second);
    const place = this.placeOf(door);
    if (place) {
      const { date } = localTime(place.zone, minute);
      counted(this.dateByKey, `${month} ${date} ${door}`, () => ({ month, door, site: place.site, date, events: 0 })).events++;
    }
    if (!granted) return;
    const use = counted(this.useByKey, `${month} ${JSON.stringify(door)} ${card}`, () => ({
      month,
      card,
      door,
      uses: 0,
      last: second,
      usesOutOfHours: 0,
      lastOutOfHours: undefined,
    }));
    use.uses++;
    use.last = Math.max(use.last, second);
    if (!place || place.isBusiness(minute)) return;
    use.usesOutOfHours++;
    use.lastOutOfHours = Math.max(use.lastOutOfHours ?? second, second);
  }

  /** How many rows there are to keep. */
  get size(): number {
    return this.useByKey.size + this.cardByKey.size + this.dateByKey.size;
  }

  get uses(): Iterable<DoorUseCount> {
    return this.useByKey.values();
  }

  get cards(): Iterable<CardCount> {
    return this.cardByKey.values();
  }

  get dates(): Iterable<DateCount> {
    return this.dateByKey.values();
  }
}
