import { canonicalJson } from "../facility/canonical-json";
import { compareCodePoints } from "../kernel/compare";
import { roomTaken } from "./within-limits";
import type { HeldCard, HeldDate, HeldDoor, HeldList, HeldSet, UnitMemory } from "./unit-memory";

/** One step of an update: an object that is put in place of what a unit holds under the same id or date, or taken out. Each may be done twice. */
export type UnitChange =
  | { readonly put: "door"; readonly door: HeldDoor }
  | { readonly put: "date"; readonly date: HeldDate }
  | { readonly put: "set"; readonly set: HeldSet }
  | { readonly put: "list"; readonly list: HeldList }
  | { readonly put: "card"; readonly card: HeldCard }
  | { readonly remove: "door" | "card"; readonly id: string }
  | { readonly remove: "date"; readonly date: string }
  | { readonly remove: "set" | "list"; readonly id: number };

interface Changed<T> {
  readonly put: readonly T[];
  readonly removed: readonly T[];
}

/** What of a list is new or otherwise, and what is gone. */
function changed<T>(before: readonly T[], after: readonly T[], keyOf: (item: T) => string | number): Changed<T> {
  const was = new Map(before.map((item) => [keyOf(item), item]));
  const put: T[] = [];
  for (const item of after) {
    const known = was.get(keyOf(item));
    was.delete(keyOf(item));
    if (known === undefined || canonicalJson(known) !== canonicalJson(item)) put.push(item);
  }
  return { put, removed: [...was.values()] };
}

/**
 * The steps that make one memory another. What is withdrawn goes first, and nothing is named before it is there: a unit that is cut off in between lets nobody
 * in who is in neither memory.
 */
export function changesBetween(before: UnitMemory, after: UnitMemory): readonly UnitChange[] {
  const doors = changed(before.doors, after.doors, ({ id }) => id);
  const dates = changed(before.dates, after.dates, ({ date }) => date);
  const sets = changed(before.sets, after.sets, ({ id }) => id);
  const lists = changed(before.lists, after.lists, ({ id }) => id);
  const cards = changed(before.cards, after.cards, ({ id }) => id);
  return [
    ...cards.removed.map(({ id }): UnitChange => ({ remove: "card", id })),
    ...doors.removed.map(({ id }): UnitChange => ({ remove: "door", id })),
    ...dates.removed.map(({ date }): UnitChange => ({ remove: "date", date })),
    ...dates.put.map((date): UnitChange => ({ put: "date", date })),
    ...sets.put.map((set): UnitChange => ({ put: "set", set })),
    ...lists.put.map((list): UnitChange => ({ put: "list", list })),
    ...doors.put.map((door): UnitChange => ({ put: "door", door })),
    ...cards.put.map((card): UnitChange => ({ put: "card", card })),
    ...lists.removed.map(({ id }): UnitChange => ({ remove: "list", id })),
    ...sets.removed.map(({ id }): UnitChange => ({ remove: "set", id })),
  ];
}

/** A memory to which steps are done in place. */
export class ChangingMemory {
  private readonly doors: Map<string, HeldDoor>;
  private readonly dates: Map<string, HeldDate>;
  private readonly sets: Map<number, HeldSet>;
  private readonly lists: Map<number, HeldList>;
  private readonly cards: Map<string, HeldCard>;

  constructor(memory: UnitMemory) {
    this.doors = new Map(memory.doors.map((door) => [door.id, door]));
    this.dates = new Map(memory.dates.map((date) => [date.date, date]));
    this.sets = new Map(memory.sets.map((set) => [set.id, set]));
    this.lists = new Map(memory.lists.map((list) => [list.id, list]));
    this.cards = new Map(memory.cards.map((card) => [card.id, card]));
  }

  do(change: UnitChange): void {
    if ("put" in change)
      switch (change.put) {
        case "door":
          return void this.doors.set(change.door.id, change.door);
        case "date":
          return void this.dates.set(change.date.date, change.date);
        case "set":
          return void this.sets.set(change.set.id, change.set);
        case "list":
          return void this.lists.set(change.list.id, change.list);
        case "card":
          return void this.cards.set(change.card.id, change.card);
      }
    switch (change.remove) {
      case "door":
        return void this.doors.delete(change.id);
      case "date":
        return void this.dates.delete(change.date);
      case "set":
        return void this.sets.delete(change.id);
      case "list":
        return void this.lists.delete(change.id);
      case "card":
        return void this.cards.delete(change.id);
    }
  }

  /** The same memory, which can be changed by itself. Cost: the names of what is in it. */
  copy(): ChangingMemory {
    return new ChangingMemory(this.unsorted());
  }

  /** How much of each limit it takes. */
  roomTaken(): ReturnType<typeof roomTaken> {
    return roomTaken(this.unsorted());
  }

  private unsorted(): UnitMemory {
    return {
      doors: [...this.doors.values()],
      dates: [...this.dates.values()],
      sets: [...this.sets.values()],
      lists: [...this.lists.values()],
      cards: [...this.cards.values()],
    };
  }

  /** What is held now, in the order in which it is always written. */
  memory(): UnitMemory {
    const byId = (a: { readonly id: string }, b: { readonly id: string }): number => compareCodePoints(a.id, b.id);
    const byNumber = (a: { readonly id: number }, b: { readonly id: number }): number => a.id - b.id;
    const { doors, dates, sets, lists, cards } = this.unsorted();
    return {
      doors: [...doors].sort(byId),
      dates: [...dates].sort((a, b) => compareCodePoints(a.date, b.date)),
      sets: [...sets].sort(byNumber),
      lists: [...lists].sort(byNumber),
      cards: [...cards].sort(byId),
    };
  }
}

/** The text of which the SHA-256 tells one memory from another: RFC 8785 of it in its order. */
export const memoryText = (memory: UnitMemory): string => canonicalJson(new ChangingMemory(memory).memory());
