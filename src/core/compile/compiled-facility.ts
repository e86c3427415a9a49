import type { LazyList } from "./lazy-list";
import type { Position, PositionIndex } from "./position-index";
import type { HolidayCalendar } from "../time/calendar";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import type { Schedule } from "../time/schedule";
import type { Window } from "../time/window";
import type { Zone } from "../time/zone";
import type { Facility } from "../facility/facility";
import type { Cardholder, Credential, Door, EntryRule, Grant, GrantTarget } from "../facility/document";
import type { PositionIndexes } from "./position-indexes";
import type { ObjectColumns } from "./object-facts";
import type { Holdings } from "./holdings";
import type { RouteList } from "./route-lists";
import type { SharedObjects } from "./alignment";
import type { Vocabulary } from "./vocabulary";

export interface CompiledDoor {
  readonly position: Position;
  readonly door: Door;
  readonly zone: Zone;
  /** The site's calendar, for the schedules of the door itself. */
  readonly calendar: Position | undefined;
  readonly via: Position | undefined;
  /** The area it leads into and those above it, the nearest first. */
  readonly areas: readonly Position[];
  readonly entry: EntryRule;
  readonly entryRows: readonly { readonly schedule: Position; readonly entry: EntryRule }[];
  readonly unlock: Position | undefined;
}

/** When something is in use: its status is `active` until `inactiveFrom`, and its window holds. */
export interface Life {
  readonly inactiveFrom: EpochMinute;
  readonly window: Window;
}

export interface CompiledCardholder {
  readonly position: Position;
  readonly cardholder: Cardholder;
  readonly life: Life;
  readonly calendar: Position | undefined;
  readonly hours: Position | undefined;
  /** Sites at which the cardholder is known; undefined for all. */
  readonly sites: ReadonlySet<string> | undefined;
  readonly override: "everywhere" | ReadonlySet<string> | undefined;
  readonly credentials: readonly Position[];
  /** How grants come to the cardholder, by whatever way. */
  readonly routes: readonly GivenRoutes[];
}

export interface CompiledCredential {
  readonly position: Position;
  readonly credential: Credential;
  readonly holder: CompiledCardholder | undefined;
  /** The window ends at the earlier of `until` and the usage expiry. */
  readonly life: Life;
  readonly hasPin: boolean;
  /** Routes of grants to the credential itself. */
  readonly ownRoutes: readonly GivenRoutes[];
}

/** A list of routes as somebody has it; the list itself is shared by all who have the same. */
export interface GivenRoutes {
  readonly list: RouteList;
  readonly membership: Position | undefined;
}

/** The way by which a grant gets to a door. */
export interface DoorWay {
  readonly bundle: Position | undefined;
  readonly level: Position | undefined;
  /** Position in the level's rows. */
  readonly row: number | undefined;
  /** Schedule of the row; undefined where the grant opens the door without a level. */
  readonly schedule: Position | undefined;
}

export interface CompiledGrant {
  readonly position: Position;
  readonly grant: Grant;
  readonly blocks: boolean;
  readonly window: Window;
  readonly schedule: Position | undefined;
}

/** A facility laid out for being asked. It never changes; what it works out on demand it keeps. */
export interface CompiledFacility {
  readonly facility: Facility;
  readonly calendars: readonly HolidayCalendar[];
  readonly schedules: readonly Schedule[];
  readonly doors: readonly CompiledDoor[];
  /** People and cards one by one, each laid out when it is first asked for. */
  readonly cardholders: LazyList<CompiledCardholder>;
  readonly credentials: LazyList<CompiledCredential>;
  readonly grants: LazyList<CompiledGrant>;
  /** People, cards, memberships and grants as columns, for resolving everybody at once. */
  readonly objects: ObjectColumns;
  readonly holdings: Holdings;
  /** What it has in common with the facility that was compiled before it. */
  readonly shared: SharedObjects | undefined;
  readonly vocabulary: Vocabulary;
  /** A group, its parent, and so on up. */
  readonly chainOf: (group: Position) => readonly Position[];
  readonly indexes: PositionIndexes;
  readonly doorById: PositionIndex;
  readonly groupById: PositionIndex;
  readonly cardholderById: PositionIndex;
  readonly credentialById: PositionIndex;
  /** The doors that a target covers, each with all its ways. */
  readonly cover: (target: GrantTarget) => ReadonlyMap<Position, readonly DoorWay[]>;
  /** The same of a grant's target. */
  readonly waysOf: (grant: Position) => ReadonlyMap<Position, readonly DoorWay[]>;
  /** The grants that cover a door. */
  readonly grantsCovering: (door: Position) => readonly Position[];
  /** Cardholders in a group or in one below it, by membership or department; windows play no part. */
  readonly cardholdersIn: (group: Position) => ReadonlySet<Position>;
  /** Minutes of `[from, to)` at which a schedule is open with a calendar in a zone; kept by range. */
  readonly timeline: (schedule: Position, calendar: Position | undefined, zone: Zone, from: EpochMinute, to: EpochMinute) => IntervalSet;
}
