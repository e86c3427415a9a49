import type { FewNumbers } from "../kernel/few-numbers";
import { present } from "../kernel/invariant";
import { unworked } from "../kernel/list-numbers";
import type { Position, PositionIndex } from "../kernel/position-index";
import type { CompiledCardholder, CompiledFacility } from "../compile/compiled-facility";
import { ofPeculiarHolder } from "../compile/access-columns";
import { isDirectItem, membershipItem, numberOfItem } from "../compile/access-numbers";
import { targetKey } from "../compile/target-key";
import type { GrantKind } from "../compile/grant-kinds";
import { groupList } from "../compile/route-lists";
import type { GrantTarget, LevelRow } from "../facility/draft";
import type { Window } from "../time/window";
import type { DoorArrangement } from "./access-world";
import type { FacilityLines } from "./facility-lines";
import { never } from "./timelines";

const coveredBy = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): string =>
  door !== undefined ? `d${door}` : doorGroup !== undefined ? `g${doorGroup}` : `a${area ?? ""}`;

/** Numbers by content of what decides what a card opens: of the items of a combination, and of all together. */
export class ProfileNumbers {
  /** Index: number in the facility's vocabulary of a target, or of a kind of grants. */
  private readonly targetNumbers: (number | undefined)[] = [];
  private readonly kindNumbers: (number | undefined)[] = [];
  private readonly levels: ReadonlyMap<string, readonly LevelRow[]>;
  private readonly scheduleById: PositionIndex;
  private readonly givenNumbers = new Map<number, number>();
  /** Index: the number of a combination, or of grants given one after the other, where it was asked for. */
  private readonly combinationNumbers: Int32Array;
  private readonly directNumbers: Int32Array;

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly arrangement: DoorArrangement,
    private readonly lines: FacilityLines,
  ) {
    const { facility } = compiled;
    this.scheduleById = compiled.indexes.of("schedules");
    this.levels = new Map(facility.levels.map(({ id, rows }) => [id, rows ?? []]));
    const { groups, combinations, directs } = compiled.columns.numbers;
    this.directNumbers = new Int32Array(directs.highest + 1).fill(unworked, 1);
    this.combinationNumbers = new Int32Array(combinations.highest + 1).fill(unworked, groups + 1);
    for (let given = 1; given <= groups; given++) this.combinationNumbers[given] = arrangement.contents.number(0, this.givenNumber(given));
  }

  /** Targets with one number cover the same doors by ways on the same schedules. */
  private targetNumber({ open, target }: GrantKind): number {
    return (this.targetNumbers[target] ??= this.arrangement.targets.number(this.describe(open)));
  }

  private describe(open: GrantTarget): string {
    const { level, bundle } = open;
    const ofLevel = (id: string): string =>
      `l${JSON.stringify((this.levels.get(id) ?? []).map((row) => [coveredBy(row), this.lines.schedules[present(this.scheduleById.get(row.schedule), "references resolve")]]))}`;
    const levelsOf = (id: string): readonly string[] => present(this.compiled.facility.bundles.find((one) => one.id === id), "references resolve").levels ?? [];
    return level !== undefined ? ofLevel(level) : bundle !== undefined ? `b${JSON.stringify(levelsOf(bundle).map(ofLevel))}` : targetKey(open);
  }

  /** Kinds of grants with one number open, or block, the same in the same window. */
  private kindNumber(kind: number): number {
    let number = this.kindNumbers[kind];
    if (number === undefined) {
      const { contents } = this.arrangement;
      const said = this.compiled.vocabulary.grantKinds.at(kind);
      const { schedule, blocks, inLockdown } = said;
      const narrowing = schedule === undefined ? 0 : (this.lines.schedules[present(this.scheduleById.get(schedule), "references resolve")] as number);
      number = contents.number(contents.number(this.targetNumber(said), narrowing), (blocks ? 1 : 0) + (inLockdown ? 2 : 0));
      this.kindNumbers[kind] = number;
    }
    return number;
  }

  /** The number of a list with a grant of a kind more; it is the same list where the grant is never in force. */
  private withRoute(list: number, kind: number, window: Window): number {
    const { contents } = this.arrangement;
    const line = this.lines.windowLine(window);
    return line === never ? list : contents.number(list, contents.number(this.kindNumber(kind), line));
  }

  /** The number of what a group gives: lists with one number allow and block the same, on the minutes of the reading. */
  private givenNumber(given: number): number {
    let number = this.givenNumbers.get(given);
    if (number === undefined) {
      number = 0;
      this.eachKind(membershipItem(given), (kind, window) => (number = this.withRoute(number as number, kind, window)));
      this.givenNumbers.set(given, number);
    }
    return number;
  }

  /** Calls `visit` with each kind of grants that comes by an item of a combination, and the window in which it does. */
  eachKind(item: number, visit: (kind: number, window: Window) => void): void {
    const { columns, objects, vocabulary, eachRoute } = this.compiled;
    const number = numberOfItem(item);
    if (!isDirectItem(item)) {
      eachRoute(groupList(number), (grant, window) => visit(objects.grants.kind[grant] as number, window));
      return;
    }
    const { directs } = columns.numbers;
    for (let direct = number; direct !== 0; direct = directs.shorterOf(direct)) {
      const kind = directs.lastOf(direct);
      visit(kind, vocabulary.grantKinds.at(kind).window);
    }
  }

  /** Puts the items of a profile's combination into `items`, what the department gives among them. */
  collectItems(profile: number, items: FewNumbers): void {
    const { numbers, profileCombination } = this.compiled.columns;
    const { combinations, groups } = numbers;
    items.clear();
    let combination = profileCombination[profile] as number;
    for (; combination > groups; combination = combinations.shorterOf(combination)) items.add(combinations.lastOf(combination));
    if (combination !== 0) items.add(membershipItem(combination));
  }

  /** The number of grants given one after the other: lists of those kinds with one number allow and block the same. */
  private directNumber(list: number): number {
    return this.compiled.columns.numbers.directs.follow(list, this.directNumbers, this.withDirect);
  }

  private readonly withDirect = (before: number, kind: number): number => this.withRoute(before, kind, this.compiled.vocabulary.grantKinds.at(kind).window);

  /**
   * The number by content of a combination of the facility's columns. Only those that somebody has are asked for: others may speak of what is
   * no longer there.
   */
  private combinationNumber(combination: number): number {
    return this.compiled.columns.numbers.combinations.follow(combination, this.combinationNumbers, this.withItem);
  }

  private readonly withItem = (before: number, item: number): number => this.arrangement.contents.number(before, this.itemNumber(item));

  /** The number by content of what comes by an item of a combination. */
  itemNumber(item: number): number {
    return isDirectItem(item) ? this.directNumber(numberOfItem(item)) : this.givenNumber(numberOfItem(item));
  }

  /** Profiles with one number have the same row in the same surroundings. */
  profileNumber(profile: number): number {
    const { contents, peculiarities } = this.arrangement;
    const { columns, objects } = this.compiled;
    const number = this.combinationNumber(columns.profileCombination[profile] as number);
    const means = columns.profileMeans[profile] as number;
    // Of four numbers the first three say what is shown by somebody of whom there is nothing peculiar: nearly all are told without a look-up.
    if (means !== ofPeculiarHolder) return number * 4 + means;
    const sample = columns.samples[profile] as number;
    const holder = present(this.peculiarHolder(sample), "the profile says so");
    return contents.number(number, peculiarities.number(`${objects.cards.means[sample] ?? 0} ${this.peculiarity(holder)}`)) * 4 + ofPeculiarHolder;
  }

  /** The holder of a card, where something beside grants decides what they open: most have no object made for them. */
  peculiarHolder(sample: Position): CompiledCardholder | undefined {
    const { objects, cardholders } = this.compiled;
    const holder = objects.cards.holderOf[sample] as number;
    return holder !== -1 && objects.holders.peculiarity[holder] !== 0 ? cardholders.at(holder) : undefined;
  }

  /** What beside grants decides what a cardholder opens, in numbers that hold for the whole world. */
  private peculiarity(holder: CompiledCardholder): string {
    const sorted = (set: ReadonlySet<string> | undefined): readonly string[] | undefined => set && [...set].sort();
    return JSON.stringify([
      this.lines.calendarNumber(holder.calendar),
      holder.hours === undefined ? 0 : this.lines.schedules[holder.hours],
      sorted(holder.sites) ?? 0,
      holder.override === "everywhere" ? 1 : (sorted(holder.override) ?? 0),
      !!holder.cardholder.lockdownPass,
      !!holder.cardholder.pinExempt,
    ]);
  }
}
