import type { Position } from "../compile/position-index";
import type { RouteList } from "../compile/route-lists";
import { required } from "../kernel/invariant";
import { PairTable } from "../kernel/pair-table";
import { routesOf } from "../paths/paths";
import { timelineAt } from "../table/access-rows";
import type { RowNumber } from "../table/access-rows";
import { never } from "../table/timelines";
import type { TimelineNumber } from "../table/timelines";
import type { IntervalSet } from "../time/intervals";
import type { Window } from "../time/window";
import type { Zone } from "../time/zone";
import { remembered } from "../kernel/remembered";
import type { Holder, Judged } from "./judged";

/** Whether two sets have a minute in common. */
export function meet(a: IntervalSet, b: IntervalSet): boolean {
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    if (Math.max(a[i] as number, b[j] as number) < Math.min(a[i + 1] as number, b[j + 1] as number)) return true;
    if ((a[i + 1] as number) < (b[j + 1] as number)) i += 2;
    else j += 2;
  }
  return false;
}

/** A path that carries: the grant, the level through which it gets to the door, if any, and how it comes to the credential. */
export interface CarryingPath {
  readonly grant: Position;
  readonly level: Position | undefined;
  readonly by: RouteList["by"];
}

export type PathsByDoor = ReadonlyMap<Position, readonly CarryingPath[]>;

const carries = "1";
const carriesNot = "0";

/** A path to a door and when its windows hold and its schedules are open, whoever has it. */
interface OpenPath {
  readonly path: CarryingPath;
  readonly open: TimelineNumber;
}

/** The paths of one list of grants for one calendar by door, and what is given out where some of them carry, by a text that says which. */
interface OpenPaths {
  readonly byDoor: ReadonlyMap<Position, readonly OpenPath[]>;
  readonly carrying: (which: string) => PathsByDoor;
}

/**
 * Which paths carry for whom: those of which at some minute at which the credential opens the door the windows hold and the schedules are open.
 * Lists of grants are shared by all who have the same, and so is what is worked out here. Cost: the paths of each list and calendar once, and for each row one
 * look at each; rows for which the same paths of a list carry share one answer.
 */
class Carriers {
  constructor(private readonly judged: Judged) {}

  /** The carrying paths of a credential, by door, a map for each of the lists by which grants come to it. */
  readonly of = remembered((credential: Position): readonly PathsByDoor[] => {
    const compiled = this.judged.credential(credential);
    const row = this.judged.liveRow(credential);
    if (row === 0) return [];
    return routesOf(compiled).map(({ list }) => this.carryingFor(list)(compiled.holder?.calendar ?? -1)(row));
  });

  /** The same of all credentials of a holder. */
  ofHolder(holder: Holder): PathsByDoor[] {
    return holder.credentials.flatMap((credential) => this.of(credential));
  }

  at(credential: Position, door: Position): CarryingPath[] {
    return this.of(credential).flatMap((paths) => paths.get(door) ?? []);
  }

  private readonly carryingFor = remembered((list: RouteList) =>
    remembered((calendar: Position) => {
      const paths = this.openPaths(list, calendar === -1 ? undefined : calendar);
      return remembered((row: RowNumber) => this.carrying(paths, row));
    }),
  );

  private openPaths(list: RouteList, calendar: Position | undefined): OpenPaths {
    const { compiled, ahead } = this.judged;
    const { timelines } = ahead;
    const byDoor = new Map<Position, OpenPath[]>();
    for (const { grant, window } of list.routes) {
      const { blocks, schedule } = required(compiled.grants.at(grant), "positions are valid");
      if (blocks) continue;
      const inWindow = this.windowNumber(window);
      if (inWindow === never) continue;
      for (const [door, ways] of compiled.waysOf(grant)) {
        const at = this.judged.door(door);
        for (const way of ways) {
          let open = inWindow;
          for (const one of [way.schedule, schedule])
            if (one !== undefined && open !== never) open = timelines.intersect(open, this.scheduleNumber(one, calendar ?? at.calendar, at.zone));
          if (open === never) continue;
          const path = { path: { grant, level: way.level, by: list.by }, open };
          const known = byDoor.get(door);
          if (known) known.push(path);
          else byDoor.set(door, [path]);
        }
      }
    }
    const carrying = remembered((which: string): PathsByDoor => {
      const found = new Map<Position, readonly CarryingPath[]>();
      let at = 0;
      for (const [door, paths] of byDoor) {
        const those = paths.filter(() => which[at++] === carries);
        if (those.length > 0)
          found.set(
            door,
            those.map(({ path }) => path),
          );
      }
      return found;
    });
    return { byDoor, carrying };
  }

  private carrying({ byDoor, carrying }: OpenPaths, row: RowNumber): PathsByDoor {
    const { rows } = this.judged.ahead;
    let which = "";
    for (const [door, paths] of byDoor) {
      const opens = timelineAt(rows, row, door);
      for (const { open } of paths) which += opens !== never && this.meetAhead(opens, open) ? carries : carriesNot;
    }
    return carrying(which);
  }

  private readonly meetings = new PairTable();

  /** Whether two timelines have a minute in common; neither is without any. */
  private meetAhead(a: TimelineNumber, b: TimelineNumber): boolean {
    if (a === b) return true;
    const { meetings } = this;
    const { timelines } = this.judged.ahead;
    const known = meetings.get(a, b);
    if (known >= 0) return known === 1;
    const found = meet(timelines.set(a), timelines.set(b));
    meetings.set(a, b, found ? 1 : 0);
    return found;
  }

  private windowNumber(window: Window): TimelineNumber {
    const { timelines, timeframe } = this.judged.ahead;
    return timelines.number(timeframe.holdsThroughout(window) ? timeframe.span : timeframe.window(window));
  }

  private readonly schedules = new Map<Zone, Map<string, TimelineNumber>>();

  private scheduleNumber(schedule: Position, calendar: Position | undefined, zone: Zone): TimelineNumber {
    const { timelines, timeframe } = this.judged.ahead;
    const inZone = this.schedules.get(zone) ?? new Map<string, TimelineNumber>();
    this.schedules.set(zone, inZone);
    const key = `${schedule} ${calendar ?? ""}`;
    let number = inZone.get(key);
    if (number === undefined) inZone.set(key, (number = timelines.number(timeframe.schedule(schedule, calendar, zone))));
    return number;
  }
}

const carriers = new WeakMap<Judged, Carriers>();

/** The one place where it is worked out for a register. */
export function carriersOf(judged: Judged): Carriers {
  const known = carriers.get(judged) ?? new Carriers(judged);
  carriers.set(judged, known);
  return known;
}
