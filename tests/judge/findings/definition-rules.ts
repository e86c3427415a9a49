import { calendarEntryOf } from "@/core/facility/time-rules";
import { covers, holidayCalendar } from "@/core/time/calendar";
import { formatCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { FindingsTerms } from "./terms";
import { sorted } from "./terms";

/** Definitions, read aloud. */
export const definitionRules = (judge: FindingsTerms): Readonly<Record<string, () => void>> => ({
  "nothing-behind": () => {
    const { levels, bundles, groups, schedules, calendars, grants, memberships, cardholders, sites } = judge.f();
    const note = (kind: string, id: string, why: string, holds: boolean): void => void (holds && judge.flag(kind, id, [why], {}));
    const standing = grants.filter((grant) => !judge.grantOver(grant));
    for (const { id } of levels) {
      const inBundles = bundles.filter((bundle) => (bundle.levels ?? []).includes(id)).map((bundle) => bundle.id);
      note("level", id, "unused", !standing.some(({ open }) => open.level === id || inBundles.includes(open.bundle ?? "")));
      note("level", id, "opens-nothing", judge.coveredBy({ level: id }).length === 0);
    }
    for (const { id } of bundles) {
      note("bundle", id, "unused", !standing.some(({ open }) => open.bundle === id));
      note("bundle", id, "opens-nothing", judge.coveredBy({ bundle: id }).length === 0);
    }
    for (const { id, kind } of groups) {
      const members = cardholders.filter(
        (h) =>
          judge.groupsAbove(h.department).includes(id) ||
          memberships.some((m) => m.cardholder === h.id && judge.window(m).until > judge.A && judge.groupsAbove(m.group).includes(id)),
      ).length;
      note("group", id, "unused", members === 0);
      if (kind === "department" || cardholders.some((h) => h.department === id)) continue;
      note("group", id, "one-member", members === 1);
      note("group", id, "opens-nothing", !standing.some((grant) => grant.effect !== "block" && judge.groupsAbove(id).includes(grant.to.group ?? "")));
    }
    for (const schedule of schedules) {
      note("schedule", schedule.id, "unused", !judge.schedulesNamed().has(schedule.id));
      const rows = [...Object.values(schedule.week ?? {}), ...Object.values(schedule.holidays ?? {})].flat();
      note("schedule", schedule.id, "opens-nothing", !schedule.always && !rows.some(([a, b]) => a !== b));
    }
    for (const { id, days = [] } of calendars) {
      note("calendar", id, "unused", ![...sites, ...cardholders].some(({ calendar }) => calendar === id));
      note("calendar", id, "opens-nothing", days.length === 0);
    }
  },
  "door-without-grants": () => {
    for (const door of judge.f().doors)
      if (!judge.any(judge.free(door)) && !judge.cards().some((card) => judge.any(judge.O(card, door)))) judge.flag("door", door.id, [], {});
  },
  "door-only-free": () => {
    for (const door of judge.f().doors) {
      const free = judge.free(door);
      if (judge.sens(door) >= judge.p("door-only-free", "sensitivity", 2) && judge.any(free))
        judge.flag("door", door.id, [], judge.fullest(free, judge.zoneOfSite(door.site)));
    }
  },
  "single-factor": () => {
    for (const door of judge.f().doors) {
      if (judge.sens(door) < judge.p("single-factor", "sensitivity", 3)) continue;
      const rules = new Set<string>();
      for (const entry of judge.entryAhead(door)) rules.add(entry);
      rules.delete("card+pin");
      if (rules.size > 0) judge.flag("door", door.id, [], { rules: [...rules] });
    }
  },
  "calendar-runs-out": () => {
    const today = formatCivilDay(judge.date(judge.zone(), judge.A) as CivilDay);
    const limit = formatCivilDay((judge.date(judge.zone(), judge.A) + judge.p("calendar-runs-out", "days", 60)) as CivilDay);
    const lastAhead = formatCivilDay(judge.date(judge.zone(), judge.E - 1) as CivilDay);
    for (const { id, days = [] } of judge.f().calendars) {
      if (![...judge.f().sites, ...judge.f().cardholders].some(({ calendar }) => calendar === id)) continue;
      const oneOff = days.flatMap(({ name, on, from, to }) =>
        on !== undefined ? [{ name, from: on, to: on }] : from !== undefined && to !== undefined && from <= to ? [{ name, from, to }] : [],
      );
      const last = sorted(oneOff.map(({ to }) => to)).at(-1) ?? "";
      if (oneOff.length >= judge.p("calendar-runs-out", "entries", 2) && last < limit) judge.flag("calendar", id, ["end"], { last });
      for (const name of new Set(oneOff.map((entry) => entry.name)))
        for (const year of [Number(today.slice(0, 4)), Number(today.slice(0, 4)) + 1]) {
          const inYear = (y: number): string[] => oneOff.filter((entry) => entry.name === name && Number(entry.from.slice(0, 4)) === y).map(({ from }) => from);
          if (inYear(year - 1).length === 0 || inYear(year - 2).length === 0 || inYear(year).length > 0) continue;
          const monthDay = (sorted(inYear(year - 1)).at(-1) ?? "").slice(5);
          const isLeap = new Date(Date.UTC(year, 1, 29)).getUTCMonth() === 1;
          const expected = `${year}-${monthDay === "02-29" && !isLeap ? "02-28" : monthDay}`;
          if (expected >= today && expected <= lastAhead) judge.flag("calendar", id, ["year", name, String(year)], { expected });
        }
    }
  },
  "holiday-tie": () => {
    for (const { id, days = [] } of judge.f().calendars) {
      const found: Record<string, number[]> = {};
      for (let date = judge.date(judge.zone(), judge.A); date <= judge.date(judge.zone(), judge.E - 1); date++) {
        const covering = days.map(calendarEntryOf).filter(({ when }) => covers(when, date as CivilDay));
        const best = Math.max(...covering.map(({ priority }) => priority));
        const winner = covering.find(({ priority }) => priority === best);
        for (const other of covering)
          if (winner && other !== winner && other.priority === best && other.dayType !== winner.dayType) {
            const names = JSON.stringify([winner.name, other.name]);
            found[names] = [...(found[names] ?? []), date];
          }
      }
      for (const [names, dates] of Object.entries(found))
        judge.flag("calendar", id, JSON.parse(names) as string[], { first: formatCivilDay(Math.min(...dates) as CivilDay), dates: new Set(dates).size });
    }
  },
  "holiday-open": () => {
    const most = judge.p("holiday-open", "holders", 5);
    for (const door of judge.f().doors) {
      if (judge.sens(door) < judge.p("holiday-open", "sensitivity", 2)) continue;
      const zone = judge.zoneOfSite(door.site);
      const calendarId = judge.f().sites.find(({ id }) => id === door.site)?.calendar;
      const calendar = holidayCalendar((judge.f().calendars.find(({ id }) => id === calendarId)?.days ?? []).map(calendarEntryOf));
      const byDate = new Map<number, number[]>();
      for (let t = judge.A; t < judge.E; t++) {
        const date = judge.date(zone, t);
        byDate.set(date, byDate.get(date) ?? []);
        byDate.get(date)?.push(t - judge.A);
      }
      const free = judge.free(door);
      const bad = [...byDate].flatMap(([date, minutes]) => {
        if (calendar.read(date as CivilDay)?.winner.dayType !== "public") return [];
        const isFree = minutes.some((i) => free[i] === 1);
        const holders = judge.holders().filter((s) => s.cards.some((card) => minutes.some((i) => judge.O(card, door)[i] === 1))).length;
        return isFree || holders > most ? [{ date, isFree, holders }] : [];
      });
      if (bad.length > 0)
        judge.flag("door", door.id, [], {
          first: formatCivilDay(Math.min(...bad.map(({ date }) => date)) as CivilDay),
          dates: bad.length,
          free: bad.filter(({ isFree }) => isFree).length,
          holders: Math.max(...bad.map(({ holders }) => holders)),
        });
    }
  },
  "schedule-odd": () => {
    const today = formatCivilDay(judge.date(judge.zone(), judge.A) as CivilDay);
    const minutes = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
    for (const schedule of judge.f().schedules) {
      const rows = [
        ...Object.entries(schedule.week ?? {}),
        ...Object.entries(schedule.holidays ?? {}).map(([type, row]) => [`holidays.${type}`, row] as const),
      ];
      const look = (what: string, isOdd: (row: readonly (readonly [string, string])[]) => boolean): void => {
        const odd = rows.filter(([, row]) => isOdd(row)).map(([name]) => name);
        if (odd.length > 0) judge.flag("schedule", schedule.id, [what], { rows: odd });
      };
      look("empty-interval", (row) => row.some(([a, b]) => a === b));
      look("minute-gap", (row) => row.some(([, b]) => b === "23:59"));
      look("overlap", (row) => {
        const count = new Uint8Array(1440);
        for (const [a, b] of row) for (let m = minutes(a); m < (a > b ? 1440 : minutes(b)); m++) count[m] = (count[m] as number) + 1;
        return count.some((n) => n > 1);
      });
      if (schedule.until !== undefined && schedule.until < today && judge.schedulesNamed().has(schedule.id))
        judge.flag("schedule", schedule.id, ["over"], { until: schedule.until });
    }
  },
});
