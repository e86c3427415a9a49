import type { FacilityDocument } from "@/core/facility/document";
import { writeCalendar } from "@/intake/formats/calendar/write-calendar";

/** A calendar of a frozen document as iCalendar, its dates from the year of the export on; undefined where there is none of the id. */
export function calendarFile(text: string, id: string): string | undefined {
  const { calendars, asOf } = JSON.parse(text) as FacilityDocument;
  const calendar = calendars?.find((one) => one.id === id);
  return calendar && writeCalendar(calendar, Number(asOf.slice(0, 4)));
}
