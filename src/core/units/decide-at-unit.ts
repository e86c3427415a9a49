import { unreachable } from "../kernel/invariant";
import type { EntryRule } from "../facility/document";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { Zone } from "../time/zone";
import { localTime, zoneOf } from "../time/zone";
import { heldRow, kindsByDate } from "./held-times";
import type { HeldCard, HeldDoor, HeldRight, HeldSet, HeldTimes, UnitMemory } from "./unit-memory";

/** What is presented at a reader: a card by its number or by its id, a PIN, or both. Whether a PIN is right only the unit can tell. */
export interface Presented {
  readonly door: string;
  readonly card?: string;
  readonly number?: string;
  readonly facilityCode?: string;
  readonly pin?: "right" | "wrong" | "duress";
}

/** Why a unit lets somebody in or not, in its own words. */
export const unitReasons = [
  "right",
  "free",
  "unknown-door",
  "unknown-card",
  "not-valid-yet",
  "no-longer-valid",
  "no-right",
  "out-of-hours",
  "lockdown",
  "card-wanted",
  "pin-wanted",
  "pin-wrong",
  "passback",
] as const;
export type UnitReason = (typeof unitReasons)[number];

export interface UnitDecision {
  readonly granted: boolean;
  readonly reason: UnitReason;
  /** The card that was recognised. */
  readonly card?: HeldCard;
  /** It was opened under duress: to be told, silently. */
  readonly isDuress?: true;
}

const cardKey = (number: string, facilityCode: string | undefined): string => `${facilityCode ?? ""} ${number}`;

/** A memory made ready for single decisions. */
export class ReadyMemory {
  readonly doors: ReadonlyMap<string, HeldDoor>;
  readonly cards: ReadonlyMap<string, HeldCard>;
  private readonly byNumber = new Map<string, HeldCard>();
  private readonly lists: ReadonlyMap<number, readonly HeldRight[]>;
  private readonly sets: ReadonlyMap<number, HeldSet>;
  private readonly kinds: ReadonlyMap<CivilDay, number>;

  constructor(memory: UnitMemory) {
    this.doors = new Map(memory.doors.map((door) => [door.id, door]));
    this.cards = new Map(memory.cards.map((card) => [card.id, card]));
    for (const card of memory.cards) {
      const key = card.number === undefined ? undefined : cardKey(card.number, card.facilityCode);
      // Of several with one number the first is known: the unit cannot tell them apart.
      if (key !== undefined && !this.byNumber.has(key)) this.byNumber.set(key, card);
    }
    this.lists = new Map(memory.lists.map(({ id, rights }) => [id, rights]));
    this.sets = new Map(memory.sets.map((set) => [set.id, set]));
    this.kinds = kindsByDate(memory.dates);
  }

  cardOf({ card, number, facilityCode }: Presented): HeldCard | undefined {
    return card !== undefined ? this.cards.get(card) : number === undefined ? undefined : this.byNumber.get(cardKey(number, facilityCode));
  }

  /** A list that did not arrive gives nothing. */
  rightsOf(card: HeldCard, door: string): readonly HeldRight[] {
    return (this.lists.get(card.list) ?? []).filter((right) => right.door === door);
  }

  holds(times: readonly HeldTimes[], zone: Zone, minute: EpochMinute): boolean {
    const { date, minuteOfDay } = localTime(zone, minute);
    return times.some(({ set: id, from = -Infinity, until = Infinity }) => {
      const set = this.sets.get(id);
      if (!set || minute < from || minute >= until) return false;
      return heldRow(set, this.kinds.get(date), date).some(([begins, ends]) => begins <= minuteOfDay && minuteOfDay < ends);
    });
  }

  entryAt({ entry, rules }: HeldDoor, zone: Zone, minute: EpochMinute): EntryRule {
    return rules.find(({ times }) => this.holds(times, zone, minute))?.entry ?? entry;
  }

  /** Whether a door stands open to anybody; as if whoever starts the day had come in. */
  isFree({ free }: HeldDoor, zone: Zone, minute: EpochMinute, lockdown: boolean): boolean {
    return !lockdown && this.holds(free, zone, minute);
  }
}

/** What keeps a presented card from meeting the entry rule; undefined where it meets it. */
function unmet(entry: EntryRule, card: HeldCard, pin: Presented["pin"]): UnitReason | undefined {
  const hasPin = pin === undefined ? "pin-wanted" : pin === "wrong" || card.hasPin !== true ? "pin-wrong" : undefined;
  switch (entry) {
    case "card":
      return card.isPin ? "card-wanted" : undefined;
    case "pin":
      return hasPin;
    case "card+pin":
      return card.isPin ? "card-wanted" : card.pinExempt ? undefined : hasPin;
    case "card-or-pin":
      return card.isPin ? hasPin : undefined;
    default:
      return unreachable(entry);
  }
}

/**
 * What a unit decides of what is presented at a minute of its own clock, from what it holds and nothing else. Must give what `opens` gives for a credential
 * that shows all that it has, wherever the unit could hold all that the register says.
 */
export function decideAtUnit(memory: ReadyMemory, presented: Presented, minute: EpochMinute, lockdown: boolean): UnitDecision {
  const door = memory.doors.get(presented.door);
  if (!door) return { granted: false, reason: "unknown-door" };
  const card = memory.cardOf(presented);
  if (!card) return { granted: false, reason: "unknown-card" };
  const refused = (reason: UnitReason): UnitDecision => ({ granted: false, reason, card });
  if (card.from !== undefined && minute < card.from) return refused("not-valid-yet");
  if (card.until !== undefined && minute >= card.until) return refused("no-longer-valid");
  const rights = memory.rightsOf(card, door.id);
  if (rights.length === 0) return refused("no-right");
  const zone = zoneOf(door.timeZone);
  const lacking = unmet(memory.entryAt(door, zone, minute), card, presented.pin);
  if (lacking) return refused(lacking);
  if (!memory.holds(rights, zone, minute)) return refused("out-of-hours");
  if (
    lockdown &&
    !memory.holds(
      rights.filter(({ inLockdown }) => inLockdown),
      zone,
      minute,
    )
  )
    return refused("lockdown");
  return { granted: true, reason: "right", card, ...(presented.pin === "duress" && { isDuress: true as const }) };
}
