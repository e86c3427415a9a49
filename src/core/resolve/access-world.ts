import { invariant } from "../kernel/invariant";
import { PairNumbers, PairTable, TextNumbers } from "../kernel/pair-table";
import type { Facility } from "../facility/facility";
import { RowBook, RowPool } from "./access-row";
import type { Reading } from "./reading";
import { TimelineBook } from "./timelines";

/**
 * Doors in one arrangement: at which sites, in which areas, behind which other doors, in which door groups. Tables over the same
 * arrangement number their rows alike, and what several documents say alike is worked out once.
 */
export class DoorArrangement {
  readonly rows = new RowBook();
  readonly targets = new TextNumbers();
  /** Numbers of contents put together from other numbers: what a grant gives, what a list gives, what a profile opens. */
  readonly contents = new PairNumbers();
  readonly peculiarities = new TextNumbers();
  /** Clocks, entry rules and unlocking of all doors, as one number. */
  readonly surroundings = new TextNumbers();
  /** Row of a profile in given surroundings. */
  readonly rowOfProfile = new PairTable();
  /** What a list allows or blocks, by list and variant; the value is a row of `partials`. */
  readonly allowing = new PairTable();
  readonly blocking = new PairTable();
  readonly partials = new RowPool();
  /** Several rows, each as far as it is live, taken together. */
  readonly combinations = new PairNumbers();
  readonly rowOfCombination: (number | undefined)[] = [];
}

/**
 * What tables laid out on the same minutes have in common: timelines, and by arrangement of the doors the rows. Equal
 * timelines and equal rows then have equal numbers, whichever document they come from.
 */
export class AccessWorld {
  readonly book = new TimelineBook();
  readonly schedules = new TextNumbers();
  readonly calendars = new TextNumbers();
  readonly clocks = new TextNumbers();
  /** The timeline of a schedule on a clock. */
  readonly scheduleLines = new PairTable();
  private readonly arrangements = new Map<string, DoorArrangement>();
  private minutes: string | undefined;

  /** Promises that all tables of this world are read alike. */
  mustRead({ whole, mode }: Reading): void {
    const minutes = `${whole.join()} ${mode.lockdown}`;
    this.minutes ??= minutes;
    invariant(this.minutes === minutes, "tables of one world are laid out on the same minutes, in the same mode");
  }

  arrangementOf({ sites, areas, doors, doorGroups }: Facility): DoorArrangement {
    const text = JSON.stringify([
      sites.map(({ id, timeZone }) => [id, timeZone]),
      areas.map(({ id, parent }) => [id, parent]),
      doors.map(({ id, site, area, via }) => [id, site, area, via]),
      doorGroups.map(({ id, doors: held, groups }) => [id, held, groups]),
    ]);
    let arrangement = this.arrangements.get(text);
    if (!arrangement) {
      arrangement = new DoorArrangement();
      this.arrangements.set(text, arrangement);
    }
    return arrangement;
  }
}
