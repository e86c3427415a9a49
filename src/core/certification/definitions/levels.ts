import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { DoorWay } from "../../compile/compiled-facility";
import type { RouteList } from "../../compile/route-lists";
import { routesOf } from "../../paths/paths";
import { livingWindow } from "../../paths/timeframe";
import { nothing, union } from "../../time/intervals";
import { intersectWindows, windowIsEmpty } from "../../time/window";
import type { Window } from "../../time/window";
import { credentialLabel } from "../../facility/labels";
import type { Defined, OpenDoor, Reading } from "./reading";
import { definedHours, doorParts, firstNames } from "./reading";

/** What a level does at a door beside opening it, each once, in order. */
function actionsOf({ compiled }: Reading, level: Position, ways: readonly DoorWay[]): string[] {
  const rows = compiled.facility.levels[level]?.rows ?? [];
  const found = new Set(ways.flatMap(({ row }) => (row === undefined ? [] : (rows[row]?.actions ?? []))));
  return [...found].filter((action) => action !== "" && action !== "open").sort();
}

/** When a level opens each of its doors. */
function doorsOfLevel(reading: Reading, level: Position): OpenDoor[] {
  const { compiled, ahead, week } = reading;
  const { id } = required(compiled.facility.levels[level], "positions are valid");
  return [...compiled.cover({ level: id })].map(([door, ways]) => {
    const { calendar, zone } = required(compiled.doors[door], "positions are valid");
    let [open, usual] = [nothing, nothing];
    for (const { schedule } of ways) {
      if (schedule === undefined) continue;
      open = union(open, ahead.schedule(schedule, calendar, zone));
      usual = union(usual, week.schedule(schedule, calendar, zone));
    }
    return { door, open, week: usual, actions: actionsOf(reading, level, ways) };
  });
}

interface LevelHolders {
  names: string[];
  count: number;
  readonly cardholders: Position[];
}

/** Who has each level at some time ahead: by a grant that is not over then, on a credential that is live then. Cost: the ways of everybody. */
function holdersOfLevels({ compiled, horizon }: Reading): ReadonlyMap<Position, LevelHolders> {
  const { facility, indexes } = compiled;
  const ahead: Window = { from: horizon.ahead.from, until: horizon.ahead.to };
  const known = new Map<RouteList, readonly { readonly level: Position; readonly window: Window }[]>();
  const levelsOf = (list: RouteList) => {
    let found = known.get(list);
    if (!found) {
      found = list.routes.flatMap(({ grant, window }) => {
        const { open, effect } = facility.grants[grant] ?? {};
        if (effect === "block" || open === undefined) return [];
        const ids =
          open.level !== undefined
            ? [open.level]
            : open.bundle !== undefined
              ? facility.bundles[indexes.of("bundles").get(open.bundle) ?? -1]?.levels
              : undefined;
        return (ids ?? []).map((id) => ({ level: required(indexes.of("levels").get(id), "references resolve"), window }));
      });
      known.set(list, found);
    }
    return found;
  };
  const holders = new Map<Position, LevelHolders>();
  const add = (credentials: readonly Position[], name: string, cardholder: Position | undefined): void => {
    const held = new Set<Position>();
    for (const position of credentials) {
      const credential = required(compiled.credentials.at(position), "positions are valid");
      let live = intersectWindows(ahead, livingWindow(credential.life));
      if (credential.holder) live = intersectWindows(live, livingWindow(credential.holder.life));
      if (windowIsEmpty(live)) continue;
      for (const { list } of routesOf(credential))
        for (const { level, window } of levelsOf(list)) if (!held.has(level) && !windowIsEmpty(intersectWindows(live, window))) held.add(level);
    }
    for (const level of held) {
      let own = holders.get(level);
      if (!own) holders.set(level, (own = { names: [], count: 0, cardholders: [] }));
      own.count++;
      own.names.push(name);
      if (cardholder !== undefined) own.cardholders.push(cardholder);
    }
  };
  for (const { position, cardholder, credentials } of compiled.cardholders.all()) add(credentials, cardholder.name, position);
  for (const { position, credential, holder } of compiled.credentials.all()) if (!holder) add([position], credentialLabel(credential), undefined);
  return holders;
}

/** What each level opens, and when; a level without a door is none. */
export function levelDefinitions(reading: Reading): Defined[] {
  const { compiled } = reading;
  let holders: ReadonlyMap<Position, LevelHolders> | undefined;
  return compiled.facility.levels.flatMap(({ id, name }, level): Defined[] => {
    if (compiled.cover({ level: id }).size === 0) return [];
    return [
      {
        subject: { kind: "level", id, name },
        parts: () => doorParts(reading, doorsOfLevel(reading, level)),
        freeze: () => {
          holders ??= holdersOfLevels(reading);
          const doors = doorsOfLevel(reading, level);
          const counts = new Map<string, number>();
          for (const { actions } of doors) for (const action of actions) counts.set(action, (counts.get(action) ?? 0) + 1);
          const held = holders.get(level);
          return {
            definition: {
              kind: "level",
              ...definedHours(reading, doors),
              doors: doors.length,
              actions: [...counts].map(([action, count]) => ({ action, doors: count })),
              people: firstNames(held?.names ?? [], held?.count ?? 0),
            },
            doors: doors.map(({ door }) => door),
            about: [],
          };
        },
      },
    ];
  });
}
