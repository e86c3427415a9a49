import type { GivenRoutes } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { RouteList } from "../compile/route-lists";
import { required } from "../kernel/invariant";
import { routesOf } from "../paths/paths";
import { timelineAt } from "../table/access-rows";
import type { RowNumber } from "../table/access-rows";
import { never } from "../table/timelines";
import type { TimelineNumber } from "../table/timelines";
import type { IntervalSet } from "../time/intervals";
import type { Window } from "../time/window";
import type { Zone } from "../time/zone";
import { remembered } from "../kernel/remembered";
import type { Judged } from "./judged";

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

/**
 * Which paths carry for whom: those of which at some minute at which the credential opens the door the windows hold and the schedules are open.
 * Lists of grants are shared by all who have the same, and so is what is worked out here: once for each list, calendar and row. Cost: the doors of the
 * grants of each of these.
 */
class Carriers {
  constructor(private readonly judged: Judged) {}

  /** The carrying paths of a credential, by door, a map for each of the lists by which grants come to it. */
  readonly of = remembered((credential: Position): readonly PathsByDoor[] => {
    const compiled = this.judged.credential(credential);
    const row = this.judged.liveRow(credential);
    if (row === 0) return [];
    return routesOf(compiled).map((routes) => this.through(routes, compiled.holder?.calendar, row));
  });

  at(credential: Position, door: Position): CarryingPath[] {
    return this.of(credential).flatMap((paths) => paths.get(door) ?? []);
  }

  private readonly known = new Map<RouteList, Map<string, PathsByDoor>>();

  private through({ list }: GivenRoutes, calendar: Position | undefined, row: RowNumber): PathsByDoor {
    const ofList = this.known.get(list) ?? new Map<string, PathsByDoor>();
    this.known.set(list, ofList);
    const key = `${calendar ?? ""} ${row}`;
    let paths = ofList.get(key);
    if (!paths) ofList.set(key, (paths = this.workOut(list, calendar, row)));
    return paths;
  }

  private workOut(list: RouteList, calendar: Position | undefined, row: RowNumber): PathsByDoor {
    const { compiled, ahead } = this.judged;
    const { timelines, rows } = ahead;
    const found = new Map<Position, CarryingPath[]>();
    for (const { grant, window } of list.routes) {
      const { blocks, schedule } = required(compiled.grants.at(grant), "positions are valid");
      if (blocks) continue;
      const inWindow = this.windowNumber(window);
      if (inWindow === never) continue;
      for (const [door, ways] of compiled.waysOf(grant)) {
        const open = timelineAt(rows, row, door);
        if (open === never) continue;
        const at = this.judged.door(door);
        const within = timelines.intersect(open, inWindow);
        for (const way of ways) {
          let carried = within;
          for (const one of [way.schedule, schedule])
            if (one !== undefined && carried !== never) carried = timelines.intersect(carried, this.scheduleNumber(one, calendar ?? at.calendar, at.zone));
          if (carried === never) continue;
          const path = { grant, level: way.level, by: list.by };
          const known = found.get(door);
          if (known) known.push(path);
          else found.set(door, [path]);
        }
      }
    }
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
