import type { HoursLanguage } from "./hours-language";

/** What dates of a day type are called. */
export const dayTypeWords = (dayType: string): string => (dayType === "public" ? "public holidays" : `${dayType} days`);

const counted = (dates: number): string => `${dates} ${dates === 1 ? "date" : "dates"}`;

/** Hours in English: "Mon–Fri 08–18, and every night 20–06, not on public holidays (12 dates)". */
export const englishHours: HoursLanguage = {
  months: ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"],
  days: ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"],
  date: (day, month, year) => `${day} ${month} ${year}`,
  never: "Never",
  neverInWeek: "never",
  atAllHours: "At all hours",
  everyDay: "every day",
  everyNight: "every night",
  allDay: "all day",
  and: " and ",
  andPart: ", and ",
  not: "not",
  onDates: (dates) => `on ${dates}`,
  onCount: (dates) => `on ${counted(dates)}`,
  onSome: (some, of, dayType, dates) => `on ${some} of ${of} ${dayTypeWords(dayType)}${dates === undefined ? "" : ` (${dates})`}`,
  onDayType: (dayType, dates) => `on ${dayTypeWords(dayType)} (${dates})`,
  datesCounted: counted,
  moreDates: (dates) => ` and ${dates} more dates`,
  holidaysToo: ", holidays too",
  only: "Only",
  from: (date) => ` from ${date}`,
  until: (date) => ` until ${date}`,
};
