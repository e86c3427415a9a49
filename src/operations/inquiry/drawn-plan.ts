import type { Position } from "@/core/compile/position-index";
import { groupBy } from "@/core/kernel/compare";
import { outside } from "@/core/routes/places";
import type { Place } from "@/core/routes/places";
import type { Routes } from "@/core/routes/routes";
import type { RowNumber } from "@/core/table/access-rows";
import type { DrawnPlan, ToldPlace } from "./routes-answer";

/** So many places and passages between them are drawn; more cannot be read. */
const placesDrawn = 36;

/** How what is drawn is named. */
export interface PlanNames {
  readonly place: (place: Place) => ToldPlace;
  readonly doorName: (door: Position) => string;
}

/**
 * The places that routes lead past and the doors between them: those of the ways first, then what lies around where they end, or what is got to. `gotTo` are
 * the places that somebody gets to, `ways` told ways, each its doors.
 */
export function drawnPlan(
  names: PlanNames,
  routes: Routes,
  rows: Iterable<RowNumber>,
  gotTo: ReadonlySet<Place>,
  ways: readonly (readonly Position[])[],
  asked: readonly Position[] | undefined,
): DrawnPlan {
  const onWay = new Set(ways.flat());
  const ends = new Set(routes.endPlaces());
  const passed = routes.passages.flatMap(({ door, from, to }) => (onWay.has(door) ? [from, to] : []));
  const all = new Set([outside, ...passed, ...ends, ...(asked ? routes.placesLeadingTo() : gotTo)]);
  const withDoors = new Set(routes.passages.flatMap(({ from, to }) => [from, to]));
  const worthDrawing = [...all].filter((place) => place === outside || withDoors.has(place));
  const shown = worthDrawing.slice(0, placesDrawn);
  const numberOf = new Map(shown.map((place, i) => [place, i]));
  const between = groupBy(
    routes.passages.filter(({ from, to }) => from !== to && numberOf.has(from) && numberOf.has(to)),
    ({ from, to }) => `${from} ${to}`,
  );
  const doors = new Set([...between.values()].flat().map(({ door }) => door));
  const taken = new Set<Position>();
  for (const row of rows) {
    if (taken.size === doors.size) break;
    for (const door of routes.taking(row, doors)) taken.add(door);
  }
  return {
    places: shown.map((place) => ({
      ...names.place(place),
      state: place === outside ? "start" : gotTo.has(place) ? "got-to" : "never",
      isAsked: ends.has(place),
    })),
    passages: [...between.values()].map((passages) => ({
      from: numberOf.get(passages[0]?.from ?? outside) ?? 0,
      to: numberOf.get(passages[0]?.to ?? outside) ?? 0,
      doors: passages.map(({ door }) => names.doorName(door)),
      isTaken: passages.some(({ door }) => taken.has(door)),
      isOnWay: passages.some(({ door }) => onWay.has(door)),
    })),
    more: worthDrawing.length - shown.length,
  };
}
