import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { addDays, formatCivilDay } from "../../time/civil-day";
import { localTime } from "../../time/zone";
import type { CivilDay } from "../../time/civil-day";
import type { MarkedSpan } from "./definition";
import type { Defined, Reading } from "./reading";
import { firstNames, partsById } from "./reading";

/** The dates from that of the export on, by the facility's own clock, that are no ordinary days by a calendar. */
function markedDates({ compiled, horizon }: Reading, calendar: Position) {
  const { zone } = compiled.vocabulary;
  const [from, to] = [localTime(zone, horizon.ahead.from).date, localTime(zone, horizon.ahead.to).date];
  const days = required(compiled.calendars[calendar], "positions are valid");
  const found = [];
  for (let date = from; date < to; date = addDays(date, 1)) {
    const winner = days.read(date)?.winner;
    if (winner) found.push({ day: date, date: formatCivilDay(date), name: winner.name, dayType: winner.dayType });
  }
  return found;
}

/** Dates that follow on each other, and of which the same is said, put together. */
function spansOf(days: ReturnType<typeof markedDates>): MarkedSpan[] {
  const spans: { from: string; to: string; name: string; dayType: string; last: CivilDay }[] = [];
  for (const { day, date, name, dayType } of days) {
    const run = spans.at(-1);
    if (run && run.name === name && run.dayType === dayType && day === addDays(run.last, 1)) [run.to, run.last] = [date, day];
    else spans.push({ from: date, to: date, name, dayType, last: day });
  }
  return spans.map(({ last: _, ...span }) => span);
}

/** The coming 13 months of each calendar. */
export function calendarDefinitions(reading: Reading): Defined[] {
  const { compiled } = reading;
  const { sites, cardholders } = compiled.facility;
  return compiled.facility.calendars.map(({ id, name }, calendar): Defined => ({
    subject: { kind: "calendar", id, name },
    parts: () =>
      partsById(
        markedDates(reading, calendar).map((day) => ({
          id: day.date,
          name: day.date,
          // What a day is called changes nothing, but is what whoever signs reads.
          key: JSON.stringify([day.dayType, day.name]),
          says: () => ({ kind: "day", name: day.name, dayType: day.dayType }),
        })),
      ),
    freeze: () => {
      const own = cardholders.filter((cardholder) => cardholder.calendar === id).map((cardholder) => cardholder.name);
      const marked = markedDates(reading, calendar);
      const doors = compiled.doors.flatMap((door) => (door.calendar === calendar ? [door.position] : []));
      return {
        definition: {
          kind: "calendar",
          count: marked.length,
          dates: spansOf(marked),
          sites: sites.flatMap((site) => (site.calendar === id ? [site.name] : [])),
          doors: doors.length,
          people: firstNames(own),
        },
        doors,
        about: [],
      };
    },
  }));
}
