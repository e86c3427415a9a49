import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { remembered } from "../kernel/remembered";
import type { EpochMinute } from "../time/instant";
import { localTime, zoneOf } from "../time/zone";
import type { EventDates } from "./coverage";
import { EventBook } from "./event-book";
import type { Evidence, LastByDoor, ToldEvent } from "./event-book";
import { cardKey, cardOfKey, ownersIn } from "./told-card";
import type { CountedPlace } from "./use-counts";

/** Granted uses of a door with a card, added up; seconds since 1970-01-01T00:00Z. */
export interface KeptUse {
  /** What the events tell of the card; see `cardKey`. */
  readonly card: string;
  readonly door: string;
  readonly uses: number;
  readonly last: number;
  readonly lastOutOfHours: number | undefined;
}

/**
 * What is kept of events up to a minute: what was added up of all of them, the dates of each site on which there were any, also later ones; and single ones of
 * the last days, of `singleDays` at least.
 */
export interface KeptEvents {
  readonly uses: Iterable<KeptUse>;
  readonly dates: ReadonlyMap<string, EventDates>;
  readonly single: Iterable<ToldEvent>;
}

/** Uses of some doors with the last one out of hours told anew, by granted events of these doors; where no event tells of one, there was none. */
export async function recountOutOfHours(
  uses: readonly KeptUse[],
  doors: ReadonlySet<string>,
  granted: AsyncIterable<ToldEvent>,
  placeOf: (door: string) => CountedPlace | undefined,
): Promise<KeptUse[]> {
  const keyOf = (card: string, door: string): string => JSON.stringify([card, door]);
  const last = new Map<string, number>();
  for await (const event of granted) {
    if (placeOf(event.door)?.isBusiness(Math.floor(event.second / 60) as EpochMinute) !== false) continue;
    const key = keyOf(cardKey(event), event.door);
    last.set(key, Math.max(last.get(key) ?? -Infinity, event.second));
  }
  return uses.map((use) => (doors.has(use.door) ? { ...use, lastOutOfHours: last.get(keyOf(use.card, use.door)) } : use));
}

/** Single events reach back so many days at least: which of the last dates had any up to a minute is told by them. */
export const singleDays = 4;

const noDoors: LastByDoor = new Map();

function putLater(at: Map<Position, EpochMinute>, door: Position, minute: EpochMinute): void {
  if (minute > (at.get(door) ?? -Infinity)) at.set(door, minute);
}

/** Evidence from what is kept of events; it says what all events up to the minute would say, as far as single ones reach. */
export function keptEvidence(compiled: CompiledFacility, { uses, dates, single }: KeptEvents, upTo: EpochMinute): Evidence {
  const owners = ownersIn(compiled);
  const book = new EventBook(compiled, single, upTo);
  const granted = new Map<Position, EpochMinute>();
  const byDoor = new Map<Position, Map<Position, EpochMinute>>();
  const outOfHours = new Map<Position, Map<Position, EpochMinute>>();
  const at = (of: Map<Position, Map<Position, EpochMinute>>, credential: Position): Map<Position, EpochMinute> => {
    const known = of.get(credential) ?? new Map<Position, EpochMinute>();
    of.set(credential, known);
    return known;
  };
  for (const { card, door, last, lastOutOfHours } of uses) {
    const owner = owners.ownerOf(cardOfKey(card));
    if (typeof owner !== "number") continue;
    const minute = Math.floor(last / 60) as EpochMinute;
    putLater(granted, owner, minute);
    const position = compiled.doorById.get(door);
    if (position === undefined) continue;
    putLater(at(byDoor, owner), position, minute);
    if (lastOutOfHours !== undefined) putLater(at(outOfHours, owner), position, Math.floor(lastOutOfHours / 60) as EpochMinute);
  }
  return {
    events: book.events,
    of: (credential) => book.of(credential),
    lastGrantedOf: (credential) => granted.get(credential),
    lastGrantedByDoor: (credential) => byDoor.get(credential) ?? noDoors,
    lastOutOfHoursByDoor: (credential) => outOfHours.get(credential) ?? noDoors,
    datesAt: remembered((site: string) => {
      const zone = compiled.facility.sites[compiled.indexes.of("sites").get(site) ?? -1]?.timeZone;
      if (zone === undefined) return [];
      // What was counted of the last dates may have come later than what is spoken of.
      const settled = localTime(zoneOf(zone), upTo).date - 2;
      return [...(dates.get(site) ?? []).filter((date) => date < settled), ...book.datesAt(site).filter((date) => date >= settled)];
    }),
  };
}
