import { groupBy } from "../../kernel/compare";
import { addDays, weekdayNumber } from "../../time/civil-day";
import { rule, standards } from "../rule";
import type { FlagOf } from "../flag";
import { localDate, writtenDate, writtenSecond } from "../written";

/** A credential that was refused again and again within minutes, or on several dates of a week. */
export const triedAgain = rule({
  key: "tried-again",
  base: 18,
  source: standards.nist("PE-6, AU-6"),
  parameters: { days: 30, times: 5, minutes: 10, dates: 3 },
  find: (judged, { days, times, minutes, dates: leastDates }) => {
    const flags: FlagOf<"tried-again">[] = [];
    judged.facility.credentials.forEach(({ id }, i) => {
      const refused = judged.events.of(i).filter(({ granted, minute }) => !granted && minute >= judged.daysBefore(days));
      if (refused.length === 0) return;
      const subject = { kind: "credential" as const, id };
      const seconds = refused.map(({ second }) => second).sort((a, b) => a - b);
      let [most, first] = [0, 0];
      for (let start = 0, end = 0; start < seconds.length; start++) {
        while (end < seconds.length && (seconds[end] as number) <= (seconds[start] as number) + minutes * 60) end++;
        if (end - start > most) [most, first] = [end - start, seconds[start] as number];
      }
      if (most >= times) flags.push({ subject, distinct: ["minutes"], proof: { refused: most, first: writtenSecond(first) } });

      const dates = new Set(refused.map(({ at, minute }) => localDate(at === -1 ? judged.zone : judged.door(at).zone, minute)));
      const weeks = [...groupBy(dates, (date) => addDays(date, -weekdayNumber(date)))].map(([monday, own]) => ({ monday, count: own.length }));
      const fullest = weeks.reduce((best, week) => (week.count > best.count || (week.count === best.count && week.monday < best.monday) ? week : best));
      if (fullest.count >= leastDates) flags.push({ subject, distinct: ["days"], proof: { dates: fullest.count, week: writtenDate(fullest.monday) } });
    });
    return { flags };
  },
});
