import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { checkFacility } from "@/core/facility/check-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import { limitToSites } from "@/core/facility/limit-to-sites";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { exactTimeframe } from "@/core/paths/timeframe";
import { accessTable, pairsOfCredential } from "@/core/table/access-table";
import type { EpochMinute } from "@/core/time/instant";
import { compiledFrom, minute } from "../builders";
import { arbitraryFacility, askedDays } from "./arbitrary-facility";

const mode = fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() });
const days = 30;

/** The document with its doors, areas and people spread over two sites, of which the second may lie behind a door of the first. */
const ofTwoSites = fc
  .tuple(
    arbitraryFacility,
    fc.boolean(),
    fc.boolean(),
    fc.constantFrom<(true | readonly string[] | undefined)[]>(undefined, true, ["far"], ["y", "far"], ["x"]),
  )
  .map(([draft, isSplit, isVia, override]): FacilityDocument => {
    const [first] = draft.sites ?? [];
    if (!first) return draft;
    const far = { ...first, id: "far", name: "Far" };
    const doors = (draft.doors ?? []).map((door, i, all) => {
      if (i !== all.length - 1 || !isSplit) return door;
      const { area: _a, from: _f, via: _v, ...rest } = door;
      return { ...rest, site: "far", ...(isVia && all[0] && { via: all[0].id }) };
    });
    const sites = [...(draft.sites ?? []), far];
    const known = new Set(sites.map(({ id }) => id));
    const given = override === true || override === undefined ? override : override.filter((id) => known.has(id));
    const overrides = given === true || (given !== undefined && given.length > 0) ? { override: given } : {};
    const cardholders = (draft.cardholders ?? []).map((one, i) => (i === 0 ? { ...one, ...overrides } : one));
    return { ...draft, sites, doors, cardholders };
  });

/** Every credential's times at the doors that count, by id. */
function timesOf(
  compiled: CompiledFacility,
  doors: ReadonlySet<string>,
  from: EpochMinute,
  asked: { lockdown: boolean; asIfLive: boolean },
): Record<string, unknown> {
  const table = accessTable(compiled, exactTimeframe(compiled, from, (from + days * 1440) as EpochMinute, asked));
  const times: Record<string, unknown> = {};
  for (const { position, credential } of compiled.credentials)
    for (const [door, open] of pairsOfCredential(table, position)) {
      const id = compiled.facility.doors[door]?.id ?? "";
      if (doors.has(id)) times[`${credential.id} ${id}`] = open;
    }
  return times;
}

describe("a facility as who is limited to some sites sees it", () => {
  it("says of its doors just what the whole says, of everybody, and is a facility by itself", () => {
    let split = 0;
    fc.assert(
      fc.property(ofTwoSites, mode, fc.constantFrom(...askedDays), (draft, asked, start) => {
        const whole = compiledFrom(draft);
        const from = minute(`${start}T00:00:00Z`);
        for (const site of whole.facility.sites) {
          const limited = limitToSites(whole.facility, new Set([site.id]));
          const checked = checkFacility(JSON.parse(JSON.stringify(limited)) as never);
          expect(checked.ok ? [] : checked.error).toEqual([]);
          const kept = new Set(whole.facility.doors.filter((door) => door.site === site.id).map(({ id }) => id));
          if (kept.size > 0 && kept.size < whole.facility.doors.length) split += 1;
          expect(timesOf(compileFacility(limited), kept, from, asked)).toEqual(timesOf(whole, kept, from, asked));
        }
      }),
      { numRuns: 150 },
    );
    expect(split).toBeGreaterThan(50);
  });

  it("has nothing of the others: no door that leads nowhere of its own, nobody but by name who opens nothing of it", () => {
    fc.assert(
      fc.property(ofTwoSites, (draft) => {
        const whole = compiledFrom(draft);
        const limited = limitToSites(whole.facility, new Set(["far"]));
        const own = new Set(limited.doors.filter(({ site }) => site === "far").map(({ id }) => id));
        for (const door of limited.doors)
          expect(own.has(door.id) || limited.doors.some(({ via, id }) => via === door.id && (own.has(id) || via !== undefined))).toBe(true);
        if (own.size === 0) expect(limited.grants).toEqual([]);
        for (const key of listKeys) expect(limited[key].length).toBeLessThanOrEqual(whole.facility[key].length);
      }),
      { numRuns: 80 },
    );
  });
});
