import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { arbitrarySecond, changed, crowded } from "~/tests/judge/second-facility";
import { compileFacility } from "../compile/compile-facility";
import { withAllLists } from "../facility/facility";
import { asIfLive, inLockdown, ordinary } from "../paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "../paths/timeframe";
import type { AccessTable } from "./access-table";
import { accessTable, pairsOfCardholder, pairsOfCredential } from "./access-table";
import { Horizon } from "./horizon";

/** Everything that a table says, by ids and minutes. */
function said(table: AccessTable): unknown {
  const { facility } = table.compiled;
  const doors = (pairs: Iterable<readonly [number, readonly number[]]>) => [...pairs].map(([door, open]) => [facility.doors[door]?.id, [...open]]);
  return {
    credentials: facility.credentials.map(({ id }, position) => [id, doors(pairsOfCredential(table, position))]),
    cardholders: facility.cardholders.map(({ id }, position) => [id, doors(pairsOfCardholder(table, position))]),
    rows: facility.cardholders.map((_, position) => {
      const row = table.rowOfCardholder(position);
      return Array.from({ length: table.rows.end(row) - table.rows.start(row) }, (_unused, i) => [
        table.rows.doors[table.rows.start(row) + i],
        [...table.timelines.set(table.rows.times[table.rows.start(row) + i] as number)],
      ]);
    }),
  };
}

const modes = [ordinary, asIfLive, inLockdown];
const facilities = arbitraryFacility.map(crowded).map(withAllLists);

describe("a horizon", () => {
  it("has the tables that are laid out alone, whatever it was asked before", () => {
    fc.assert(
      fc.property(facilities, fc.shuffledSubarray(modes, { minLength: 2 }), (facility, asked) => {
        const compiled = compileFacility(facility);
        const horizon = new Horizon(compiled);
        const { from, to } = horizon.ahead;
        for (const mode of asked) {
          expect(said(horizon.table(mode))).toEqual(said(accessTable(compiled, exactTimeframe(compiled, from, to, mode))));
          expect(said(horizon.week(mode))).toEqual(said(accessTable(compiled, ordinaryWeekTimeframe(compiled, from, mode))));
        }
      }),
      { numRuns: 40 },
    );
  });

  it("says the same when it was kept outside and read again, and goes on from there", () => {
    fc.assert(
      fc.property(facilities, arbitrarySecond, (facility, how) => {
        const compiled = compileFacility(facility);
        const horizon = new Horizon(compiled);
        const frozen = horizon.freeze();
        expect(frozen).toBeDefined();
        if (!frozen) return;
        const thawed = Horizon.thaw(compileFacility(facility), frozen);
        for (const mode of modes) expect(said(thawed.table(mode))).toEqual(said(horizon.table(mode)));
        const next = compileFacility(withAllLists(changed(facility, how)), thawed.compiled);
        const { from, to } = horizon.ahead;
        expect(said(thawed.beside(next).table(ordinary))).toEqual(said(accessTable(next, exactTimeframe(next, from, to, ordinary))));
        expect(thawed.freeze()?.rowOfCredential).toEqual(frozen.rowOfCredential);
      }),
      { numRuns: 60 },
    );
  });

  it("is of the years 0001 and 9999 as of any other", () => {
    for (const asOf of ["0001-01-02T00:00:00Z", "9998-11-30T00:00:00Z"]) {
      const facility = withAllLists({
        format: "nomade.facility/1",
        name: "n",
        timeZone: "Pacific/Auckland",
        asOf,
        sites: [{ id: "s", name: "S", timeZone: "America/Caracas" }],
        doors: [{ id: "d", name: "D", site: "s" }],
        schedules: [{ id: "w", name: "W", week: { tue: [["08:00", "17:00"]] } }],
        cardholders: [{ id: "h", name: "H", status: "active" }],
        credentials: [{ id: "c", cardholder: "h", kind: "card", status: "active" }],
        grants: [{ id: "g", to: { cardholder: "h" }, open: { door: "d" }, schedule: "w" }],
      });
      const horizon = new Horizon(compileFacility(facility));
      const frozen = horizon.freeze();
      expect(frozen && said(Horizon.thaw(compileFacility(facility), frozen).table(ordinary))).toEqual(said(horizon.table(ordinary)));
      expect([...pairsOfCredential(horizon.table(ordinary), 0)][0]?.[1].length).toBeGreaterThan(100);
    }
  });
});
