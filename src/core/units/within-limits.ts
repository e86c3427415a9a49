import { compareCodePoints } from "../kernel/compare";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { Zone } from "../time/zone";
import { endOfMinutesThrough, firstMinuteFrom, localTime, zoneOf } from "../time/zone";
import { rowKey } from "./kinds-of-dates";
import type { HeldCard, HeldDoor, HeldRow, HeldSet, HeldTimes, UnitErring, UnitLimits, UnitMemory } from "./unit-memory";

/** A limit of a unit that the register goes beyond: how much it asks for, and what was left out or made coarser, as ids or dates. */
export interface Shortfall {
  readonly limit: keyof UnitLimits;
  readonly wanted: number;
  readonly most: number | undefined;
  /** Credentials that are not held, dates that are taken for ordinary ones; empty where a limit leaves out nothing with a name. */
  readonly without: readonly string[];
}

export interface MemoryWithinLimits {
  readonly memory: UnitMemory;
  readonly shortfalls: readonly Shortfall[];
}

const minutesOf = (row: HeldRow): number => row.reduce((sum, [from, to]) => sum + to - from, 0);

/** Whether whatever one row has open another one has, too. */
const isWithin = (row: HeldRow, other: HeldRow): boolean => row.every(([from, to]) => other.some(([begins, ends]) => begins <= from && to <= ends));

/** A row with so many ranges at most: without the shortest, or with the smallest gaps closed. */
function coarserRow(row: HeldRow, most: number, erring: UnitErring): HeldRow {
  if (row.length <= most) return row;
  if (erring === "less")
    return [...row]
      .sort((a, b) => b[1] - b[0] - (a[1] - a[0]) || a[0] - b[0])
      .slice(0, most)
      .sort((a, b) => a[0] - b[0]);
  const joined = row.map(([from, to]): [number, number] => [from, to]);
  while (joined.length > Math.max(1, most)) {
    let at = 1;
    for (let i = 2; i < joined.length; i++) if ((joined[i]?.[0] ?? 0) - (joined[i - 1]?.[1] ?? 0) < (joined[at]?.[0] ?? 0) - (joined[at - 1]?.[1] ?? 0)) at = i;
    const [next] = joined.splice(at, 1);
    (joined[at - 1] as [number, number])[1] = (next as [number, number])[1];
  }
  return joined;
}

const rowsOfSet = ({ week, kinds }: HeldSet): readonly HeldRow[] => [...week, ...Object.values(kinds)];
const minutesOfSet = (set: HeldSet | undefined): number => (set ? set.week.reduce((sum, row) => sum + minutesOf(row), 0) : 0);

/** Whether one set never has open what another has shut, on any weekday and kind of date. */
function isSubset(set: HeldSet, other: HeldSet): boolean {
  if (!set.week.every((row, weekday) => isWithin(row, other.week[weekday] ?? []))) return false;
  const kinds = new Set([...Object.keys(set.kinds), ...Object.keys(other.kinds)]);
  const rowsOn = ({ week, kinds: own }: HeldSet, kind: string): readonly HeldRow[] => (Object.hasOwn(own, kind) ? [own[kind] ?? []] : week);
  return [...kinds].every((kind) => {
    const [rows, others] = [rowsOn(set, kind), rowsOn(other, kind)];
    return rows.length === 1 || others.length === 1
      ? rows.every((row) => others.every((otherRow) => isWithin(row, otherRow)))
      : rows.every((row, weekday) => isWithin(row, others[weekday] ?? []));
  });
}

/** Cuts what a unit without limits would hold down to what one with limits can, step by step, each erring to one side where it can. */
class Cutting {
  readonly shortfalls: Shortfall[] = [];

  constructor(
    private memory: UnitMemory,
    private readonly limits: UnitLimits,
    private readonly erring: UnitErring,
    private readonly now: EpochMinute,
  ) {}

  result(): MemoryWithinLimits {
    this.cutDates();
    this.cutKinds();
    this.cutRanges();
    this.cutWindows();
    this.cutRights();
    this.cutSets();
    this.cutCards();
    this.dropUnused();
    return { memory: this.memory, shortfalls: this.shortfalls };
  }

  private told(limit: keyof UnitLimits, wanted: number, without: readonly string[]): void {
    const most = this.limits[limit];
    this.shortfalls.push({ limit, wanted, most: typeof most === "number" ? most : undefined, without });
  }

  /** Only the nearest dates: those behind them come with a later update, or else are taken for ordinary ones. */
  private cutDates(): void {
    const { dates } = this.memory;
    const most = this.limits.dates ?? Infinity;
    if (dates.length <= most) return;
    this.told(
      "dates",
      dates.length,
      dates.slice(most).map(({ date }) => date),
    );
    this.memory = { ...this.memory, dates: dates.slice(0, most) };
  }

  /** The kinds with most dates; the dates of the others become one on which all is shut, or ordinary ones. */
  private cutKinds(): void {
    const { dates, sets } = this.memory;
    const most = this.limits.kinds ?? Infinity;
    const counts = new Map<number, number>();
    for (const { kind } of dates) counts.set(kind, (counts.get(kind) ?? 0) + 1);
    if (counts.size <= most) return;
    const ranked = [...counts].sort(([a, x], [b, y]) => y - x || a - b).map(([kind]) => kind);
    const shutKind = this.erring === "less" && most > 0 ? ranked[most - 1] : undefined;
    const kept = new Set(ranked.slice(0, shutKind === undefined ? most : most - 1));
    this.told(
      "kinds",
      counts.size,
      dates.filter(({ kind }) => !kept.has(kind)).map(({ date }) => date),
    );
    const keptDates = dates.flatMap((one) => (kept.has(one.kind) ? [one] : shutKind === undefined ? [] : [{ ...one, kind: shutKind }]));
    const keptRows = (set: HeldSet): Record<string, HeldRow> => ({
      ...Object.fromEntries(Object.entries(set.kinds).filter(([kind]) => kept.has(Number(kind)))),
      ...(shutKind !== undefined && { [shutKind]: [] }),
    });
    this.memory = { ...this.memory, dates: keptDates, sets: sets.map((set) => ({ ...set, kinds: keptRows(set) })) };
  }

  private cutRanges(): void {
    const most = this.limits.rangesPerRow ?? Infinity;
    const longest = Math.max(0, ...this.memory.sets.map((set) => Math.max(...rowsOfSet(set).map(({ length }) => length))));
    if (longest <= most) return;
    this.told("rangesPerRow", longest, []);
    const coarser = (row: HeldRow): HeldRow => coarserRow(row, most, this.erring);
    const sets = this.memory.sets.map((set): HeldSet => ({
      ...set,
      week: set.week.map(coarser),
      kinds: Object.fromEntries(Object.entries(set.kinds).map(([kind, row]) => [kind, coarser(row)])),
    }));
    this.memory = { ...this.memory, sets };
  }

  /** Bounds that lie on a midnight, or none at all. */
  private cutWindows(): void {
    const { windows = "minute" } = this.limits;
    if (windows === "minute") return;
    const { doors } = this.memory;
    const zone = zoneOf(doors[0]?.timeZone ?? "UTC");
    const changed: string[] = [];
    let bounds = 0;
    const coarser = <T extends { readonly from?: number; readonly until?: number }>(one: T, at: Zone, id?: string): T | undefined => {
      const { from, until, ...rest } = one;
      const now = { ...(from !== undefined && { from }), ...(until !== undefined && { until }) };
      const then = windows === "day" ? this.wholeDays(now, at) : this.unbounded(now);
      if (then === undefined || then.from !== from || then.until !== until) {
        bounds++;
        if (id !== undefined) changed.push(id);
      }
      return then && ({ ...rest, ...then } as T);
    };
    const list = <T extends HeldTimes>(times: readonly T[], at: Zone): T[] => times.flatMap((one) => coarser(one, at) ?? []);
    const zoneOfDoor = (id: string): Zone => zoneOf(doors.find((door) => door.id === id)?.timeZone ?? "UTC");
    this.memory = {
      ...this.memory,
      cards: this.memory.cards.flatMap((card) => coarser(card, zone, card.id) ?? []),
      lists: this.memory.lists.map(({ id, rights }) => ({ id, rights: rights.flatMap((right) => coarser(right, zoneOfDoor(right.door)) ?? []) })),
      doors: doors.map((door): HeldDoor => {
        const at = zoneOf(door.timeZone);
        return { ...door, free: list(door.free, at), rules: door.rules.map(({ entry, times }) => ({ entry, times: list(times, at) })) };
      }),
    };
    if (bounds > 0) this.told("windows", bounds, changed.sort(compareCodePoints));
  }

  private wholeDays({ from, until }: Pick<HeldTimes, "from" | "until">, zone: Zone): Pick<HeldTimes, "from" | "until"> {
    const dateOf = (minute: number): number => localTime(zone, minute as EpochMinute).date;
    const startOf = (date: number): number => firstMinuteFrom(zone, date as CivilDay);
    const endOf = (date: number): number => endOfMinutesThrough(zone, date as CivilDay);
    const opensMore = this.erring === "more";
    const begins = from === undefined ? undefined : startOf(dateOf(from)) === from || opensMore ? startOf(dateOf(from)) : endOf(dateOf(from));
    const ends = until === undefined ? undefined : startOf(dateOf(until)) === until ? until : opensMore ? endOf(dateOf(until)) : startOf(dateOf(until));
    return { ...(begins !== undefined && { from: begins }), ...(ends !== undefined && { until: ends }) };
  }

  /** What has begun counts until it is taken out by a later update, what has not is not sent before it does. */
  private unbounded({ from = -Infinity, until = Infinity }: Pick<HeldTimes, "from" | "until">): Pick<HeldTimes, "from" | "until"> | undefined {
    return from <= this.now && until > this.now ? {} : undefined;
  }

  private cutRights(): void {
    const most = this.limits.rightsPerCard ?? Infinity;
    const { lists, cards } = this.memory;
    const longest = Math.max(0, ...lists.map(({ rights }) => rights.length));
    if (longest <= most) return;
    const sets = new Map(this.memory.sets.map((set) => [set.id, set]));
    const cut = new Set(lists.filter(({ rights }) => rights.length > most).map(({ id }) => id));
    this.told(
      "rightsPerCard",
      longest,
      cards.filter(({ list }) => cut.has(list)).map(({ id }) => id),
    );
    const shorter = lists.map(({ id, rights }) => {
      const kept = new Set(
        [...rights.entries()]
          .sort(([i, a], [k, b]) => minutesOfSet(sets.get(b.set)) - minutesOfSet(sets.get(a.set)) || i - k)
          .slice(0, most)
          .map(([i]) => i),
      );
      return { id, rights: rights.filter((_, i) => kept.has(i)) };
    });
    this.memory = { ...this.memory, lists: shorter };
  }

  /** The sets that most rights name; each other one is replaced by the nearest that is kept and errs to the right side, or else falls away. */
  private cutSets(): void {
    const most = this.limits.sets ?? Infinity;
    this.joinEqualSets();
    const { lists, doors, cards, sets } = this.memory;
    if (sets.length <= most) return;
    const cardsOf = new Map<number, number>();
    for (const { list } of cards) cardsOf.set(list, (cardsOf.get(list) ?? 0) + 1);
    const uses = new Map<number, number>();
    const use = (set: number, count: number): void => void uses.set(set, (uses.get(set) ?? 0) + count);
    for (const { id, rights } of lists) for (const { set } of rights) use(set, cardsOf.get(id) ?? 0);
    // What doors do by themselves goes before what any card does.
    const ofDoors = cards.length + 1;
    for (const { free, rules } of doors) for (const { set } of [...free, ...rules.flatMap(({ times }) => times)]) use(set, ofDoors);
    const ranked = [...sets].sort((a, b) => (uses.get(b.id) ?? 0) - (uses.get(a.id) ?? 0) || a.id - b.id);
    const kept = ranked.slice(0, most);
    const instead = new Map<number, number | undefined>();
    for (const set of ranked.slice(most)) {
      const fitting = kept.filter((other) => (this.erring === "less" ? isSubset(other, set) : isSubset(set, other)));
      const nearest = fitting.sort((a, b) => Math.abs(minutesOfSet(a) - minutesOfSet(set)) - Math.abs(minutesOfSet(b) - minutesOfSet(set)) || a.id - b.id)[0];
      instead.set(set.id, nearest?.id);
    }
    this.told("sets", sets.length, []);
    this.replaceSets((set) => (instead.has(set) ? instead.get(set) : set));
    this.memory = { ...this.memory, sets: kept.sort((a, b) => a.id - b.id) };
  }

  /** Sets that a step before made equal are one. */
  private joinEqualSets(): void {
    const first = new Map<string, number>();
    const same = new Map<number, number>();
    for (const set of this.memory.sets) {
      const key = `${set.week.map(rowKey).join("|")} ${JSON.stringify(set.kinds)}`;
      const known = first.get(key);
      if (known === undefined) first.set(key, set.id);
      else same.set(set.id, known);
    }
    if (same.size === 0) return;
    this.replaceSets((set) => same.get(set) ?? set);
    this.memory = { ...this.memory, sets: this.memory.sets.filter(({ id }) => !same.has(id)) };
  }

  private replaceSets(replacement: (set: number) => number | undefined): void {
    const list = <T extends HeldTimes>(times: readonly T[]): T[] =>
      times.flatMap((one) => {
        const set = replacement(one.set);
        return set === undefined ? [] : [{ ...one, set }];
      });
    const { lists, doors } = this.memory;
    this.memory = {
      ...this.memory,
      lists: lists.map(({ id, rights }) => ({ id, rights: list(rights) })),
      doors: doors.map((door) => ({ ...door, free: list(door.free), rules: door.rules.map(({ entry, times }) => ({ entry, times: list(times) })) })),
    };
  }

  /** Cards in use now before those that are not yet, those with most rights first. */
  private cutCards(): void {
    const most = this.limits.cards ?? Infinity;
    const { cards, lists } = this.memory;
    if (cards.length <= most) return;
    const rights = new Map(lists.map(({ id, rights: own }) => [id, own.length]));
    const isInUse = ({ from = -Infinity, until = Infinity }: HeldCard): boolean => from <= this.now && this.now < until;
    const ranked = [...cards].sort(
      (a, b) => Number(isInUse(b)) - Number(isInUse(a)) || (rights.get(b.list) ?? 0) - (rights.get(a.list) ?? 0) || compareCodePoints(a.id, b.id),
    );
    const kept = new Set(ranked.slice(0, most).map(({ id }) => id));
    this.told(
      "cards",
      cards.length,
      cards.filter(({ id }) => !kept.has(id)).map(({ id }) => id),
    );
    this.memory = { ...this.memory, cards: cards.filter(({ id }) => kept.has(id)) };
  }

  /** Lists and sets that nothing names any more need no room. */
  private dropUnused(): void {
    const { cards, lists, doors, sets } = this.memory;
    const listsInUse = new Set(cards.map(({ list }) => list));
    const keptLists = lists.filter(({ id }) => listsInUse.has(id));
    const setsInUse = new Set([
      ...keptLists.flatMap(({ rights }) => rights.map(({ set }) => set)),
      ...doors.flatMap(({ free, rules }) => [...free, ...rules.flatMap(({ times }) => times)].map(({ set }) => set)),
    ]);
    this.memory = { ...this.memory, lists: keptLists, sets: sets.filter(({ id }) => setsInUse.has(id)) };
  }
}

/**
 * What of a memory a unit with limits can hold. Steps, in this order: the nearest dates; the kinds with most dates (others shut all day, or ordinary); rows
 * with fewer ranges; bounds at midnights or none; the longest rights of each card; the sets named most, others replaced by the nearest narrower (wider) one;
 * cards in use before others. Dates and ends that are not held can open more whatever is asked for: what it comes to is read off by comparing, not promised.
 */
export const withinLimits = (memory: UnitMemory, limits: UnitLimits, erring: UnitErring, now: EpochMinute): MemoryWithinLimits =>
  new Cutting(memory, limits, erring, now).result();

/** How much of each limit a memory takes. */
export function roomTaken(memory: UnitMemory): Required<Omit<Record<keyof UnitLimits, number>, "windows">> {
  const ranges = memory.sets.flatMap((set) => rowsOfSet(set).map(({ length }) => length));
  return {
    cards: memory.cards.length,
    sets: memory.sets.length,
    rangesPerRow: ranges.reduce((most, count) => Math.max(most, count), 0),
    kinds: new Set(memory.dates.map(({ kind }) => kind)).size,
    dates: memory.dates.length,
    rightsPerCard: memory.lists.reduce((most, { rights }) => Math.max(most, rights.length), 0),
  };
}
