import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility, askedDays } from "~/tests/judge/arbitrary-facility";
import { compiledFrom, minute } from "~/tests/builders";
import { businessLines } from "../findings/business-hours";
import type { EpochMinute } from "../time/instant";
import { localTime } from "../time/zone";
import { accessTable } from "./access-table";
import { exactTimeframe } from "../paths/timeframe";
import { pairBlocks, summaries, summaryGroups } from "./pair-summaries";
import { doorColumns, openOf, whoOpensAt } from "./table-questions";
import { cardholderOpenIn, openIn } from "../paths/timetable";
import { reasonAt } from "../paths/verdict";
import { opensById, verdictIndex } from "./verdict-index";

const modes = fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() });

describe("questions of the access table", () => {
  it("are answered as the verdict on the pair: whether it opens, and who opens", () => {
    fc.assert(
      fc.property(arbitraryFacility, modes, fc.constantFrom(...askedDays), fc.integer({ min: 0, max: 2879 }), (draft, mode, day, later) => {
        const compiled = compiledFrom(draft);
        const from = minute(`${day}T00:00:00Z`);
        const at = (from + later) as EpochMinute;
        const table = accessTable(compiled, exactTimeframe(compiled, from, (from + 2880) as EpochMinute, mode));
        const columns = doorColumns(table);
        const index = verdictIndex(table);
        for (const { position: door } of compiled.doors) {
          const expected = compiled.credentials
            .all()
            .filter((credential) => reasonAt(compiled, credential, door, at, mode) === "open")
            .map(({ credential }) => credential.id);
          expect([door, whoOpensAt(table, columns, door, at).sort()]).toEqual([door, expected]);
          expect([
            door,
            compiled.credentials
              .all()
              .filter(({ credential }) => opensById(index, credential.id, compiled.facility.doors[door]?.id ?? "", at))
              .map(({ credential }) => credential.id),
          ]).toEqual([door, expected]);
          for (const credential of compiled.credentials)
            expect(openOf(table, credential.position, door)).toEqual(openIn(compiled, table.timeframe, credential, door));
        }
      }),
      { numRuns: 300 },
    );
  });

  it("take every text for an id, also those that mean something to the language", () => {
    const ids = ["__proto__", "constructor", "0", "toString"];
    const compiled = compiledFrom({
      cardholders: ids.map((id) => ({ id, name: id, status: "active" })),
      credentials: ids.slice(0, 3).map((id) => ({ id, cardholder: id, kind: "card", status: "active" })),
      doors: ids.slice(0, 3).map((id) => ({ id, name: id, site: "garden" })),
      grants: ids.slice(0, 3).map((id) => ({ id, to: { cardholder: id }, open: { door: id }, schedule: "always" })),
    });
    const from = minute("2026-03-01T00:00:00Z");
    const index = verdictIndex(accessTable(compiled, exactTimeframe(compiled, from, (from + 2880) as EpochMinute, { lockdown: false, asIfLive: false })));
    const opened = ids.flatMap((credential) =>
      ids.filter((door) => opensById(index, credential, door, (from + 7) as EpochMinute)).map((door) => [credential, door]),
    );
    expect(opened).toEqual([
      ["__proto__", "__proto__"],
      ["constructor", "constructor"],
      ["0", "0"],
    ]);
  });

  it("sum up every pair that opens at all: minutes, out of hours on the site's clock, first and last", () => {
    fc.assert(
      fc.property(arbitraryFacility, fc.constantFrom(...askedDays, "6053-01-30", "9999-12-20"), (draft, day) => {
        const compiled = compiledFrom(draft);
        const from = minute(`${day}T00:00:00Z`);
        const to = (from + 4 * 1440) as EpochMinute;
        const timeframe = exactTimeframe(compiled, from, to, { lockdown: false, asIfLive: false });
        const table = accessTable(compiled, timeframe);
        const told = new Map<string, unknown>();
        const summed = summaries(table, businessLines(table, compiled));
        for (const block of pairBlocks(table, summed))
          for (let i = 0; i < block.length; i++)
            told.set(`${block.cardholders[i]} ${block.doors[i]}`, {
              minutes: block.minutes[i],
              outOfHoursMinutes: block.outOfHoursMinutes[i],
              first: from + (block.first[i] as number),
              last: from + (block.last[i] as number),
            });
        const grouped = [...summaryGroups(table, summed)].flatMap((group) =>
          [...group.cardholders.subarray(group.from, group.to)].flatMap((cardholder) =>
            Array.from({ length: group.end - group.start }, (_, k) => {
              const place = group.places[group.start + k] as number;
              const [minutes, outOfHoursMinutes, first, last] = group.numbers.subarray(place, place + 4);
              return `${cardholder} ${group.doors[group.start + k]} ${minutes} ${outOfHoursMinutes} ${from + (first as number)} ${from + (last as number)}`;
            }),
          ),
        );
        expect(grouped.sort()).toEqual([...told].map(([pair, numbers]) => `${pair} ${Object.values(numbers as object).join(" ")}`).sort());
        const expected = new Map<string, { minutes: number; outOfHoursMinutes: number; first: number; last: number }>();
        for (const { position: cardholder } of compiled.cardholders)
          for (const { position: door, zone, calendar } of compiled.doors) {
            const open = cardholderOpenIn(compiled, timeframe, cardholder, door);
            if (open.length === 0) continue;
            let [minutes, outOfHoursMinutes] = [0, 0];
            // Minute by minute, as plainly as the rule reads: Mon–Fri 07–19 is business, unless the date is a public day.
            for (let i = 0; i < open.length; i += 2)
              for (let m = open[i] as number; m < (open[i + 1] as number); m++) {
                const { date, minuteOfDay } = localTime(zone, m as EpochMinute);
                const weekday = (((date + 3) % 7) + 7) % 7;
                const isPublic = calendar !== undefined && compiled.calendars[calendar]?.read(date)?.winner.dayType === "public";
                minutes++;
                if (weekday > 4 || minuteOfDay < 420 || minuteOfDay >= 1140 || isPublic) outOfHoursMinutes++;
              }
            expected.set(`${cardholder} ${door}`, { minutes, outOfHoursMinutes, first: open[0] as number, last: open[open.length - 1] as number });
          }
        expect(Object.fromEntries(told)).toEqual(Object.fromEntries(expected));
        const all = [...expected.values()];
        expect(summed.totals()).toEqual({
          pairs: all.length,
          minutes: all.reduce((sum, { minutes }) => sum + minutes, 0),
          outOfHoursMinutes: all.reduce((sum, { outOfHoursMinutes }) => sum + outOfHoursMinutes, 0),
        });
      }),
      { numRuns: 60 },
    );
  });
});
