import type { Door, FacilityDocument, Level, Area } from "@/core/facility/document";
import { makePeople } from "./people";
import { areas, calendars, doorGroups, doors, garden, schedules, sites } from "./places";
import { seeded } from "./random";
import { bundles, levels } from "./rights";
import { onUnit } from "./units";

export interface InstituteSize {
  readonly cardholders: number;
  readonly doors: number;
  readonly seed: number;
}

/** Instant of the demo's export: fixed, so that the same seed makes the same bytes. */
export const asOf = "2026-11-20T05:10:00Z";

const doorsAnAnnex = 20;

/** Further buildings for a larger institute, each an area with its doors and two levels. */
function annexes(count: number): { areas: Area[]; doors: Door[]; levels: Level[] } {
  const made = { areas: [] as Area[], doors: [] as Door[], levels: [] as Level[] };
  for (let n = 0; n < count; n++) {
    const annex = Math.floor(n / doorsAnAnnex) + 1;
    const number = String(annex).padStart(3, "0");
    const area = `a-annex-${number}`;
    if (n % doorsAnAnnex === 0) {
      made.areas.push({ id: area, name: `Annex ${annex}`, site: garden, sensitivity: annex % 9 === 0 ? 2 : annex % 3 === 0 ? 1 : 0 });
      made.levels.push({ id: `l-annex-${number}-day`, name: `Annex ${annex} by day`, rows: [{ area, schedule: "staff-day" }] });
      made.levels.push({ id: `l-annex-${number}-late`, name: `Annex ${annex}, late`, rows: [{ area, schedule: "late" }] });
    }
    const room = (n % doorsAnAnnex) + 1;
    made.doors.push({ id: `x-${number}-${String(room).padStart(2, "0")}`, name: `Annex ${annex}, room ${room}`, site: garden, area });
  }
  return made;
}

/** The Verrane Institute: invented, as large as asked for (never smaller than its named doors), the same for the same seed. */
export function verraneInstitute({ cardholders, doors: doorCount, seed }: InstituteSize): FacilityDocument {
  const random = seeded(seed);
  const extra = annexes(Math.max(0, doorCount - doors.length));
  const people = makePeople(
    random,
    cardholders,
    extra.levels.map(({ id }) => id),
  );
  const ownerOf = (department: string): string | undefined => people.groups.find(({ id }) => id === department)?.manager;
  const owners: Readonly<Record<string, string>> = {
    "a-vault": "d-seedbank",
    "a-herbarium": "d-herbarium",
    "a-data": "d-computing",
    "a-pesticide": "d-plant-health",
    "a-labs": "d-genetics",
    "a-garden": "d-horticulture",
    "a-glass": "d-horticulture",
    "a-isotope": "d-genetics",
    "a-types": "d-herbarium",
    "a-visitor": "d-education",
    "a-offices": "d-facilities",
    "a-lodgings": "d-facilities",
    "a-gatehouse": "d-security",
    "a-workshops": "d-facilities",
    "a-tower": "d-collections",
    "a-station": "d-island",
    "a-fieldlab": "d-island",
    "a-corridor": "d-seedbank",
    "a-hall": "d-seedbank",
  };
  return {
    format: "nomade.facility/1",
    name: "Verrane Institute",
    timeZone: "Europe/Vienna",
    asOf,
    sites,
    areas: [
      ...areas.map((area) => {
        const owner = ownerOf(owners[area.id] ?? "");
        return owner === undefined ? area : { ...area, owner };
      }),
      ...extra.areas,
    ],
    calendars,
    schedules,
    doors: [...doors.map(onUnit), ...extra.doors],
    doorGroups,
    levels: [...levels, ...extra.levels],
    bundles,
    groups: people.groups,
    memberships: people.memberships,
    cardholders: people.cardholders,
    credentials: people.credentials,
    grants: people.grants,
  };
}
