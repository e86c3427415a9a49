import { formatCivilDay, parseCivilDay, civilDay, yearMonthDay, weekdays } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { windowIsEmpty } from "../time/window";
import { zoneOf } from "../time/zone";
import type { Area, DocumentCalendar, ClockRange, DocumentSchedule } from "./document";
import type { Facility } from "./facility";
import type { DataIssue } from "./issue";
import { note } from "./issue";
import { calendarOf, clockIntervalOf, dayRuleOf, instantOf, objectWindow } from "./time-rules";

function windowNotes(facility: Facility): DataIssue[] {
  const zone = zoneOf(facility.timeZone);
  const blocks = new Set(facility.grants.flatMap((grant, i) => (grant.effect === "block" ? [i] : [])));
  const notes: DataIssue[] = [];
  for (const list of ["memberships", "cardholders", "credentials", "grants"] as const) {
    facility[list].forEach((object, i) => {
      if (object.from === undefined || object.until === undefined) return;
      const rounding = list === "grants" && blocks.has(i) ? "inward" : "outward";
      if (windowIsEmpty(objectWindow(object, zone, rounding)))
        notes.push(note(`${list}[${i}]`, "empty-window", { from: object.from, until: object.until }));
    });
  }
  return notes;
}

/** Years around the export in which ties of yearly entries are looked for. */
const tieYears = { before: 1, after: 3 };

function calendarNotes(calendar: DocumentCalendar, at: string, asOf: CivilDay): DataIssue[] {
  const notes: DataIssue[] = [];
  const days = calendar.days ?? [];
  const dates = new Set<CivilDay>();
  days.forEach((day, i) => {
    const rule = dayRuleOf(day);
    if (rule.rule === "on") dates.add(rule.date);
    if (rule.rule !== "span") return;
    if (rule.from > rule.to)
      notes.push(note(`${at}.days[${i}]`, "backward-range", { from: formatCivilDay(rule.from), to: formatCivilDay(rule.to) }));
    else dates.add(rule.from).add(rule.to);
  });
  const { year } = yearMonthDay(asOf);
  const last = civilDay(year + tieYears.after, 12, 31);
  for (let date = civilDay(year - tieYears.before, 1, 1); date <= last; date = (date + 1) as CivilDay) dates.add(date);
  const reader = calendarOf(calendar);
  const told = new Set<string>();
  for (const date of [...dates].sort((a, b) => a - b)) {
    const reading = reader.read(date);
    const rival = reading?.beaten[0];
    if (!reading || rival?.priority !== reading.winner.priority) continue;
    const position = reader.entries.indexOf(rival);
    const pair = `${reader.entries.indexOf(reading.winner)} ${position}`;
    if (told.has(pair)) continue;
    told.add(pair);
    notes.push(
      note(`${at}.days[${position}]`, "priority-tie", { date: formatCivilDay(date), winner: reading.winner.name, beaten: rival.name }),
    );
  }
  return notes;
}

function scheduleNotes(schedule: DocumentSchedule, at: string): DataIssue[] {
  const emptyIn = (row: readonly ClockRange[], rowAt: string): DataIssue[] =>
    row.flatMap((written, i) => {
      const [start, end] = clockIntervalOf(written);
      return start === end ? [note(`${rowAt}[${i}]`, "empty-interval", { start: written[0], end: written[1] })] : [];
    });
  const notes = [
    ...weekdays.flatMap((weekday) => emptyIn(schedule.week?.[weekday] ?? [], `${at}.week.${weekday}`)),
    ...Object.entries(schedule.holidays ?? {}).flatMap(([dayType, row]) => emptyIn(row, `${at}.holidays.${dayType}`)),
  ];
  const [from, until] = [schedule.from, schedule.until];
  if (from !== undefined && until !== undefined && (parseCivilDay(from) ?? 0) > (parseCivilDay(until) ?? 0))
    notes.push(note(at, "empty-window", { from, until }));
  return notes;
}

function siteNotes(facility: Facility): DataIssue[] {
  const areas = new Map(facility.areas.map((area) => [area.id, area]));
  const notes: DataIssue[] = [];
  facility.doors.forEach((door, i) => {
    for (let area: Area | undefined = areas.get(door.area ?? ""); area; area = areas.get(area.parent ?? "")) {
      if (area.site === door.site) continue;
      notes.push(note(`doors[${i}].area`, "area-of-other-site", { area: area.id, site: area.site, doorSite: door.site }));
      break;
    }
  });
  return notes;
}

/** What is odd in a document that is otherwise in order; access is read in the way that opens more. */
export function notesOn(facility: Facility): DataIssue[] {
  const asOf = Math.floor(instantOf(facility.asOf).seconds / 86400) as CivilDay;
  return [
    ...windowNotes(facility),
    ...facility.calendars.flatMap((calendar, i) => calendarNotes(calendar, `calendars[${i}]`, asOf)),
    ...facility.schedules.flatMap((schedule, i) => scheduleNotes(schedule, `schedules[${i}]`)),
    ...siteNotes(facility),
  ];
}
