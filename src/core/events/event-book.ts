import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { localTime } from "../time/zone";
import type { EventDates } from "./coverage";
import { ownersIn } from "./told-card";
import type { EventOwner } from "./told-card";

/** One event as a source tells it; a text that was empty is missing. */
export interface ToldEvent {
  /** Whole seconds since 1970-01-01T00:00Z. */
  readonly second: number;
  readonly door: string;
  readonly credential?: string;
  readonly number?: string;
  readonly facilityCode?: string;
  readonly granted: boolean;
  readonly reason?: string;
  /** Its source's own name for it. */
  readonly id?: string;
}

export interface Event extends ToldEvent {
  readonly minute: EpochMinute;
  /** -1 for a door that is not in the register. */
  readonly at: Position;
  readonly owner: EventOwner;
}

/**
 * What makes two events the same: the id that their source gave them, or else everything that they say. `source` is asked only where events of several are
 * told apart, as ids are their source's own.
 */
export const identityOf = ({ id, second, door, credential, number, facilityCode, granted, reason }: ToldEvent, source = ""): string =>
  JSON.stringify(id === undefined ? [second, door, credential, number, facilityCode, granted, reason].map((part) => part ?? null) : [source, id]);

/** Granted uses by door: of each the minute of the last. */
export type LastByDoor = ReadonlyMap<Position, EpochMinute>;

/** Whether a minute is outside the business hours of a door's site. */
export type OutOfHours = (door: Position, minute: EpochMinute) => boolean;

/** What events tell of a register: whose they are, when each credential was used last, and on which dates each site had some. */
export interface Evidence {
  /** Each once, in the order in which they were told; single ones reach as far back as rules about single ones ask. */
  readonly events: readonly Event[];
  /** Those of a credential, in the same order. */
  readonly of: (credential: Position) => readonly Event[];
  /** Minute of the last granted one of a credential. */
  readonly lastGrantedOf: (credential: Position) => EpochMinute | undefined;
  /** The last granted ones of a credential at doors of the register. */
  readonly lastGrantedByDoor: (credential: Position) => LastByDoor;
  /** The same of those out of hours; what was counted before was counted by the hours that `isOut` tells. */
  readonly lastOutOfHoursByDoor: (credential: Position, isOut: OutOfHours) => LastByDoor;
  /** Local dates of a site on which one of its doors had an event, whatever came of it. */
  readonly datesAt: (site: string) => EventDates;
}

/** The events of one source each once: of the same event told twice the first counts. */
export function* eachOnce(told: Iterable<ToldEvent>): Generator<ToldEvent> {
  const seen = new Set<string>();
  for (const one of told) {
    const same = identityOf(one);
    if (seen.has(same)) continue;
    seen.add(same);
    yield one;
  }
}

/**
 * Events up to a minute, read against a register: whose they are, and where. They are told each once, by whoever knows of which source they are. Source:
 * `findings.md`, 2.
 */
export class EventBook implements Evidence {
  readonly events: readonly Event[];
  private readonly byCredential = new Map<Position, Event[]>();
  private readonly lastGranted = new Map<Position, EpochMinute>();
  private dates: ReadonlyMap<string, EventDates> | undefined;

  constructor(
    private readonly compiled: CompiledFacility,
    told: Iterable<ToldEvent>,
    upTo: EpochMinute,
  ) {
    const owners = ownersIn(compiled);
    const events: Event[] = [];
    for (const one of told) {
      const minute = Math.floor(one.second / 60) as EpochMinute;
      if (minute > upTo) continue;
      const owner = owners.ownerOf(one);
      const event: Event = { ...one, minute, at: compiled.doorById.get(one.door) ?? -1, owner };
      events.push(event);
      if (typeof owner !== "number") continue;
      const own = this.byCredential.get(owner);
      if (own) own.push(event);
      else this.byCredential.set(owner, [event]);
      if (one.granted && minute > (this.lastGranted.get(owner) ?? -Infinity)) this.lastGranted.set(owner, minute);
    }
    this.events = events;
  }

  of(credential: Position): readonly Event[] {
    return this.byCredential.get(credential) ?? [];
  }

  lastGrantedOf(credential: Position): EpochMinute | undefined {
    return this.lastGranted.get(credential);
  }

  lastGrantedByDoor(credential: Position): LastByDoor {
    return this.lastByDoor(credential, () => true);
  }

  lastOutOfHoursByDoor(credential: Position, isOut: OutOfHours): LastByDoor {
    return this.lastByDoor(credential, ({ at, minute }) => isOut(at, minute));
  }

  private lastByDoor(credential: Position, isAsked: (event: Event) => boolean): LastByDoor {
    const last = new Map<Position, EpochMinute>();
    for (const event of this.of(credential))
      if (event.granted && event.at !== -1 && event.minute > (last.get(event.at) ?? -Infinity) && isAsked(event)) last.set(event.at, event.minute);
    return last;
  }

  datesAt(site: string): EventDates {
    return (this.dates ??= this.datesOfSites()).get(site) ?? [];
  }

  private datesOfSites(): ReadonlyMap<string, EventDates> {
    const dates = new Map<string, Set<CivilDay>>();
    for (const { at, minute } of this.events) {
      const place = this.compiled.doors[at];
      if (!place) continue;
      const known = dates.get(place.door.site) ?? new Set<CivilDay>();
      dates.set(place.door.site, known.add(localTime(place.zone, minute).date));
    }
    return new Map([...dates].map(([site, days]) => [site, [...days].sort((a, b) => a - b)]));
  }
}

/** The last of some events by second; undefined for none. */
export const lastOf = (events: readonly Event[]): Event | undefined =>
  events.reduce<Event | undefined>((last, event) => (last === undefined || event.second > last.second ? event : last), undefined);
