import type { CompiledDoor } from "../compile/compiled-facility";
import type { EntryRule } from "../facility/document";
import { compareCodePoints } from "../kernel/compare";
import { required } from "../kernel/invariant";
import { entryRuleTimes } from "../paths/entry-rule-times";
import { freeIn } from "../paths/timetable";
import { formatCivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import type { Zone } from "../time/zone";
import { localTime } from "../time/zone";
import { kindsOfDates, rowKey } from "./kinds-of-dates";
import type { DatedPattern } from "./kinds-of-dates";
import type { WeeklyTimes } from "./lay-out-times";
import { Numbered } from "./numbered";
import type { HeldCard, HeldDoor, HeldList, HeldRight, HeldRow, HeldSet, HeldTimes, UnitMemory } from "./unit-memory";
import { emptyMemory } from "./unit-memory";
import type { UnitSources } from "./unit-sources";

type Content<T extends { readonly id: number }> = Omit<T, "id">;

const setKey = ({ week, kinds }: Content<HeldSet>): string =>
  `${week.map(rowKey).join("|")} ${Object.keys(kinds)
    .sort((a, b) => Number(a) - Number(b))
    .map((kind) => `${kind}:${rowKey(kinds[kind] ?? [])}`)
    .join("|")}`;
const listKey = ({ rights }: Content<HeldList>): string => JSON.stringify(rights);

/** A pattern as it counts at some doors: with its dates, and with the bounds that go into the right. */
interface Placed {
  readonly pattern: DatedPattern;
  readonly bounds: Pick<HeldTimes, "from" | "until">;
}

/** Gathers the patterns that a unit has to hold, then numbers dates, sets and lists. */
class UnitLayout {
  private readonly placed = new Map<Zone, Map<readonly WeeklyTimes[], readonly Placed[]>>();

  constructor(private readonly sources: UnitSources) {}

  /** The patterns of some times at a door; each is asked for twice: to gather, and to be numbered. */
  patternsAt(open: IntervalSet, door: CompiledDoor): readonly Placed[] {
    const { sources } = this;
    const patterns = sources.patternsOf(open, door.zone);
    let ofZone = this.placed.get(door.zone);
    if (!ofZone) this.placed.set(door.zone, (ofZone = new Map<readonly WeeklyTimes[], readonly Placed[]>()));
    const known = ofZone.get(patterns);
    if (known) return known;
    const placed = patterns.map(({ week, unlike, from, until }): Placed => ({
      pattern: {
        week,
        unlike,
        first: localTime(door.zone, (from ?? sources.from) as EpochMinute).date,
        last: localTime(door.zone, ((until ?? sources.to) - 1) as EpochMinute).date,
      },
      bounds: { ...(from !== undefined && { from }), ...(until !== undefined && { until }) },
    }));
    ofZone.set(patterns, placed);
    return placed;
  }

  patterns(): DatedPattern[] {
    return [...this.placed.values()].flatMap((ofZone) => [...ofZone.values()].flatMap((placed) => placed.map(({ pattern }) => pattern)));
  }
}

interface DoorTimes {
  readonly door: CompiledDoor;
  readonly free: IntervalSet;
  readonly entry: ReadonlyMap<EntryRule, IntervalSet>;
}

/** What a card shows of itself and of its holder at a unit. */
function cardFacts(sources: UnitSources, position: number): Omit<HeldCard, "list" | "from" | "until"> {
  const { facility, objects } = sources.compiled;
  const credential = required(facility.credentials[position], "positions are valid");
  const person = facility.cardholders[objects.cards.holderOf[position] as number];
  const { number, facilityCode } = credential;
  return {
    id: credential.id,
    ...(number !== undefined && number !== "" && { number }),
    ...(facilityCode !== undefined && facilityCode !== "" && { facilityCode }),
    ...(credential.kind === "pin" && { isPin: true as const }),
    ...(objects.cards.presents[position] !== 0 && { hasPin: true as const }),
    ...(person?.pinExempt === true && { pinExempt: true as const }),
    ...(person?.firstIn === true && { firstIn: true as const }),
    ...(person?.passbackExempt === true && { passbackExempt: true as const }),
  };
}

/**
 * What a unit without any limits has to hold so that it decides, in every minute ahead, just as the register says: every credential that opens one of its doors
 * then, with what these have in common held once. Numbers that `before` had for the same contents stay.
 */
export function layOutUnit(sources: UnitSources, unit: string, before: UnitMemory = emptyMemory): UnitMemory {
  const { table, from: start, to: end } = sources;
  const doors: readonly DoorTimes[] = (sources.doorsOf.get(unit) ?? []).map((door) => ({
    door,
    free: freeIn(table.timeframe, door),
    entry: entryRuleTimes(table.timeframe, door),
  }));
  const layout = new UnitLayout(sources);
  const rowsOfCards = sources.rowsAt(unit).map((pair) => ({
    cards: pair.cards,
    rights: doors.flatMap(({ door }) => {
      const { open, inLockdown } = sources.openAt(pair, door.position);
      if (open.length === 0) return [];
      const isSame = sources.isSameInLockdown(pair, door.position);
      const one = { door, open, inLockdown: isSame };
      return isSame || inLockdown.length === 0 ? [one] : [one, { door, open: inLockdown, inLockdown: true }];
    }),
  }));
  // First every pattern is looked at, since what kind of date one is hangs on all of them.
  for (const { rights } of rowsOfCards) for (const { open, door } of rights) layout.patternsAt(open, door);
  for (const { door, free, entry } of doors) for (const open of [free, ...entry.values()]) layout.patternsAt(open, door);
  const kinds = kindsOfDates(layout.patterns());
  const kindNumber = numbersOfKinds(before);
  const rowsOfPattern = new Map<DatedPattern, Record<string, HeldRow>>();
  const dates = kinds.flatMap(({ dates: those, rows }) => {
    const kind = kindNumber(those.map(formatCivilDay));
    for (const [pattern, row] of rows) rowsOfPattern.set(pattern, { ...rowsOfPattern.get(pattern), [kind]: row });
    return those.map((date) => ({ date: formatCivilDay(date), kind }));
  });
  const sets = new Numbered<Content<HeldSet>>(setKey, before.sets);
  const written = new Map<readonly Placed[], readonly HeldTimes[]>();
  const timesOf = (open: IntervalSet, door: CompiledDoor): readonly HeldTimes[] => {
    const placed = layout.patternsAt(open, door);
    let times = written.get(placed);
    if (!times) {
      times = placed.map(({ pattern, bounds }) => ({ set: sets.of({ week: pattern.week, kinds: rowsOfPattern.get(pattern) ?? {} }), ...bounds }));
      written.set(placed, times);
    }
    return times;
  };
  const heldDoors = doors.map(({ door, free, entry }): HeldDoor => ({
    id: door.door.id,
    timeZone: door.zone.name,
    ...(door.door.from !== undefined && { from: door.door.from }),
    ...(door.door.area !== undefined && { area: door.door.area }),
    entry: door.entry,
    rules: [...entry].filter(([rule]) => rule !== door.entry).map(([rule, open]) => ({ entry: rule, times: timesOf(open, door) })),
    free: timesOf(free, door),
    ...(door.door.unlockNeedsFirstIn === true && free.length > 0 && { needsFirstIn: true as const }),
  }));
  const lists = new Numbered<Content<HeldList>>(listKey, before.lists);
  const cards: HeldCard[] = [];
  for (const { cards: those, rights } of rowsOfCards) {
    let list: number | undefined;
    for (const position of those) {
      const { from, until } = sources.lifeOf(position);
      if (from >= end || until <= start || from >= until) continue;
      list ??= lists.of({
        rights: rights.flatMap(({ door, open, inLockdown }) =>
          timesOf(open, door).map((times): HeldRight => ({ door: door.door.id, ...times, ...(inLockdown && { inLockdown: true as const }) })),
        ),
      });
      cards.push({ ...cardFacts(sources, position), list, ...(from !== -Infinity && { from }), ...(until !== Infinity && { until }) });
    }
  }
  return {
    doors: heldDoors,
    dates: dates.sort((a, b) => compareCodePoints(a.date, b.date)),
    sets: sets.all().map(([id, content]) => ({ id, ...content })),
    lists: lists.all().map(([id, content]) => ({ id, ...content })),
    cards: cards.sort((a, b) => compareCodePoints(a.id, b.id)),
  };
}

/** Numbers for kinds of dates: that which one of their dates had before, if no other kind has it yet, or the smallest that is free. */
function numbersOfKinds({ dates }: UnitMemory): (dates: readonly string[]) => number {
  const before = new Map(dates.map(({ date, kind }) => [date, kind]));
  const taken = new Set(before.values());
  const given = new Set<number>();
  return (those) => {
    let number = those.map((date) => before.get(date)).find((kind) => kind !== undefined && !given.has(kind));
    if (number === undefined) for (number = 1; taken.has(number) || given.has(number);) number++;
    given.add(number);
    return number;
  };
}
