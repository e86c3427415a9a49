import type { RowNumber } from "./access-rows";
import { grown } from "../kernel/grown";
import { invariant } from "../kernel/invariant";
import { ListNumbers } from "./internal/list-numbers";
import { PairNumbers, PairTable, TextNumbers } from "../kernel/pair-table";
import type { Facility } from "../facility/facility";
import { RowNumbers, RowPool } from "./internal/row-builder";
import type { Timeframe } from "../paths/timeframe";
import { Timelines } from "./timelines";

/**
 * Doors in one layout: at which sites, in which areas, behind which other doors, in which door groups. Tables over the same
 * layout number their rows alike, and what several documents say alike is worked out once.
 */
export class DoorLayout {
  readonly rows: RowNumbers;
  readonly targets = new TextNumbers();
  /** Numbers of contents put together from other numbers: what a grant gives, what a list gives, what a profile opens. */
  readonly contents: PairNumbers;
  readonly personalRules = new TextNumbers();
  /** Clocks, entry rules and unlocking of all doors, as one number. */
  readonly doorConditions = new TextNumbers();
  /** Index: number of the doors' conditions; rows of profiles in them. */
  private readonly rowsIn: RowsOfProfiles[] = [];
  /** What a list allows or blocks, by list and variant; the value is a row of `partials`. */
  readonly allowing = new PairTable();
  readonly blocking = new PairTable();
  readonly partials = new RowPool();
  /** Rows as far as somebody's card is live; and several of these taken together. */
  readonly livePieces = new PairNumbers();
  readonly entitlements = new ListNumbers();
  readonly rowOfLivePieces: (number | undefined)[] = [];

  rowsOfProfiles(doorConditions: number): RowsOfProfiles {
    return (this.rowsIn[doorConditions] ??= new RowsOfProfiles());
  }

  /** For about so many people. */
  constructor(cardholders: number) {
    this.rows = new RowNumbers(1024 + cardholders * 8);
    this.contents = new PairNumbers(cardholders >> 3);
  }
}

/** Rows by the number of a profile: nearly as many profiles as numbers, so that a column serves. */
export class RowsOfProfiles {
  /** Index: number of a profile; its row plus one, 0 where it was not worked out. */
  private rows = new Int32Array(1024);

  /** -1 where it was not worked out. */
  get(profile: number): number {
    return profile < this.rows.length ? (this.rows[profile] as number) - 1 : -1;
  }

  set(profile: number, row: RowNumber): void {
    if (profile >= this.rows.length) this.rows = grown(this.rows, Math.max(profile + 1, this.rows.length * 2));
    this.rows[profile] = row + 1;
  }
}

/**
 * What tables laid out on the same minutes have in common: timelines, and by layout of the doors the rows. Equal
 * timelines and equal rows then have equal numbers, whichever document they come from.
 */
export class AccessWorld {
  readonly timelines = new Timelines();
  readonly schedules = new TextNumbers();
  readonly calendars = new TextNumbers();
  readonly clocks = new TextNumbers();
  private readonly clocksOfDoors: Int32Array[] = [];
  /** The timeline of a schedule on a clock. */
  readonly scheduleTimelines = new PairTable();
  private readonly layouts: { readonly of: LaidOut; readonly layout: DoorLayout }[] = [];
  private minutes: string | undefined;

  /** Promises that all tables of this world are read alike. */
  mustRead({ span, mode }: Timeframe): void {
    const minutes = `${span.join()} ${mode.lockdown}`;
    this.minutes ??= minutes;
    invariant(this.minutes === minutes, "tables of one world are laid out on the same minutes, in the same mode");
  }

  /** A number for the clocks of all doors: documents of one world mostly have the same. */
  numberOfClocks(clocks: Int32Array): number {
    const known = this.clocksOfDoors.findIndex((other) => other.length === clocks.length && other.every((clock, door) => clock === clocks[door]));
    return known < 0 ? this.clocksOfDoors.push(clocks) - 1 : known;
  }

  layoutOf(facility: Facility): DoorLayout {
    const known = this.layouts.find(({ of }) => isLaidOutAlike(of, facility));
    if (known) return known.layout;
    const layout = new DoorLayout(facility.cardholders.length);
    this.layouts.push({ of: facility, layout });
    return layout;
  }
}

type LaidOut = Pick<Facility, "sites" | "areas" | "doors" | "doorGroups">;

function isLaidOutAlike(a: LaidOut, b: LaidOut): boolean {
  return (
    areAlike(a.sites, b.sites, (x, y) => x.id === y.id && x.timeZone === y.timeZone) &&
    areAlike(a.areas, b.areas, (x, y) => x.id === y.id && x.parent === y.parent) &&
    areAlike(a.doors, b.doors, (x, y) => x.id === y.id && x.site === y.site && x.area === y.area && x.via === y.via) &&
    areAlike(
      a.doorGroups,
      b.doorGroups,
      (x, y) => x.id === y.id && areAlike(x.doors ?? [], y.doors ?? [], equal) && areAlike(x.groups ?? [], y.groups ?? [], equal),
    )
  );
}

const equal = (a: string, b: string): boolean => a === b;

/** Whether two lists are the same, or as long and alike item by item. */
const areAlike = <T>(a: readonly T[], b: readonly T[], alike: (x: T, y: T) => boolean): boolean =>
  a === b || (a.length === b.length && a.every((x, i) => x === b[i] || alike(x, b[i] as T)));
