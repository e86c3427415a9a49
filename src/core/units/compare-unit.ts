import type { Position } from "../compile/position-index";
import { compareCodePoints } from "../kernel/compare";
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
  const rightsByDoor = new Map(
    memory.lists.map(({ id, rights }) => {
      const byDoor = new Map<string, typeof rights>();
      for (const right of rights) byDoor.set(right.door, [...(byDoor.get(right.door) ?? []), right]);
      return [id, byDoor];
    }),
  );
  const known = new Map<string, TimelineNumber>();
  const heldCards = new Map(memory.cards.map((card) => [card.id, card]));
  const rowsOfCards = sources.rowsAt(unit);
  const differences: UnitDifference[] = [];
  const minutes = new Map<number, number>();
  const lengthOf = (timeline: TimelineNumber): number => {
    let length = minutes.get(timeline);
    if (length === undefined) minutes.set(timeline, (length = totalMinutes(timelines.set(timeline))));
    return length;
  };
  for (const door of sources.doorsOf.get(unit) ?? []) {
    const { id } = door.door;
    const heldDoor = heldDoors.get(id);
    const zone = heldDoor && zoneOf(heldDoor.timeZone);
    const registerFree = timelines.number(freeIn(table.timeframe, door));
    const unitFree = heldDoor && zone ? timelines.number(held.of(heldDoor.free, zone)) : never;
    const ofList = (list: number): TimelineNumber => {
      const key = `${id} ${list}`;
      let timeline = known.get(key);
      if (timeline === undefined) {
        const rights = rightsByDoor.get(list)?.get(id) ?? [];
        known.set(key, (timeline = zone ? timelines.number(held.of(rights, zone)) : never));
      }
      return timeline;
    };
    const heldOf = (card: HeldCard | undefined): TimelineNumber => {
      if (!card) return unitFree;
      const timeline = ofList(card.list);
      const isBounded = (card.from ?? from) > from || (card.until ?? to) < to;
      const inUse = isBounded
        ? timelines.intersect(timeline, timelines.number(range(Math.max(card.from ?? from, from), Math.min(card.until ?? to, to))))
        : timeline;
      return timelines.union(inUse, unitFree);
    };
    const look = (credential: string | undefined, register: TimelineNumber, atUnit: TimelineNumber): void => {
      if (register === atUnit) return;
      const [more, less] = [timelines.subtract(atUnit, register), timelines.subtract(register, atUnit)];
      const [firstMore, firstLess] = [timelines.set(more)[0] ?? Infinity, timelines.set(less)[0] ?? Infinity];
      differences.push({
        door: id,
        credential,
        first: Math.min(firstMore, firstLess) as EpochMinute,
        unit: firstMore < firstLess ? "open" : "closed",
        minutesMore: lengthOf(more),
        minutesLess: lengthOf(less),
        register,
        held: atUnit,
      });
    };
    const seen = new Set<string>();
    const opensOf = (card: Position, row: number): TimelineNumber =>
      timelines.intersect(timelineAt(table.rows, row, door.position), table.liveOfCredential[card] as number);
    for (const { ordinary, cards } of rowsOfCards)
      for (const position of cards) {
        const { id: credential } = sources.credential(position).credential;
        seen.add(credential);
        look(credential, timelines.union(opensOf(position, ordinary), registerFree), heldOf(heldCards.get(credential)));
      }
    // What nobody should open any more, and cards that the register does not know.
    for (const card of memory.cards) if (!seen.has(card.id) && ofList(card.list) !== never) look(card.id, registerFree, heldOf(card));
    look(undefined, registerFree, unitFree);
  }
  return differences.sort((a, b) => compareCodePoints(a.door, b.door) || compareCodePoints(a.credential ?? "", b.credential ?? ""));
}
