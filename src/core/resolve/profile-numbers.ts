import type { FewNumbers } from "../kernel/few-numbers";
import { present } from "../kernel/invariant";
import type { PositionIndex } from "../kernel/position-index";
import type { CompiledCardholder, CompiledFacility, Position } from "../compile/compiled-facility";
import { targetKey } from "../compile/coverage";
import type { GrantKind } from "../compile/grant-kinds";
import type { GrantTarget, LevelRow } from "../facility/draft";
import type { Window } from "../time/window";
import type { DoorArrangement } from "./access-world";
import type { FacilityLines } from "./facility-lines";
import { never } from "./timelines";

const coveredBy = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): string =>
  door !== undefined ? `d${door}` : doorGroup !== undefined ? `g${doorGroup}` : `a${area ?? ""}`;

/** Numbers by content of what decides what a card opens: of the lists by which grants come to it, and of all together. */
export class ProfileNumbers {
  /** Index: number in the facility's vocabulary of a target, or of a kind of grants. */
  private readonly targetNumbers: (number | undefined)[] = [];
  private readonly kindNumbers: (number | undefined)[] = [];
  private readonly levels: ReadonlyMap<string, readonly LevelRow[]>;
  private readonly scheduleById: PositionIndex;
  private readonly listNumbers: (number | undefined)[] = [];
  /** Lists through which a block comes: hardly any. */
  private readonly blockingLists = new Set<number>();
  private readonly combinations: Int32Array;

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly arrangement: DoorArrangement,
    private readonly lines: FacilityLines,
  ) {
    const { facility } = compiled;
    this.scheduleById = compiled.indexes.of("schedules");
    this.levels = new Map(facility.levels.map(({ id, rows }) => [id, rows ?? []]));
    this.combinations = this.numberCombinations();
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

  /** Lists with one number allow and block the same, on the minutes of the reading. */
  listNumber(at: number): number {
    let number = this.listNumbers[at];
    if (number === undefined) {
      const { kind } = this.compiled.objects.grants;
      const { grantKinds } = this.compiled.vocabulary;
      let found = 0;
      this.compiled.eachRoute(at, (grant, route) => {
        const of = kind[grant] as number;
        found = this.withRoute(found, of, route);
        if (grantKinds.at(of).blocks) this.blockingLists.add(at);
      });
      number = found;
      this.listNumbers[at] = number;
    }
    return number;
  }

  /** Whether a block comes through a list that was numbered. */
  blocks(list: number): boolean {
    return this.blockingLists.has(list);
  }

  /** Puts the lists by which grants come to a card into `lists`. */
  collectLists(card: Position, lists: FewNumbers): void {
    const { ownList, directList, departmentList, firstMembership, nextMembership, membershipList } = this.compiled.columns;
    lists.clear();
    const own = ownList.size === 0 ? undefined : ownList.get(card);
    if (own !== undefined) lists.add(own);
    const holder = this.compiled.objects.cards.holderOf[card] as number;
    if (holder === -1) return;
    if (directList[holder] !== -1) lists.add(directList[holder] as number);
    if (departmentList[holder] !== -1) lists.add(departmentList[holder] as number);
    for (let m = firstMembership[holder] as number; m !== -1; m = nextMembership[m] as number) lists.add(membershipList[m] as number);
  }

  /** Index n: number by content of combination n of the facility's columns. */
  private numberCombinations(): Int32Array {
    const { contents } = this.arrangement;
    const { columns, objects } = this.compiled;
    const direct = new Int32Array(columns.directs.highest + 1);
    columns.directs.each((list, shorter, kind) => (direct[list] = this.withRoute(direct[shorter] as number, kind, this.compiled.vocabulary.grantKinds.at(kind).window)));
    const numbers = new Int32Array(columns.combinations.highest + 1);
    columns.departmentList.forEach((list, i) => {
      if (list !== -1) numbers[(objects.holders.department[i] as number) + 1] ||= contents.number(0, this.listNumber(list));
    });
    columns.combinations.each((combination, shorter, item) => {
      numbers[combination] = contents.number(numbers[shorter] as number, (item & 1) === 1 ? (direct[item >> 1] as number) : this.listNumber(item >> 1));
    });
    return numbers;
  }

  /** Profiles with one number have the same row in the same surroundings. */
  profileNumber(sample: Position): number {
    const { contents, peculiarities } = this.arrangement;
    const { columns, objects } = this.compiled;
    const holder = objects.cards.holderOf[sample] as number;
    const own = columns.ownList.size === 0 ? undefined : columns.ownList.get(sample);
    let number = holder === -1 ? 0 : (this.combinations[columns.combination[holder] as number] as number);
    if (own !== undefined) number = contents.number(number, this.listNumber(own));
    const means = objects.cards.means[sample] as number;
    const peculiar = this.peculiarHolder(sample);
    // 0 to 2 say that there is nothing peculiar.
    return contents.number(number, peculiar ? 2 + peculiarities.number(`${means} ${this.peculiarity(peculiar)}`) : means);
  }

  /** The holder of a card, where something beside grants decides what they open: most have no object made for them. */
  peculiarHolder(sample: Position): CompiledCardholder | undefined {
    const { objects, credentials } = this.compiled;
    const holder = objects.cards.holderOf[sample] as number;
    return holder !== -1 && objects.holders.peculiarity[holder] !== 0 ? present(credentials.at(sample), "positions are valid").holder : undefined;
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
