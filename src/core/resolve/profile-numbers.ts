import { FewNumbers } from "../kernel/few-numbers";
import { present } from "../kernel/invariant";
import { numberOfSet } from "../kernel/pair-table";
import type { PositionIndex } from "../kernel/position-index";
import type { CompiledCardholder, CompiledFacility, Position } from "../compile/compiled-facility";
import { targetKey } from "../compile/coverage";
import type { GrantKind } from "../compile/grant-kinds";
import type { GrantTarget, LevelRow } from "../facility/draft";
import type { DoorArrangement } from "./access-world";
import type { FacilityLines } from "./facility-lines";
import { never } from "./timelines";

const coveredBy = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): string =>
  door !== undefined ? `d${door}` : doorGroup !== undefined ? `g${doorGroup}` : `a${area ?? ""}`;

/** Numbers by content of what decides what a card opens: of the lists by which grants come to it, and of all together. */
export class ProfileNumbers {
  /** The lists of the card whose profile was asked for last. */
  readonly lists = new FewNumbers();
  private readonly numbers = new FewNumbers();
  /** Index: number in the facility's vocabulary of a target, or of a kind of grants. */
  private readonly targetNumbers: (number | undefined)[] = [];
  private readonly kindNumbers: (number | undefined)[] = [];
  private readonly levels: ReadonlyMap<string, readonly LevelRow[]>;
  private readonly scheduleById: PositionIndex;
  private readonly listNumbers: (number | undefined)[] = [];
  /** Lists through which a block comes: hardly any. */
  private readonly blockingLists = new Set<number>();

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly arrangement: DoorArrangement,
    private readonly lines: FacilityLines,
  ) {
    const { facility } = compiled;
    this.scheduleById = compiled.indexes.of("schedules");
    this.levels = new Map(facility.levels.map(({ id, rows }) => [id, rows ?? []]));
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

  /** Lists with one number allow and block the same, on the minutes of the reading. */
  listNumber(at: number): number {
    let number = this.listNumbers[at];
    if (number === undefined) {
      const { contents } = this.arrangement;
      const { kind } = this.compiled.objects.grants;
      const { grantKinds } = this.compiled.vocabulary;
      let found = 0;
      this.compiled.eachRoute(at, (grant, route) => {
        const window = this.lines.windowLine(route);
        if (window === never) return;
        const of = kind[grant] as number;
        if (grantKinds.at(of).blocks) this.blockingLists.add(at);
        found = contents.number(found, contents.number(this.kindNumber(of), window));
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

  private collect(list: number): void {
    this.lists.add(list);
    this.numbers.add(this.listNumber(list));
  }

  /** Collects the lists by which grants come to a card. */
  private collectLists(card: Position): void {
    const { ownList, directList, departmentList, firstMembership, nextMembership, membershipList } = this.compiled.columns;
    this.lists.clear();
    this.numbers.clear();
    const own = ownList.size === 0 ? undefined : ownList.get(card);
    if (own !== undefined) this.collect(own);
    const holder = this.compiled.objects.cards.holderOf[card] as number;
    if (holder === -1) return;
    if (directList[holder] !== -1) this.collect(directList[holder] as number);
    if (departmentList[holder] !== -1) this.collect(departmentList[holder] as number);
    for (let m = firstMembership[holder] as number; m !== -1; m = nextMembership[m] as number) this.collect(membershipList[m] as number);
  }

  /** Profiles with one number have the same row in the same surroundings. */
  profileNumber(sample: Position): number {
    const { contents, peculiarities } = this.arrangement;
    this.collectLists(sample);
    const number = numberOfSet(contents, 0, this.numbers);
    const means = this.compiled.objects.cards.means[sample] as number;
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
