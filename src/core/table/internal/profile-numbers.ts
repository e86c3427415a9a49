import type { NumberBuffer } from "./number-buffer";
import { required } from "../../kernel/invariant";
import { notKnownYet } from "./list-numbers";
import type { Position, PositionIndex } from "../../compile/position-index";
import type { CompiledCardholder, CompiledFacility } from "../../compile/compiled-facility";
import type { AccessProfiles } from "./access-profiles";
import { profilesOf, withPersonalRules } from "./access-profiles";
import { isDirectItem, inheritedItem, numberOfItem } from "./access-numbers";
import { targetKey } from "../../compile/target-key";
import type { GrantKind } from "../../compile/grant-kinds";
import { eachInherited } from "../../compile/route-lists";
import type { GrantTarget, LevelRow } from "../../facility/document";
import type { Window } from "../../time/window";
import type { DoorLayout } from "../access-world";
import type { FacilityTimes } from "./facility-times";
import { never } from "../timelines";

const coveredBy = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): string =>
  door !== undefined ? `d${door}` : doorGroup !== undefined ? `g${doorGroup}` : `a${area ?? ""}`;

/** Numbers by content of what decides what a card opens: of the items of a entitlement, and of all together. */
export class ProfileNumbers {
  /** Index: number in the facility's vocabulary of a target, or of a kind of grants. */
  private readonly targetNumbers: (number | undefined)[] = [];
  private readonly kindNumbers: (number | undefined)[] = [];
  private readonly levels: ReadonlyMap<string, readonly LevelRow[]>;
  private readonly scheduleById: PositionIndex;
  private readonly profiles: AccessProfiles;
  private readonly inheritedNumbers = new Map<number, number>();
  /** Index: the number of a entitlement, or of grants given one after the other, where it was asked for. */
  private readonly entitlementNumbers: Int32Array;
  private readonly directNumbers: Int32Array;

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly layout: DoorLayout,
    private readonly times: FacilityTimes,
  ) {
    const { facility } = compiled;
    this.scheduleById = compiled.indexes.of("schedules");
    this.levels = new Map(facility.levels.map(({ id, rows }) => [id, rows ?? []]));
    this.profiles = profilesOf(compiled);
    const { groups, entitlements, directGrants } = this.profiles.numbers;
    this.directNumbers = new Int32Array(directGrants.highest + 1).fill(notKnownYet, 1);
    this.entitlementNumbers = new Int32Array(entitlements.highest + 1).fill(notKnownYet, groups + 1);
    for (let department = 1; department <= groups; department++)
      this.entitlementNumbers[department] = layout.contents.number(0, this.inheritedNumber(department));
  }

  /** Targets with one number cover the same doors by ways on the same schedules. */
  private targetNumber({ open, target }: GrantKind): number {
    return (this.targetNumbers[target] ??= this.layout.targets.number(this.describe(open)));
  }

  private describe(open: GrantTarget): string {
    const { level, bundle } = open;
    const ofLevel = (id: string): string =>
      `l${JSON.stringify((this.levels.get(id) ?? []).map((row) => [coveredBy(row), this.times.schedules[required(this.scheduleById.get(row.schedule), "references resolve")]]))}`;
    const levelsOf = (id: string): readonly string[] =>
      required(
        this.compiled.facility.bundles.find((one) => one.id === id),
        "references resolve",
      ).levels ?? [];
    return level !== undefined ? ofLevel(level) : bundle !== undefined ? `b${JSON.stringify(levelsOf(bundle).map(ofLevel))}` : targetKey(open);
  }

  /** Kinds of grants with one number open, or block, the same in the same window. */
  private kindNumber(kind: number): number {
    let number = this.kindNumbers[kind];
    if (number === undefined) {
      const { contents } = this.layout;
      const said = this.compiled.vocabulary.grantKinds.at(kind);
      const { schedule, blocks, inLockdown } = said;
      const narrowing = schedule === undefined ? 0 : (this.times.schedules[required(this.scheduleById.get(schedule), "references resolve")] as number);
      number = contents.number(contents.number(this.targetNumber(said), narrowing), (blocks ? 1 : 0) + (inLockdown ? 2 : 0));
      this.kindNumbers[kind] = number;
    }
    return number;
  }

  /** The number of a list with a grant of a kind more; it is the same list where the grant is never in force. */
  private withRoute(list: number, kind: number, window: Window): number {
    const { contents } = this.layout;
    const timeline = this.times.windowTimeline(window);
    return timeline === never ? list : contents.number(list, contents.number(this.kindNumber(kind), timeline));
  }

  /** The number of what a group gives: lists with one number allow and block the same, on the minutes of the reading. */
  private inheritedNumber(inherited: number): number {
    let number = this.inheritedNumbers.get(inherited);
    if (number === undefined) {
      number = 0;
      this.eachKind(inheritedItem(inherited), (kind, window) => (number = this.withRoute(number as number, kind, window)));
      this.inheritedNumbers.set(inherited, number);
    }
    return number;
  }

  /** Calls `visit` with each kind of grants that comes by an item of a entitlement, and the window in which it does. */
  eachKind(item: number, visit: (kind: number, window: Window) => void): void {
    const { chainOf, objects, vocabulary, holdings } = this.compiled;
    const { directGrants } = this.profiles.numbers;
    const number = numberOfItem(item);
    if (!isDirectItem(item)) {
      const { group, window: membership } = this.profiles.numbers.originOf(number);
      const sources = { chainOf, grants: objects.grants, chains: holdings.grants, vocabulary };
      eachInherited(sources, group, vocabulary.windows.at(membership), (grant, window) => visit(objects.grants.kind[grant] as number, window));
      return;
    }
    for (let direct = number; direct !== 0; direct = directGrants.shorterOf(direct)) {
      const kind = directGrants.lastOf(direct);
      visit(kind, vocabulary.grantKinds.at(kind).window);
    }
  }

  /** Puts the items of a profile's entitlement into `items`, what the department gives among them. */
  collectItems(profile: number, items: NumberBuffer): void {
    const { numbers, profileEntitlement } = this.profiles;
    const { entitlements, groups } = numbers;
    items.clear();
    let entitlement = profileEntitlement[profile] as number;
    for (; entitlement > groups; entitlement = entitlements.shorterOf(entitlement)) items.add(entitlements.lastOf(entitlement));
    if (entitlement !== 0) items.add(inheritedItem(entitlement));
  }

  /** The number of grants given one after the other: lists of those kinds with one number allow and block the same. */
  private directNumber(list: number): number {
    return this.profiles.numbers.directGrants.follow(list, this.directNumbers, this.withDirect);
  }

  private readonly withDirect = (before: number, kind: number): number => this.withRoute(before, kind, this.compiled.vocabulary.grantKinds.at(kind).window);

  /**
   * The number by content of a entitlement of the facility's columns. Only those that somebody has are asked for: others may speak of what is
   * no longer there.
   */
  private entitlementNumber(entitlement: number): number {
    return this.profiles.numbers.entitlements.follow(entitlement, this.entitlementNumbers, this.withItem);
  }

  private readonly withItem = (before: number, item: number): number => this.layout.contents.number(before, this.itemNumber(item));

  /** The number by content of what comes by an item of a entitlement. */
  itemNumber(item: number): number {
    return isDirectItem(item) ? this.directNumber(numberOfItem(item)) : this.inheritedNumber(numberOfItem(item));
  }

  /** Profiles with one number have the same row under the same conditions of doors. */
  profileNumber(profile: number): number {
    const { contents, personalRules } = this.layout;
    const { objects } = this.compiled;
    const { profileEntitlement, profilePresents, samples } = this.profiles;
    const number = this.entitlementNumber(profileEntitlement[profile] as number);
    const presents = profilePresents[profile] as number;
    // Of four numbers the first three say what is shown by somebody without rules of their own: nearly all are told without a look-up.
    if (presents !== withPersonalRules) return number * 4 + presents;
    const sample = samples[profile] as number;
    const holder = required(this.holderWithRules(sample), "the profile says so");
    return contents.number(number, personalRules.number(`${objects.cards.presents[sample] ?? 0} ${this.personalRules(holder)}`)) * 4 + withPersonalRules;
  }

  /** The holder of a card, where something beside grants decides what they open: most have no object made for them. */
  holderWithRules(sample: Position): CompiledCardholder | undefined {
    const { objects, cardholders } = this.compiled;
    const holder = objects.cards.holderOf[sample] as number;
    return holder !== -1 && objects.holders.personalRules[holder] !== 0 ? cardholders.at(holder) : undefined;
  }

  /** What beside grants decides what a cardholder opens, in numbers that hold for the whole world. */
  private personalRules(holder: CompiledCardholder): string {
    const sorted = (set: ReadonlySet<string> | undefined): readonly string[] | undefined => set && [...set].sort();
    return JSON.stringify([
      this.times.calendarNumber(holder.calendar),
      holder.hours === undefined ? 0 : this.times.schedules[holder.hours],
      sorted(holder.sites) ?? 0,
      holder.override === "everywhere" ? 1 : (sorted(holder.override) ?? 0),
      !!holder.cardholder.lockdownPass,
      !!holder.cardholder.pinExempt,
    ]);
  }
}
