import { required } from "../kernel/invariant";
import type { Position } from "./position-index";
import type { Facility } from "../facility/facility";
import { zoneOf } from "../time/zone";
import type { CompiledDoor, CompiledFacility } from "./compiled-facility";
import type { PositionIndexes } from "./position-indexes";
import { sameIds } from "./position-indexes";

/** Lays the doors out; they are those of the facility before where nothing that they refer to stands elsewhere. */
export function compileDoors(facility: Facility, indexes: PositionIndexes, before: CompiledFacility | undefined): readonly CompiledDoor[] {
  if (before && isLaidOutAlike(before.facility, facility)) return before.doors;
  const sites = new Map(facility.sites.map((site) => [site.id, site]));
  const [areaById, doorById, schedules, calendars] = [indexes.of("areas"), indexes.of("doors"), indexes.of("schedules"), indexes.of("calendars")];
  const scheduleAt = (id: string): Position => required(schedules.get(id), "references resolve");
  return facility.doors.map((door, position) => {
    const site = required(sites.get(door.site), "references resolve");
    const areas: Position[] = [];
    for (let area = areaById.get(door.area ?? ""); area !== undefined; area = areaById.get(facility.areas[area]?.parent ?? "")) areas.push(area);
    return {
      position,
      door,
      zone: zoneOf(site.timeZone),
      calendar: site.calendar === undefined ? undefined : calendars.get(site.calendar),
      via: door.via === undefined ? undefined : doorById.get(door.via),
      areas: door.area === undefined ? [] : areas,
      entry: door.entry ?? "card",
      entryRows: (door.entryRows ?? []).map(({ schedule, entry }) => ({ schedule: scheduleAt(schedule), entry })),
      unlock: door.unlock === undefined ? undefined : scheduleAt(door.unlock),
    };
  });
}

const isLaidOutAlike = (a: Facility, b: Facility): boolean =>
  a.doors === b.doors && a.sites === b.sites && a.areas === b.areas && sameIds(a.schedules, b.schedules) && sameIds(a.calendars, b.calendars);
