/** The words and the grammar in which hours are told, in one language. What they are put together to can be read back, in each. */
export interface HoursLanguage {
  /** From January and from Monday on, in short. */
  readonly months: readonly string[];
  readonly days: readonly string[];
  readonly date: (day: number, month: string, year: number) => string;
  /** Said of a whole range, and of a week. */
  readonly never: string;
  readonly neverInWeek: string;
  readonly atAllHours: string;
  readonly everyDay: string;
  readonly everyNight: string;
  readonly allDay: string;
  /** Between two hours of a day, two dates, and the parts of a week. */
  readonly and: string;
  readonly andPart: string;
  /** Instead of hours: it does not open. */
  readonly not: string;
  readonly onDates: (dates: string) => string;
  readonly onCount: (dates: number) => string;
  /** On some of all dates of a day type; `dates` names them, if they are few. */
  readonly onSome: (some: number, of: number, dayType: string, dates: string | undefined) => string;
  readonly onDayType: (dayType: string, dates: string) => string;
  readonly datesCounted: (dates: number) => string;
  readonly moreDates: (dates: number) => string;
  readonly holidaysToo: string;
  readonly only: string;
  readonly from: (date: string) => string;
  readonly until: (date: string) => string;
}
