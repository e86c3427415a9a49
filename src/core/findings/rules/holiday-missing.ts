import { covers } from "../../time/calendar";
import type { CalendarEntry } from "../../time/calendar";
import { addDays, yearMonthDay } from "../../time/civil-day";
import type { CivilDay } from "../../time/civil-day";
import { calendarAt } from "../../paths/paths";
import { rule, standards } from "../rule";
import type { FlagOf } from "../flag";
import { own } from "../settings";
import { localDate, writtenDate } from "../written";

const nearDays = 7;
const folded = (name: string): string => name.replace(/[A-Z]/g, (letter) => letter.toLowerCase());

/** The nearest date around another with a public entry of a name, the earlier on a tie. */
function nearest(entries: readonly CalendarEntry[], name: string, date: CivilDay): CivilDay | undefined {
  const same = entries.filter((entry) => entry.dayType === "public" && folded(entry.name) === folded(name));
  for (let away = 0; away <= nearDays; away++)
    for (const near of [addDays(date, -away), addDays(date, away)]) if (same.some(({ when }) => covers(when, near))) return near;
  return undefined;
}

/** A public holiday of a site's country that its calendar does not have. */
export const holidayMissing = rule({
  key: "holiday-missing",
  base: 12,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const flags: FlagOf<"holiday-missing">[] = [];
    for (const { id, calendar } of judged.facility.sites) {
      const country = own(judged.settings.sites, id)?.country;
      const entered = calendar === undefined ? undefined : calendarAt(judged.compiled, judged.compiled.indexes.of("calendars").get(calendar));
      if (country === undefined || entered === undefined) continue;
      const zone = judged.zoneOfSite(id);
      const [first, last] = [localDate(zone, judged.asOf), localDate(zone, (judged.end - 1) as typeof judged.end)];
      const seen = new Set<CivilDay>();
      for (let { year } = yearMonthDay(first); year <= yearMonthDay(last).year; year++)
        for (const { date, name } of judged.publicHolidays(country, year)) {
          if (date < first || date > last || seen.has(date) || entered.read(date)?.winner.dayType === "public") continue;
          seen.add(date);
          const other = nearest(entered.entries, name, date);
          flags.push({
            subject: { kind: "site", id },
            distinct: [writtenDate(date)],
            proof: { name, other: other === undefined ? undefined : writtenDate(other) },
          });
        }
    }
    return { flags };
  },
});
