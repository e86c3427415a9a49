import { compareCodePoints, groupBy } from "../kernel/compare";
import { freeIn } from "../paths/timetable";
import { timelineAt } from "../table/access-rows";
import type { TimelineNumber } from "../table/timelines";
import { never } from "../table/timelines";
import type { EpochMinute } from "../time/instant";
import { range, totalMinutes } from "../time/intervals";
import { zoneOf } from "../time/zone";
import { HeldTimelines } from "./held-times";
import type { HeldCard, UnitMemory } from "./unit-memory";
import type { UnitSources } from "./unit-sources";

/** A door at which a unit decides of a credential otherwise than the register says. Timelines are numbers in those of the register's table. */
export interface UnitDifference {
  readonly door: string;
  /** Undefined where the door stands free otherwise: that goes for anybody. */
  readonly credential: string | undefined;
  /** The first minute at which it does, and what the unit does then. */
  readonly first: EpochMinute;
  readonly unit: "open" | "closed";
  /** Minutes at which it opens and should not, and at which it should and does not. */
  readonly minutesMore: number;
  readonly minutesLess: number;
  /** In the register: opens or stands free; and at the unit. */
  readonly register: TimelineNumber;
  readonly held: TimelineNumber;
}

/**
 * Compares what a unit holds with the register, by access: every credential that opens a door of the unit by one or the other, in every minute ahead, where a
 * door that stands free is open. Sorted by door, then credential. Cost: each distinct pair of what is held and what should be is looked at once.
 */
export function compareUnit(sources: UnitSources, unit: string, memory: UnitMemory): readonly UnitDifference[] {
  const { table, from, to } = sources;
  const { timelines } = table;
  const held = new HeldTimelines(memory, from, to);
  const heldDoors = new Map(memory.doors.map((door) => [door.id, door]));
  const rightsByDoor = new Map(memory.lists.map(({ id, rights }) => [id, groupBy(rights, ({ door }) => door)]));
  const differences: UnitDifference[] = [];
  const minutes = new Map<number, number>();
  const lengthOf = (timeline: TimelineNumber): number => {
    let length = minutes.get(timeline);
    if (length === undefined) minutes.set(timeline, (length = totalMinutes(timelines.set(timeline))));
    return length;
  };
  /** When the unit takes a card at all; undefined where it always does. */
  const inUse = ({ from: begins = from, until = to }: HeldCard): TimelineNumber | undefined =>
    begins > from || until < to ? timelines.number(range(Math.max(begins, from), Math.min(until, to))) : undefined;
  const heldCards = new Map(memory.cards.map((card) => [card.id, { card, inUse: inUse(card) }]));
  const rowsOfCards = sources.rowsAt(unit).map(({ ordinary, cards }) => ({
    ordinary,
    cards: cards.map((position) => {
      const id = sources.idOf(position);
      return { id, live: table.liveOfCredential[position] as number, held: heldCards.get(id) };
    }),
  }));
  const known = new Set(rowsOfCards.flatMap(({ cards }) => cards.map(({ id }) => id)));
  const strangers = [...heldCards.values()].filter(({ card }) => !known.has(card.id));
  for (const at of sources.doorsOf.get(unit) ?? []) {
    const { id } = at.door;
    const heldDoor = heldDoors.get(id);
    const zone = heldDoor && zoneOf(heldDoor.timeZone);
    const registerFree = timelines.number(freeIn(table.timeframe, at));
    const unitFree = heldDoor && zone ? timelines.number(held.of(heldDoor.free, zone)) : never;
    const lists = new Map<number, TimelineNumber>();
    const ofList = (list: number): TimelineNumber => {
      let timeline = lists.get(list);
      if (timeline === undefined) lists.set(list, (timeline = zone ? timelines.number(held.of(rightsByDoor.get(list)?.get(id) ?? [], zone)) : never));
      return timeline;
    };
    const heldOf = (one: { readonly card: HeldCard; readonly inUse: TimelineNumber | undefined } | undefined): TimelineNumber => {
      if (!one) return unitFree;
      const timeline = ofList(one.card.list);
      return timelines.union(one.inUse === undefined ? timeline : timelines.intersect(timeline, one.inUse), unitFree);
    };
    const look = (credential: string | undefined, register: TimelineNumber, atUnit: TimelineNumber): void => {
      if (register === atUnit) return;
      const [above, below] = [timelines.subtract(atUnit, register), timelines.subtract(register, atUnit)];
      const [firstMore, firstLess] = [timelines.set(above)[0] ?? Infinity, timelines.set(below)[0] ?? Infinity];
      differences.push({
        door: id,
        credential,
        first: Math.min(firstMore, firstLess) as EpochMinute,
        unit: firstMore < firstLess ? "open" : "closed",
        minutesMore: lengthOf(above),
        minutesLess: lengthOf(below),
        register,
        held: atUnit,
      });
    };
    for (const { ordinary, cards } of rowsOfCards) {
      const row = timelineAt(table.rows, ordinary, at.position);
      for (const one of cards) look(one.id, timelines.union(timelines.intersect(row, one.live), registerFree), heldOf(one.held));
    }
    // What nobody should open any more, and cards that the register does not know.
    for (const one of strangers) if (ofList(one.card.list) !== never) look(one.card.id, registerFree, heldOf(one));
    look(undefined, registerFree, unitFree);
  }
  return differences.sort((a, b) => compareCodePoints(a.door, b.door) || compareCodePoints(a.credential ?? "", b.credential ?? ""));
}
