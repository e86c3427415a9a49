import type { Door } from "@/core/facility/document";

/** On which unit each door of the institute hangs, by the beginnings of the doors' ids; the first that fits counts. */
const unitOf: readonly (readonly [unit: string, beginnings: readonly string[]])[] = [
  ["U-01", ["g-north", "g-south", "g-turn-", "g-gatehouse", "g-keys"]],
  ["U-02", ["g-glass-", "g-palm", "g-propagation", "g-visitor", "g-shop"]],
  ["U-03", ["g-herb-"]],
  ["U-04", ["g-lab-", "g-isotope"]],
  ["U-05", ["g-data", "g-pesticide"]],
  ["U-06", ["g-office-"]],
  ["U-07", ["g-lodge-"]],
  ["U-08", ["g-workshop-", "g-compost"]],
  ["U-09", ["g-lift", "g-floor-"]],
  ["U-10", ["i-"]],
  ["U-11", ["v-"]],
];

/** A door with the unit that it hangs on; without one where it belongs to none of the institute's own houses. */
export function onUnit(door: Door): Door {
  const found = unitOf.find(([, beginnings]) => beginnings.some((beginning) => door.id.startsWith(beginning)));
  return found ? { ...door, controller: found[0] } : door;
}
