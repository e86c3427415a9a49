import type { CompiledFacility } from "../compile/compiled-facility";
import type { CountedPlace } from "../events/use-counts";
import { calendarAt } from "../paths/paths";
import { openAt } from "../time/schedule";
import { zoneOf } from "../time/zone";
import { businessHoursOf } from "./business-hours";
import { remembered } from "../kernel/remembered";
import { own } from "./settings";
import type { RuleSettings } from "./settings";

/** A place of doors, and a text that is another one when its clock or business hours are. */
export type PlaceOfDoor = CountedPlace & { readonly hoursText: string };

/** Where the events of each door are counted, by a register and the business hours that are set. */
export function countedPlaces(compiled: CompiledFacility, settings: RuleSettings): (door: string) => PlaceOfDoor | undefined {
  const { facility, indexes } = compiled;
  const businessOf = businessHoursOf(settings);
  const placeOfSite = remembered((id: string): PlaceOfDoor | undefined => {
    const site = facility.sites[indexes.of("sites").get(id) ?? -1];
    if (!site) return undefined;
    const { business } = own(settings.sites, id) ?? {};
    const schedule = businessOf(id);
    const position = site.calendar === undefined ? undefined : indexes.of("calendars").get(site.calendar);
    const calendar = position === undefined ? undefined : calendarAt(compiled, position);
    const zone = zoneOf(site.timeZone);
    // People come in the same minutes of the day: what is known of a minute is asked for again and again.
    const isBusiness = remembered((minute: Parameters<CountedPlace["isBusiness"]>[0]) => openAt(schedule, calendar, zone, minute));
    const days = position === undefined ? undefined : facility.calendars[position]?.days;
    return { site: id, zone, isBusiness, hoursText: JSON.stringify([site.timeZone, business ?? null, days ?? null]) };
  });
  return (door) => {
    const at = compiled.doors[compiled.doorById.get(door) ?? -1];
    return at && placeOfSite(at.door.site);
  };
}
