import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { localTime } from "../time/zone";
import type { EventDates } from "./coverage";

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

/** Whose an event is: of a credential, of one of several that it could be of and so of none, or of something unknown. */
export type EventOwner = Position | "one-of-several" | "unknown";

export interface Event extends ToldEvent {
  readonly minute: EpochMinute;
  /** -1 for a door that is not in the register. */
  readonly at: Position;
  readonly owner: EventOwner;
}

/** What makes two events of one source the same: its own id, or else everything that they say. */
const identity = ({ id, second, door, credential, number, facilityCode, granted, reason }: ToldEvent): string =>
  JSON.stringify(id === undefined ? [second, door, credential, number, facilityCode, granted, reason].map((part) => part ?? null) : [id]);

/** A text, or undefined where there is none or it is empty: both count as missing. */
export const present = (text: string | undefined): string | undefined => (text === "" ? undefined : text);

const numberKey = (number: string, facilityCode: string | undefined): string => JSON.stringify([number, facilityCode ?? null]);

/** Credentials by number and facility code; where several have both, none of them is meant. */
function byNumber({ facility }: CompiledFacility): ReadonlyMap<string, EventOwner> {
  const owners = new Map<string, EventOwner>();
  facility.credentials.forEach((credential, position) => {
    const number = present(credential.number);
    if (number === undefined) return;
    const key = numberKey(number, present(credential.facilityCode));
    owners.set(key, owners.has(key) ? "one-of-several" : position);
  });
  return owners;
}

/** What events tell of a register: whose they are, when each credential was used last, and on which dates each site had some. */
export interface Evidence {
  /** Each once, in the order in which they were told. */
  readonly events: readonly Event[];
  /** Those of a credential, in the same order. */
  readonly of: (credential: Position) => readonly Event[];
  /** Minute of the last granted one of a credential. */
  readonly lastGrantedOf: (credential: Position) => EpochMinute | undefined;
  /** Local dates of a site on which one of its doors had an event, whatever came of it. */
  readonly datesAt: (site: string) => EventDates;
}

/**
 * The events of one source up to a minute, each once, read against a register: whose they are, and where. Of the same event told twice the first
 * counts, also where it is too late to count. Source: `findings.md`, 2.
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
    const seen = new Set<string>();
    const owners = byNumber(compiled);
    const events: Event[] = [];
    for (const one of told) {
      const same = identity(one);
      if (seen.has(same)) continue;
      seen.add(same);
      const minute = Math.floor(one.second / 60) as EpochMinute;
      if (minute > upTo) continue;
      const owner: EventOwner =
        one.credential !== undefined
          ? (compiled.credentialById.get(one.credential) ?? "unknown")
          : (owners.get(numberKey(one.number ?? "", one.facilityCode)) ?? "unknown");
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
