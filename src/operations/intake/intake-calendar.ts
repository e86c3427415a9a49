import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { ReadCalendars } from "@/intake/formats/calendar/read-calendar";
import { CalendarFileError, readCalendars } from "@/intake/formats/calendar/read-calendar";
import { formatCivilDay } from "@/core/time/civil-day";
import type { Facility } from "@/core/facility/facility";
import { readFacility } from "@/intake/formats/facility/read-facility";
import type { Actor } from "@/operations/ports/record";
import type { PrintedIssue } from "@/operations/ports/snapshots";
import type { Report } from "@/operations/ports/progress";
import type { SourceFile } from "@/operations/ports/source-files";
import type { IntakeContents } from "@/operations/intake/preview-contents";
import { previewContents, refusalOf } from "@/operations/intake/preview-contents";
import type { CalendarEvents, IntakeOutcome, IntakePreview, ReadAs, Services } from "@/operations/services";
import { storeContents } from "@/operations/intake/store-contents";
import { refusedCsv } from "./intake-bundle";
import { keepProfile } from "./keep-profile";

type Opened =
  | { readonly brought: IntakeContents; readonly refused: readonly RefusedRow[]; readonly events: CalendarEvents }
  | { readonly errors: readonly PrintedIssue[]; readonly errorCount: number };

const wrong = (name: string, message: string): Opened => ({ errors: [{ level: "error", path: name, code: "not-a-calendar", message }], errorCount: 1 });

/** The events of a file by their summary, with the day type of each and what becomes of it. */
function eventsOf({ calendars, others, readTo }: ReadCalendars): Omit<CalendarEvents, "file" | "into" | "couldGoTo" | "unnamed"> {
  const events = new Map<string, { summary: string; dayType: string; entries: number; spelledOut: boolean; goesOn: boolean }>();
  for (const { calendar, spelledOut } of calendars) {
    const asDates = new Map(spelledOut.map((one) => [one.name, one]));
    for (const { name: summary, dayType } of calendar.days ?? []) {
      const known = events.get(summary);
      const spelled = asDates.get(summary);
      events.set(summary, {
        summary,
        dayType,
        entries: (known?.entries ?? 0) + 1,
        spelledOut: spelled !== undefined || (known?.spelledOut ?? false),
        goesOn: (spelled?.goesOn ?? false) || (known?.goesOn ?? false),
      });
    }
  }
  return {
    events: [...events.values()],
    calendars: calendars.map(({ calendar: { id, name, days = [] } }) => ({ id, name, entries: days.length })),
    others: [...others].map(([name, count]) => ({ name, count })),
    readTo: formatCivilDay(readTo),
  };
}

/** Where the entries of a file go, where else they could, and which day types no schedule has rows for, with the people at whose doors the calendar holds. */
function calendarChoice(present: Facility, { calendars }: ReadCalendars, chosen: string | undefined): Pick<CalendarEvents, "into" | "couldGoTo" | "unnamed"> {
  const into = chosen ?? (calendars.length === 1 ? calendars[0]?.calendar.id : undefined);
  const named = new Set(present.schedules.flatMap((schedule) => ("holidays" in schedule && schedule.holidays ? Object.keys(schedule.holidays) : [])));
  const types = new Set(calendars.flatMap(({ calendar: { days = [] } }) => days.map(({ dayType }) => dayType)));
  const sites = new Set(present.sites.filter(({ calendar }) => calendar === into).map(({ id }) => id));
  const people = present.cardholders.filter(
    ({ calendar, sites: of }) => calendar === into || (sites.size > 0 && (of === undefined || of.some((site) => sites.has(site)))),
  ).length;
  return {
    ...(into !== undefined && { into }),
    couldGoTo: present.calendars.map(({ id, name }) => ({ id, name })),
    unnamed: [...types].filter((type) => !named.has(type)).map((dayType) => ({ dayType, people })),
  };
}

/** The present register with each calendar of a file put in the place of the one of its id, or added to the others. */
async function openCalendar(services: Services, file: SourceFile, { profile }: ReadAs, report: Report): Promise<Opened> {
  report({ step: "checking", done: 0, of: 1 });
  const { name } = file;
  const latest = await services.snapshots.latest();
  if (!latest) return wrong(name, "There is no register yet that a calendar could go into. Take in a facility first.");
  const base = name.replace(/\.ics$/i, "");
  const said = profile?.calendars && Object.hasOwn(profile.calendars, base) ? profile.calendars[base] : undefined;
  try {
    const { facility: present } = await services.compiled(latest);
    const read = readCalendars(await file.text(), {
      otherwise: { id: base, name: base },
      year: Number(latest.asOf.slice(0, 4)),
      timeZone: present.timeZone,
      dayTypes: said?.dayTypes,
      limits: services.limits,
    });
    const { refused } = read;
    const chosen = said?.calendar;
    if (chosen !== undefined && read.calendars.length > 1)
      return wrong(name, `There are ${read.calendars.length} calendars in it; one alone can go to a calendar that is chosen.`);
    const there = present.calendars.find(({ id }) => id === chosen);
    const brought = new Map(
      read.calendars.map(({ calendar }) =>
        // What is chosen keeps the name that it has; a new one has that of the file.
        chosen === undefined ? ([calendar.id, calendar] as const) : ([chosen, { ...calendar, id: chosen, name: there?.name ?? calendar.name }] as const),
      ),
    );
    const calendars = [...present.calendars.filter(({ id }) => !brought.has(id)), ...brought.values()];
    const checked = readFacility(JSON.stringify({ ...present, calendars }));
    if (!checked.ok) return refusalOf(checked.error);
    const fileHash = await file.hash();
    const entries = read.calendars.reduce((sum, { calendar }) => sum + (calendar.days?.length ?? 0), 0);
    const rows = refused.map(({ line, name: summary, reason }): RefusedRow => ({ file: name, line, column: "VEVENT", value: summary, reason }));
    return {
      brought: {
        checked: checked.value,
        fileHash,
        leftOut: refused.length,
        files: [{ name, hash: fileHash, rows: entries, leftOut: refused.length }],
        brings: { calendars: "all" },
        delivery: { name, asOf: undefined },
      },
      refused: rows,
      events: { file: base, ...eventsOf(read), ...calendarChoice(present, read, chosen) },
    };
  } catch (error) {
    if (error instanceof CalendarFileError) return wrong(name, error.message);
    throw error;
  }
}

/** What an iCalendar file would bring. */
export async function previewCalendar(services: Services, file: SourceFile, report: Report, readAs: ReadAs): Promise<IntakePreview> {
  const opened = await openCalendar(services, file, readAs, report);
  const { name } = file;
  if ("refused" in opened && opened.refused.length > 0) await services.files.keepRefusedRows(file, refusedCsv(opened.refused));
  return "errors" in opened
    ? { kind: "refused", fileName: name, ...opened }
    : previewContents(services, opened.brought, name, report, { refused: opened.refused, kept: [], events: opened.events });
}

/** Takes an iCalendar file in; events that cannot be read stop it, unless just so many may be left out. */
export async function storeCalendar(
  services: Services,
  file: SourceFile,
  source: string,
  who: Actor,
  leaveOut: number,
  report: Report,
  readAs: ReadAs,
  on?: number | null,
): Promise<IntakeOutcome> {
  const opened = await openCalendar(services, file, readAs, report);
  if ("errors" in opened) return { outcome: "refused", ...opened };
  if (opened.brought.leftOut !== leaveOut)
    return {
      outcome: "refused",
      errors: opened.refused.map(({ line, value, reason }) => ({
        level: "error",
        path: `${file.name}, line ${line}`,
        code: "refused-row",
        message: `Found ${value}; ${reason}.`,
      })),
      errorCount: opened.refused.length,
    };
  const stored = await storeContents(services, opened.brought, source, who, report, on);
  await keepProfile(services, source, readAs.profile, who);
  return stored;
}
