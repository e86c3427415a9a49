import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { exactTimeframe } from "@/core/paths/timeframe";
import { accessTable } from "@/core/table/access-table";
import { doorColumns, openOf, whoOpensAt } from "@/core/table/table-questions";
import { contains } from "@/core/time/intervals";
import type { EpochMinute } from "@/core/time/instant";
import { compiledFrom, minute } from "../builders";
import { arbitraryFacility, askedDays } from "./arbitrary-facility";
import { beginnings, drawnIn, elsewhere, longest, movedYear, year } from "./elsewhere";
import { Judge } from "./judge";

describe("the access table against the point-wise judge, in any year and with ids of any kind", () => {
  it("says who opens a door at every bound and between", () => {
    const opened = new Set<boolean>();
    fc.assert(
      fc.property(
        arbitraryFacility,
        year,
        fc.constantFrom(...beginnings),
        fc.constantFrom(...askedDays),
        fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() }),
        (drawn, inYear, beginning, day, mode) => {
          const draft = elsewhere(drawn, inYear - drawnIn, beginning);
          const compiled = compiledFrom(draft);
          const judge = new Judge(draft);
          const from = minute(`${movedYear(day, inYear - drawnIn)}T00:00:00Z`);
          const to = (from + 2 * 1440) as EpochMinute;
          const table = accessTable(compiled, exactTimeframe(compiled, from, to, mode));
          const columns = doorColumns(table);
          for (const [position, { id: door }] of compiled.facility.doors.entries()) {
            const bounds = compiled.credentials.all().flatMap(({ position: credential }) => [...openOf(table, credential, position)]);
            const minutes = [...new Set([from, ...bounds.flatMap((bound) => [bound - 1, bound]), from + 727, from + 2167])].filter(
              (at) => at >= from && at < to,
            );
            for (const at of minutes) {
              const judged = compiled.credentials
                .all()
                .filter(({ credential }) => judge.reason(credential.id, door, BigInt(at), mode) === "open")
                .map(({ credential }) => credential.id);
              opened.add(judged.length > 0);
              expect([door, at, whoOpensAt(table, columns, position, at as EpochMinute).sort()]).toEqual([door, at, judged.sort()]);
              for (const { position: credential, credential: own } of compiled.credentials.all())
                expect([own.id, door, at, contains(openOf(table, credential, position), at)]).toEqual([own.id, door, at, judged.includes(own.id)]);
            }
          }
          expect(compiled.facility.doors.every(({ id }) => [...id].length === longest)).toBe(true);
        },
      ),
      { numRuns: 40 },
    );
    // Documents in which nothing ever opens, or everything, would prove little.
    expect(opened).toEqual(new Set([true, false]));
  }, 120_000);
});
