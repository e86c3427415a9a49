import type { FacilityDocument } from "@/core/facility/document";
import type { PlanHead } from "@/core/plans/plan";
import type { DrawnPlan } from "@/operations/administration/demo-plans";
import { garden, island, vault } from "../places";
import { gardenGrounds, herbarium, laboratories, lodgings, offices, towerFloor, towerFoot } from "./garden";
import type { Pen } from "./pen";
import { islandStation, mountainVault } from "./stations";

const drawings: readonly (readonly [PlanHead, Pen])[] = [
  [{ name: "Garden grounds", site: garden, storey: 0 }, gardenGrounds()],
  [{ name: "Laboratories", site: garden, area: "a-labs", storey: 0 }, laboratories()],
  [{ name: "Offices", site: garden, area: "a-offices", storey: 0 }, offices()],
  [{ name: "Staff lodgings", site: garden, area: "a-lodgings", storey: 0 }, lodgings()],
  [{ name: "Herbarium", site: garden, area: "a-herbarium", storey: 0 }, herbarium()],
  [{ name: "Library tower, foot", site: garden, area: "a-tower", storey: 0 }, towerFoot()],
  ...[1, 2, 3, 4, 5].map((floor): readonly [PlanHead, Pen] => [
    { name: `Library tower, floor ${floor}`, site: garden, area: "a-tower", storey: floor },
    towerFloor(floor),
  ]),
  [{ name: "Island station", site: island, storey: 0 }, islandStation()],
  [{ name: "Mountain vault", site: vault, storey: -1 }, mountainVault()],
];

/** The plans of an institute, with those of their doors that it has. */
export function plansOf({ doors = [], areas = [] }: Pick<FacilityDocument, "doors" | "areas">): DrawnPlan[] {
  const there = new Set(doors.map(({ id }) => id));
  const isArea = new Set(areas.map(({ id }) => id));
  return drawings.map(([{ area, ...head }, pen]) => ({
    ...head,
    ...(area !== undefined && isArea.has(area) && { area }),
    svg: pen.svg,
    doors: pen.doors.filter(({ door }) => there.has(door)),
  }));
}
