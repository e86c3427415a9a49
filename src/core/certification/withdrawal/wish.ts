import type { CompiledCredential, CompiledFacility } from "../../compile/compiled-facility";
import type { Ahead } from "../../facility/ahead";
import type { HolderId } from "../../facility/holder-id";
import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { calendarPosition } from "../../paths/paths";
import type { Timeframe } from "../../paths/timeframe";
import { parseCivilDay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import { clip, nothing } from "../../time/intervals";
import type { IntervalSet } from "../../time/intervals";
import { endOfMinutesThrough } from "../../time/zone";

/** What may stay at the doors of a wish: while a schedule is open, and up to and including a date of the facility's zone; with neither, nothing. */
export interface MayStay {
  readonly schedule?: string;
  readonly until?: string;
}

/** Some doors shall no longer open for a holder, but for what may stay. */
export interface DoorsWish {
  readonly holder: HolderId;
  /** Doors, by id. */
  readonly doors: readonly string[];
  readonly stays: MayStay;
  /** Doors that were decided to be kept: what is taken there weighs as much as what is taken from others. */
  readonly kept?: readonly string[];
}

/** A holder with the credentials that are theirs. */
export interface Holder {
  readonly of: HolderId;
  readonly credentials: readonly CompiledCredential[];
}

/** The holder of an id; undefined where there is none, and for a credential that somebody holds. */
export function holderOf(compiled: CompiledFacility, of: HolderId): Holder | undefined {
  const at = (position: Position): CompiledCredential => required(compiled.credentials.at(position), "positions are valid");
  if (of.kind === "cardholder") {
    const position = compiled.cardholderById.get(of.id);
    return position === undefined ? undefined : { of, credentials: required(compiled.cardholders.at(position), "positions are valid").credentials.map(at) };
  }
  const position = compiled.credentialById.get(of.id);
  const credential = position === undefined ? undefined : at(position);
  return credential && !credential.holder ? { of, credentials: [credential] } : undefined;
}

/** What may stay, ready for being asked; `always` lacks both bounds. */
export interface Stay {
  /** Position of the schedule in which access may stay; undefined for none. */
  readonly schedule: Position | undefined;
  /** End of the last date on which access may stay; undefined where none is given, or where it lies after all that is looked at. */
  readonly end: EpochMinute | undefined;
  /** The date as it was given, where it counts. */
  readonly lastDate: string | undefined;
  /** Whether anything may stay at all. */
  readonly isSomething: boolean;
}

/** Reads what may stay; `schedule` must be one of the document's, and `until` a date. */
export function stayOf(compiled: CompiledFacility, { from, to }: Ahead, { schedule, until }: MayStay): Stay {
  const end = until === undefined ? undefined : endOfMinutesThrough(compiled.vocabulary.zone, required(parseCivilDay(until), "the last date is a date"));
  if ((schedule === undefined && end === undefined) || (end !== undefined && end <= from))
    return { schedule: undefined, end: undefined, lastDate: undefined, isSomething: false };
  const counts = end !== undefined && end < to;
  return {
    schedule: schedule === undefined ? undefined : required(compiled.indexes.of("schedules").get(schedule), "the schedule is one of the document's"),
    end: counts ? end : undefined,
    lastDate: counts ? until : undefined,
    isSomething: true,
  };
}

/** The minutes of the reading at which access of a credential may stay at a door. */
export function mayStayAt(
  compiled: CompiledFacility,
  timeframe: Timeframe,
  stay: Stay,
  credential: Pick<CompiledCredential, "holder">,
  door: Position,
): IntervalSet {
  if (!stay.isSomething) return nothing;
  const at = required(compiled.doors[door], "positions are valid");
  const open = stay.schedule === undefined ? timeframe.span : timeframe.schedule(stay.schedule, calendarPosition(credential, at), at.zone);
  return stay.end === undefined ? open : clip(open, -Infinity, stay.end);
}
