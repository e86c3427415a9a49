import type { HoursLanguage } from "./hours-language";

/** Dates of a day type, in the dative. */
const dayTypeWords = (dayType: string): string => (dayType === "public" ? "Feiertagen" : `Tagen „${dayType}“`);

const counted = (dates: number): string => `${dates} ${dates === 1 ? "Tag" : "Tage"}`;

/** Hours in German: "Mo–Fr 08–18, und jede Nacht 20–06, nicht an Feiertagen (12 Tage)". */
export const germanHours: HoursLanguage = {
  months: ["Jänner", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"],
  days: ["Mo", "Di", "Mi", "Do", "Fr", "Sa", "So"],
  date: (day, month, year) => `${day}. ${month} ${year}`,
  never: "Nie",
  neverInWeek: "nie",
  atAllHours: "Zu jeder Zeit",
  everyDay: "täglich",
  everyNight: "jede Nacht",
  allDay: "ganztägig",
  and: " und ",
  andPart: ", und ",
  not: "nicht",
  onDates: (dates) => `am ${dates}`,
  onCount: (dates) => `an ${dates} ${dates === 1 ? "Tag" : "Tagen"}`,
  onSome: (some, of, dayType, dates) => `an ${some} von ${of} ${dayTypeWords(dayType)}${dates === undefined ? "" : ` (${dates})`}`,
  onDayType: (dayType, dates) => `an ${dayTypeWords(dayType)} (${dates})`,
  datesCounted: counted,
  moreDates: (dates) => ` und an ${dates} weiteren Tagen`,
  holidaysToo: ", auch an Feiertagen",
  only: "Nur",
  from: (date) => ` ab ${date}`,
  until: (date) => ` bis ${date}`,
};
