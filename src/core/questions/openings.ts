import type { Position } from "../compile/position-index";
import type { AccessTable } from "../table/access-table";
import type { RowNumber } from "../table/access-rows";
import { timelineAt } from "../table/access-rows";
import type { TimelineNumber } from "../table/timelines";
import type { IntervalSet } from "../time/intervals";
import { meet, union } from "../time/intervals";
import type { HolderNumber } from "./asked-people";
import { bearerOf } from "./asked-people";

/** With so few doors each is looked up in a row; with more, the row is gone along. */
const looksUp = 8;
const unknown = 0;
const shut = 1;
const open = 2;

const knownRows = new WeakMap<AccessTable, (holder: HolderNumber) => RowNumber>();

/** The row of each holder in a table, worked out when it is first asked for and kept with the table: everybody is asked about again and again. */
function rowsOfHolders(table: AccessTable): (holder: HolderNumber) => RowNumber {
  const known = knownRows.get(table);
  if (known) return known;
  const { cards, holders } = table.compiled.objects;
  const ofCardholders = new Int32Array(holders.department.length).fill(-1);
  const ofCards = new Int32Array(cards.holderOf.length).fill(-1);
  const rowOf = (holder: HolderNumber): RowNumber => {
    const bearer = bearerOf(holder);
    if ("card" in bearer) {
      if (ofCards[bearer.card] === -1) ofCards[bearer.card] = table.liveRow(bearer.card);
      return ofCards[bearer.card] as RowNumber;
    }
    if (ofCardholders[bearer.cardholder] === -1) ofCardholders[bearer.cardholder] = table.rowOfCardholder(bearer.cardholder);
    return ofCardholders[bearer.cardholder] as RowNumber;
  };
  knownRows.set(table, rowOf);
  return rowOf;
}

/**
 * Which of some doors holders open at an asked time, by an access table. People share rows and rows share timelines: each row, and each timeline on
 * each clock, is looked at once, however many have it. Cost of everybody at every door: the entries of the distinct rows.
 */
export class Openings {
  /** Distinct sets of asked minutes; doors of a site share theirs. */
  private readonly meantSets: (IntervalSet | undefined)[] = [];
  /** Index d: which of the sets counts at door d; -1 where the door is not asked about. */
  private readonly meantOfDoor: Int32Array;
  /** For each set, by timeline: whether it opens at any of the minutes. */
  private readonly states: Uint8Array[] = [];
  private readonly doorsOfRows = new Map<RowNumber, readonly Position[]>();

  /** `meantAt` gives the asked minutes on the clock of a door's site, one and the same set for all doors of a site; undefined for all minutes. */
  constructor(
    readonly table: AccessTable,
    private readonly doors: readonly Position[] | undefined,
    meantAt: (door: Position) => IntervalSet | undefined,
  ) {
    this.rowOf = rowsOfHolders(table);
    this.meantOfDoor = new Int32Array(table.compiled.doors.length).fill(-1);
    for (const door of doors ?? table.compiled.doors.map(({ position }) => position)) {
      const meant = meantAt(door);
      const known = this.meantSets.indexOf(meant);
      this.meantOfDoor[door] = known < 0 ? this.meantSets.push(meant) - 1 : known;
    }
  }

  /** The row of a holder in the table. */
  readonly rowOf: (holder: HolderNumber) => RowNumber;

  /** The asked doors that a row opens at the asked time, in order of position. */
  doorsOf(row: RowNumber): readonly Position[] {
    const known = this.doorsOfRows.get(row);
    if (known) return known;
    const found: Position[] = [];
    const { rows } = this.table;
    if (this.doors && this.doors.length <= looksUp) {
      for (const door of this.doors) if (this.opensAt(row, door)) found.push(door);
    } else
      for (let i = rows.start(row), end = rows.end(row); i < end; i++) {
        const door = rows.doors[i] as Position;
        if (this.opens(rows.times[i] as TimelineNumber, door)) found.push(door);
      }
    this.doorsOfRows.set(row, found);
    return found;
  }

  /** Whether a row opens a door at the asked time. */
  opensAt(row: RowNumber, door: Position): boolean {
    return this.opens(timelineAt(this.table.rows, row, door), door);
  }

  /** When holders open any of some doors, taken together, within the minutes of the table: all of them, not only those that are asked. */
  timesOf(holders: readonly HolderNumber[], doors: readonly Position[]): IntervalSet {
    const timelines = new Set<TimelineNumber>();
    const rows = new Set<RowNumber>();
    for (const holder of holders) rows.add(this.rowOf(holder));
    for (const row of rows) for (const door of doors) timelines.add(timelineAt(this.table.rows, row, door));
    let times: IntervalSet = [];
    for (const timeline of timelines) times = union(times, this.table.timelines.set(timeline));
    return times;
  }

  private opens(timeline: TimelineNumber, door: Position): boolean {
    const at = this.meantOfDoor[door] as number;
    if (at < 0 || timeline === 0) return false;
    const meant = this.meantSets[at];
    if (meant === undefined) return true;
    let states = this.states[at];
    if (!states || timeline >= states.length) {
      // Timelines are added while people are put together from several cards.
      const more = new Uint8Array(Math.max(this.table.timelines.size, 2 * (states?.length ?? 0)));
      if (states) more.set(states);
      this.states[at] = states = more;
    }
    if (states[timeline] === unknown) states[timeline] = meet(this.table.timelines.set(timeline), meant) ? open : shut;
    return states[timeline] === open;
  }
}
