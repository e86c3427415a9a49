/** What of a calendar only we write into a file: the rule of an entry, its priority, and the calendar that it is. */
export const ruleName = "x-nomade-rule";
export const priorityName = "x-nomade-priority";
export const idName = "x-nomade-calendar";
/** What others write a calendar's name, and its zone, into. */
export const calendarName = "x-wr-calname";
export const zoneName = "x-wr-timezone";

/** How many years are written out, or read, where a rule has to be said as dates. */
export const yearsSpelledOut = 10;
