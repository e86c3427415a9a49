import { dayTypeWords } from "@/core/describe/english-hours";
import { unreachable } from "@/core/kernel/invariant";
import type { DayFilter, HoursOfDay, LocalTime, SiteWhen, When, Within } from "@/core/questions/when";
import type { Obstacle, WhenRefusal } from "@/core/questions/when-piece";
import { formatClock, weekdayNumber, weekdays } from "@/core/time/civil-day";
import type { CivilDay, Weekday } from "@/core/time/civil-day";
import { formatMinute } from "@/core/time/instant";
import { listWords } from "./numbers";
import { clockText, dateText, momentText } from "./times";

const dayNames: Readonly<Record<Weekday, string>> = {
  mon: "Monday",
  tue: "Tuesday",
  wed: "Wednesday",
  thu: "Thursday",
  fri: "Friday",
  sat: "Saturday",
  sun: "Sunday",
};
const dated = (date: CivilDay): string => `${dayNames[weekdays[weekdayNumber(date)] ?? "mon"].slice(0, 3)} ${dateText(date)}`;
const timeText = ({ date, minuteOfDay }: LocalTime): string => momentText(date, minuteOfDay);

function daysText(days: DayFilter): string {
  switch (days.kind) {
    case "every-day":
      return "";
    case "weekdays":
      return days.weekdays.join() === "mon,tue,wed,thu,fri" ? "Mondays to Fridays" : listWords(days.weekdays.map((day) => `${dayNames[day]}s`));
    case "weekend":
      return "weekends";
    case "day-type":
      return dayTypeWords(days.dayType);
    case "holiday":
      return days.name;
    default:
      return unreachable(days);
  }
}

function hoursText(hours: HoursOfDay): string {
  switch (hours.kind) {
    case "all-day":
      return "";
    case "clock":
      return `at ${formatClock(hours.minuteOfDay)}`;
    case "between":
      return `${formatClock(hours.start)}–${formatClock(hours.end)}`;
    case "business":
      return "in business hours";
    case "out-of-hours":
      return "out of hours";
    default:
      return unreachable(hours);
  }
}

const withinText = (within: Within): string =>
  within.kind === "dates"
    ? within.from === within.to
      ? `on ${dated(within.from)}`
      : `from ${dateText(within.from)} to ${dateText(within.to)}`
    : `from ${clockText(formatMinute(within.from))} to ${clockText(formatMinute(within.to))}`;

/** A time in few words, as it stands in the question: "weekends 22:00–04:00". */
function shortText(when: SiteWhen): string {
  switch (when.kind) {
    case "any":
      return "at any time";
    case "now":
      return "now";
    case "moment":
      return timeText(when.at);
    case "dates":
      return when.from === when.to ? dated(when.from) : `${dated(when.from)} – ${dated(when.to)}`;
    case "span":
      return `${timeText(when.from)} – ${timeText(when.to)}`;
    case "recurring": {
      const [days, hours] = [daysText(when.days), hoursText(when.hours)];
      const often = days === "" ? (when.hours.kind === "between" || when.hours.kind === "clock" ? "every day" : "") : days;
      return [often, hours].filter(Boolean).join(" ") || "every day";
    }
    default:
      return unreachable(when);
  }
}

/** A time in full, so that nothing about it is left to guess: "Sat 28 Nov 2026, 22:00 – Sun 29 Nov 2026, 06:00, at any minute of it". */
function fullText(when: SiteWhen): string {
  switch (when.kind) {
    case "any":
    case "now":
      return shortText(when);
    case "moment":
      return `${shortText(when)}, on each door's own clock`;
    case "dates":
    case "span":
      return `${shortText(when)}, at any minute of it`;
    case "recurring":
      return `${shortText(when)} ${withinText(when.within)}, at any minute of it`;
    default:
      return unreachable(when);
  }
}

export const whenShort = (when: When): string => (when.kind === "by-site" ? `${shortText(when.sites[0]?.when ?? { kind: "any" })}, by site` : shortText(when));

export const whenFull = (when: When): string =>
  when.kind === "by-site" ? when.sites.map(({ site, when: own }) => `${site}: ${fullText(own)}`).join("; ") : fullText(when);

function obstacleText(obstacle: Obstacle): string {
  switch (obstacle.why) {
    case "two-readings":
      return `“${obstacle.text}” can be read in two ways: ${obstacle.readings.join(", or ")}. Write the one you mean.`;
    case "impossible-date":
      return `“${obstacle.text}” is no date that exists.`;
    case "other-weekday":
      return `“${obstacle.text}”: that date is a ${dayNames[obstacle.weekday]}.`;
    case "backward":
      return `“${obstacle.text}” ends before it begins.`;
    default:
      return unreachable(obstacle);
  }
}

const quoted = (texts: readonly string[]): string => listWords(texts.map((text) => `“${text}”`));

/** Why a typed time was not taken: what was understood, what was not, and three that would be. */
export function refusalText({ understood, notUnderstood, obstacle }: WhenRefusal): string {
  const parts = [
    obstacle
      ? obstacleText(obstacle)
      : notUnderstood.length > 0
        ? `${quoted(notUnderstood)} ${notUnderstood.length === 1 ? "is" : "are"} not understood${understood.length > 0 ? ` beside ${quoted(understood)}, which ${understood.length === 1 ? "is" : "are"}` : ""}.`
        : "This is not understood as one time.",
    "For example: “next Friday 22:00”, “Saturday night”, “public holidays at 10:00”.",
  ];
  return parts.join(" ");
}
