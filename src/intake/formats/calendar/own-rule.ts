import type { DocumentDayRule } from "@/core/facility/document";
import type { CivilDay } from "@/core/time/civil-day";
import { yearMonthDay } from "@/core/time/civil-day";
import { calendarsIn } from "./calendar-text";
import type { CalendarProperty } from "./event-properties";
import { allNamed, propertiesOf, textOf } from "./event-properties";
import { ruleName } from "./own-properties";
import { eventOf } from "./write-calendar";

/** The keys of each rule of a calendar entry, sorted. */
const ruleKeys = new Set(["on", "from to", "yearly", "yearlyFrom yearlyTo", "easter", "nth"]);
/** What says when an event is. */
const whenNames = ["dtstart", "dtend", "rrule", "rdate", "exdate", "recurrence-id", "duration"];

function ruleIn(properties: readonly CalendarProperty[]): DocumentDayRule | undefined {
  try {
    const value: unknown = JSON.parse(textOf(properties, ruleName) ?? "");
    return typeof value === "object" && value !== null && ruleKeys.has(Object.keys(value).sort().join(" ")) ? (value as DocumentDayRule) : undefined;
  } catch {
    return undefined;
  }
}

const whenOf = (properties: readonly CalendarProperty[]): string =>
  JSON.stringify(whenNames.map((name) => allNamed(properties, name).map(({ parameters, values, written }) => [parameters, values, written])));

/** What an entry of a rule says when it is written; undefined where there is no such rule. */
function whenWritten(rule: DocumentDayRule, year: number): string | undefined {
  try {
    const event = eventOf({ name: "", dayType: "", ...rule }, "", year);
    const [calendar] = event ? calendarsIn(`BEGIN:VCALENDAR\r\n${event.toString()}\r\nEND:VCALENDAR`) : [];
    return calendar?.events[0] && whenOf(propertiesOf(calendar.events[0].lines));
  } catch {
    // What somebody wrote there is no rule of ours.
    return undefined;
  }
}

/** The rule that we wrote into an event, where the event still says what it said then: what somebody edited is read as edited. */
export function ownRuleOf(properties: readonly CalendarProperty[], start: CivilDay): DocumentDayRule | undefined {
  const rule = ruleIn(properties);
  if (!rule) return undefined;
  const { year } = yearMonthDay(start);
  const written = whenOf(properties);
  return [year, year + 1].some((one) => whenWritten(rule, one) === written) ? rule : undefined;
}
