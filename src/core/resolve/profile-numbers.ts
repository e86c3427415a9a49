import { sortFew } from "../kernel/compare";
import { present } from "../kernel/invariant";
import { PositionIndex } from "../kernel/position-index";
import type { CompiledCardholder, CompiledFacility, Position } from "../compile/compiled-facility";
import { targetKey } from "../compile/coverage";
import type { GrantTarget, LevelRow } from "../facility/draft";
import type { DoorArrangement } from "./access-world";
import type { FacilityLines } from "./facility-lines";
import { never } from "./timelines";

const coveredBy = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): string =>
  door !== undefined ? `d${door}` : doorGroup !== undefined ? `g${doorGroup}` : `a${area ?? ""}`;

/** Puts the numbers of the lists by which grants come to a credential into `lists`. */
function collectLists({ columns }: CompiledFacility, credential: Position, lists: number[]): void {
  lists.length = 0;
  const own = columns.ownList.size === 0 ? undefined : columns.ownList.get(credential);
  if (own !== undefined) lists.push(own);
  const holder = columns.holderOf[credential] as number;
  if (holder === -1) return;
  if (columns.directList[holder] !== -1) lists.push(columns.directList[holder] as number);
  if (columns.departmentList[holder] !== -1) lists.push(columns.departmentList[holder] as number);
  for (let m = columns.firstMembership[holder] as number; m !== -1; m = columns.nextMembership[m] as number) lists.push(columns.membershipList[m] as number);
}

/** Numbers by content of what decides what a card opens: of the lists by which grants come to it, and of all together. */
export class ProfileNumbers {
  /** The lists of the card whose profile was asked for last. */
  readonly lists: number[] = [];
  private readonly numbers: number[] = [];
  private readonly levelNumbers = new Map<string, number>();
  private readonly otherNumbers = new Map<string, number>();
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
    this.scheduleById = new PositionIndex(facility.schedules);
    this.levels = new Map(facility.levels.map(({ id, rows }) => [id, rows ?? []]));
  }

  /** Grants of targets with one number cover the same doors by ways on the same schedules. */
  private targetNumber(open: GrantTarget): number {
    const { level, bundle } = open;
    // Most grants open a level: looked up by its id as it stands, without putting a key together.
    const known = level === undefined ? this.otherNumbers : this.levelNumbers;
    const key = level ?? targetKey(open);
    let number = known.get(key);
    if (number === undefined) {
      const ofLevel = (id: string): string =>
        `l${JSON.stringify((this.levels.get(id) ?? []).map((row) => [coveredBy(row), this.lines.schedules[present(this.scheduleById.get(row.schedule), "references resolve")]]))}`;
      const levelsOf = (id: string): readonly string[] => present(this.compiled.facility.bundles.find((one) => one.id === id), "references resolve").levels ?? [];
      number = this.arrangement.targets.number(level !== undefined ? ofLevel(level) : bundle !== undefined ? `b${JSON.stringify(levelsOf(bundle).map(ofLevel))}` : key);
      known.set(key, number);
    }
    return number;
  }

  /** Lists with one number allow and block the same, on the minutes of the reading. */
  listNumber(at: number): number {
    let number = this.listNumbers[at];
    if (number === undefined) {
      const { contents } = this.arrangement;
      let found = 0;
      this.compiled.eachRoute(at, ({ grant, schedule, blocks }, route) => {
        const window = this.lines.windowLine(route);
        if (window === never) return;
        if (blocks) this.blockingLists.add(at);
        const flags = (blocks ? 1 : 0) + (grant.inLockdown ? 2 : 0);
        const what = contents.number(this.targetNumber(grant.open), schedule === undefined ? 0 : (this.lines.schedules[schedule] as number));
        found = contents.number(found, contents.number(what, contents.number(window, flags)));
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

  /** Profiles with one number have the same row in the same surroundings. */
  profileNumber(sample: Position): number {
    const { contents, peculiarities } = this.arrangement;
    const { columns } = this.compiled;
    const { lists, numbers } = this;
    collectLists(this.compiled, sample, lists);
    numbers.length = 0;
    for (const list of lists) numbers.push(this.listNumber(list));
    sortFew(numbers);
    let number = 0;
    for (let i = 0; i < numbers.length; i++) if (numbers[i] !== numbers[i - 1]) number = contents.number(number, numbers[i] as number);
    const means = columns.means[sample] as number;
    const peculiar = this.peculiarHolder(sample);
    // 0 to 2 say that there is nothing peculiar.
    return contents.number(number, peculiar ? 2 + peculiarities.number(`${means} ${this.peculiarity(peculiar)}`) : means);
  }

  /** The holder of a card, where something beside grants decides what they open: most have no object made for them. */
  peculiarHolder(sample: Position): CompiledCardholder | undefined {
    const { columns, credentials } = this.compiled;
    const holder = columns.holderOf[sample] as number;
    return holder !== -1 && columns.isPeculiar[holder] === 1 ? present(credentials.at(sample), "positions are valid").holder : undefined;
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
