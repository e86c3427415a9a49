import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compileFacility } from "@/core/compile/compile-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { forecastOf } from "@/core/findings/forecast/forecast";
import { Horizon } from "@/core/table/horizon";
import { parseCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { firstMinuteFrom, localTime, zoneOf } from "@/core/time/zone";
import { compiledFrom } from "../builders";
import { judgedOf } from "../judged";
import { arbitraryCase } from "./arbitrary-findings";
import { FindingsJudge } from "./findings-judge";
import type { Holder } from "./findings/terms";

/** So many days are looked ahead in these documents; their registers are looked at for as many again, so that a last time can be told. */
const days = 6;

const judgeOf = (document: FacilityDocument, horizonDays: number): FindingsJudge =>
  new FindingsJudge(compiledFrom(document), { format: "nomade.rules/1", horizonDays }, [], [], undefined);

/** The same register with other days in its calendars. */
const withDays = (document: FacilityDocument, daysOf: (id: string, before: readonly unknown[]) => readonly unknown[]): FacilityDocument =>
  ({
    ...document,
    calendars: (document.calendars ?? []).map((calendar) => ({ ...calendar, days: daysOf(calendar.id, calendar.days ?? []) })),
  }) as FacilityDocument;

describe("the forecast against the register read minute by minute", () => {
  it("says what begins and ends by itself, what is opened for the first and the last time, and what dates of the calendars do", () => {
    const met = { begins: 0, ends: 0, lost: 0, gained: 0, less: 0, more: 0, free: 0, missing: 0 };
    fc.assert(
      fc.property(arbitraryCase, fc.constantFrom("autumn fair", undefined), ({ facility: drawn }, typedIn) => {
        const expectedOn = new Date(Date.parse(drawn.asOf) + 3 * 86_400_000).toISOString();
        const [year, soon] = [Number(expectedOn.slice(0, 4)), expectedOn.slice(4, 10)];
        // Somebody typed a day in for the two years before, and for this one not.
        const typed = [year - 2, year - 1].map((one) => ({ name: "autumn fair", dayType: "public", priority: 9, on: `${one}${soon}` }));
        const isLeapDay = soon === "-02-29";
        const document = typedIn && !isLeapDay ? withDays(drawn, (id, before) => (id === "k1" ? [...before, ...typed] : before)) : drawn;
        const compiled = compiledFrom(document);
        const ahead = { from: compiled.facility.asOf, days: 2 * days };
        const judge = judgeOf(document, ahead.days);
        const horizon = new Horizon(compiled, { from: judge.A as EpochMinute, to: judge.E as EpochMinute });
        const judged = judgedOf(horizon);
        const forecast = forecastOf(judged, horizon, days);
        const T = judge.A + days * 1440;
        expect([forecast.from, forecast.to]).toEqual([judge.A, T]);

        // What begins and ends.
        const isWithin = (at: number): boolean => at > judge.A && at < T;
        const expected: string[] = [];
        const tell = (list: string, id: string, from: number, until: number, inactive: number, endsBy = "window"): void => {
          if (from >= until) return;
          if (isWithin(from) && from < inactive) expected.push(`${from} begins ${list} ${id} window`);
          const end = Math.min(until, inactive);
          if (isWithin(end) && end > from) expected.push(`${end} ends ${list} ${id} ${inactive < until ? "status" : endsBy}`);
        };
        const inactiveOf = (object: { readonly status: string; readonly statusSince?: string }): number =>
          object.status === "active" ? Infinity : object.statusSince === undefined ? -Infinity : Math.ceil(Date.parse(object.statusSince) / 60_000);
        for (const h of judge.f().cardholders) tell("cardholders", h.id, judge.startOf(h), judge.holderEnd(h), inactiveOf(h));
        for (const card of judge.cards()) {
          const isByUse = judge.endOf(card) < judge.window(card).until;
          tell("credentials", card.id, judge.startOf(card), judge.endOf(card), inactiveOf(card), isByUse ? card.expiry?.after : "window");
        }
        for (const m of judge.f().memberships) tell("memberships", m.group, judge.window(m).from, judge.window(m).until, Infinity);
        for (const grant of judge.f().grants) {
          const { from, until } = judge.window(grant, grant.effect === "block");
          tell("grants", grant.id, from, until, Infinity);
        }
        for (const { id, from, until } of judge.f().schedules) {
          const first = from === undefined ? -Infinity : firstMinuteFrom(judge.zone(), parseCivilDay(from) as CivilDay);
          const end = until === undefined ? Infinity : firstMinuteFrom(judge.zone(), ((parseCivilDay(until) as number) + 1) as CivilDay);
          tell("schedules", id, first, end, Infinity);
        }
        expect(forecast.comes.map(({ at, change, list, id, by }) => `${at} ${change} ${list} ${id} ${by}`).sort()).toEqual(expected.sort());
        met.begins += forecast.comes.filter(({ change }) => change === "begins").length;
        met.ends += forecast.comes.filter(({ change }) => change === "ends").length;

        // The first and the last time.
        const week = horizon.week({ lockdown: false, asIfLive: false });
        const holders = judge.holders().filter(({ cards }) => cards.length > 0);
        const opensInWeek = (s: Holder, door: number): boolean => {
          const position = s.kind === "cardholder" ? compiled.cardholderById.get(s.id) : compiled.credentialById.get(s.id);
          const row = s.kind === "cardholder" ? week.rowOfCardholder(position ?? -1) : week.liveRow(position ?? -1);
          return [...week.rows.doors.subarray(week.rows.start(row), week.rows.end(row))].includes(door);
        };
        const byDate = new Map<string, { pairs: number; holders: Set<string>; doors: Set<number> }>();
        for (const s of holders)
          judge.f().doors.forEach((door, position) => {
            const open = judge.or(s.cards.map((card) => judge.O(card, door)));
            const [first, last] = [open.indexOf(1), open.lastIndexOf(1)];
            if (first < 0) return;
            const note = (minute: number, change: string): void => {
              const key = `${localTime(judge.zone(), minute as EpochMinute).date} ${change}`;
              const found = byDate.get(key) ?? { pairs: 0, holders: new Set<string>(), doors: new Set<number>() };
              byDate.set(key, { pairs: found.pairs + 1, holders: found.holders.add(`${s.kind} ${s.id}`), doors: found.doors.add(position) });
            };
            if (judge.A + last < T) note(judge.A + last, "lost");
            if (judge.A + first < T && !opensInWeek(s, position)) note(judge.A + first, "gained");
          });
        const told = forecast.days.flatMap(({ date, lost, gained }) =>
          (
            [
              ["lost", lost],
              ["gained", gained],
            ] as const
          ).flatMap(([change, of]) =>
            of.pairs === 0 ? [] : [[`${date} ${change}`, { pairs: of.pairs, holders: of.holders, doors: [...of.doors].sort() }] as const],
          ),
        );
        expect(Object.fromEntries(told)).toEqual(
          Object.fromEntries([...byDate].map(([key, of]) => [key, { pairs: of.pairs, holders: of.holders.size, doors: [...of.doors].sort() }])),
        );
        for (const key of byDate.keys()) met[key.endsWith("lost") ? "lost" : "gained"]++;

        // The last date of each calendar that was typed in.
        const today = (at: number): number => localTime(judge.zone(), at as EpochMinute).date;
        const typedLast = judge.f().calendars.flatMap(({ id, days: entries = [] }) => {
          const lasts = entries.flatMap((day) =>
            "on" in day && day.on !== undefined
              ? [day.on]
              : "to" in day && day.to !== undefined && day.from !== undefined && day.from <= day.to
                ? [day.to]
                : [],
          );
          const last = lasts.map((text) => parseCivilDay(text) as number).sort((a, b) => b - a)[0];
          const isUsed = [...judge.f().sites, ...judge.f().cardholders].some(({ calendar }) => calendar === id);
          return isUsed && last !== undefined && last >= today(judge.A) && last < today(T) ? [{ calendar: id, last }] : [];
        });
        expect(forecast.typedUntil).toEqual(typedLast);

        // Dates of the calendars, against the same register without them; and dates not typed in, against the register with them.
        const against = (other: FindingsJudge, site: string, date: CivilDay) => {
          const zone = zoneOf(judge.f().sites.find(({ id }) => id === site)?.timeZone ?? "UTC");
          const [from, to] = [firstMinuteFrom(zone, date) - judge.A, firstMinuteFrom(zone, (date + 1) as CivilDay) - judge.A];
          const on = (bits: Uint8Array): Uint8Array => bits.slice(Math.max(0, from), Math.max(0, to));
          const doors = judge.f().doors.filter((door) => door.site === site);
          const [holdersLess, holdersMore, doorsLess, doorsMore] = [new Set<string>(), new Set<string>(), new Set<string>(), new Set<string>()];
          for (const s of holders)
            for (const door of doors) {
              const is = on(judge.or(s.cards.map((card) => judge.O(card, door))));
              const wouldBe = on(other.or(s.cards.map((card) => other.O(card, door))));
              if (is.some((bit, i) => bit < (wouldBe[i] as number))) {
                holdersLess.add(`${s.kind} ${s.id}`);
                doorsLess.add(door.id);
              }
              if (is.some((bit, i) => bit > (wouldBe[i] as number))) {
                holdersMore.add(`${s.kind} ${s.id}`);
                doorsMore.add(door.id);
              }
            }
          const free = (isOther: (is: number, wouldBe: number) => boolean): string[] =>
            doors.filter((door) => on(judge.free(door)).some((bit, i) => isOther(bit, on(other.free(door))[i] as number))).map(({ id }) => id);
          return {
            holders: [holdersLess.size, holdersMore.size],
            doors: [[...doorsLess].sort(), [...doorsMore].sort()],
            free: [free((is, wouldBe) => is < wouldBe), free((is, wouldBe) => is > wouldBe)],
          };
        };
        const ids = (positions: Iterable<number>): string[] => [...positions].map((position) => judge.f().doors[position]?.id ?? "").sort();
        const saidOf = (one: (typeof forecast.dates)[number] | (typeof forecast.missing)[number]) => ({
          holders: [one.holdersLess, one.holdersMore],
          doors: [ids(one.doorsLess), ids(one.doorsMore)],
          free: [ids(one.freeLess), ids(one.freeMore)],
        });
        const plain = judgeOf(
          withDays(document, () => []),
          ahead.days,
        );
        for (const one of forecast.dates) {
          expect([one.site, one.date, saidOf(one)]).toEqual([one.site, one.date, against(plain, one.site, one.date)]);
          if (one.holdersLess > 0) met.less++;
          if (one.holdersMore + one.freeMore.length > 0) met.more++;
          if (one.freeLess.length + one.freeMore.length > 0) met.free++;
        }
        const isExpected = typedIn !== undefined && !isLeapDay;
        const renewed = isExpected
          ? judgeOf(
              withDays(document, (id, before) =>
                id === "k1" ? [...before, { name: "autumn fair", dayType: "public", priority: 9, on: `${year}${soon}` }] : before,
              ),
              ahead.days,
            )
          : undefined;
        const own = forecast.missing.filter(({ name }) => name === "autumn fair");
        for (const one of own) {
          met.missing++;
          if (one.holdersMore + one.freeMore.length > 0) met.more++;
          expect([one.site, saidOf(one)]).toEqual([one.site, against(renewed as FindingsJudge, one.site, one.date)]);
        }
        // Entries of other names may be wanted as well, and then this one is not read alone: nothing of the kind is drawn here by itself.
        const hasSite = judge.f().sites.some((site) => site.calendar === "k1");
        expect(own.length > 0).toBe(isExpected && hasSite);
        expect(compileFacility(compiled.facility).doors.length).toBe(judge.f().doors.length);
      }),
      { numRuns: 80 },
    );
    expect(Object.entries(met).filter(([, count]) => count === 0)).toEqual([]);
  }, 240_000);
});
