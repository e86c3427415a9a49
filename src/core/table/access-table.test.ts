import { profilesOf } from "./internal/access-profiles";
import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility, askedDays } from "~/tests/judge/arbitrary-facility";
import { arbitrarySecond, changed, crowded } from "~/tests/judge/second-facility";
import { compiledFrom, facilityDraft, minute } from "~/tests/builders";
import { compileFacility } from "../compile/compile-facility";
import type { CompiledFacility } from "../compile/compiled-facility";
import { withAllLists } from "../facility/facility";
import type { EpochMinute } from "../time/instant";
import { timelineAt } from "./access-rows";
import { accessTable } from "./access-table";
import { AccessWorld } from "./access-world";
import { exactTimeframe, ordinaryWeekTimeframe } from "../paths/timeframe";
import type { Timeframe } from "../paths/timeframe";
import { cardholderOpenIn, openIn } from "../paths/timetable";

const modes = fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() });

/** Every pair of the table against the timetable of the pair, which the point-wise judge of the tests judges in turn. */
function expectSamePairs(compiled: CompiledFacility, timeframe: Timeframe, again: Timeframe, world = new AccessWorld()): void {
  const table = accessTable(compiled, timeframe, world);
  for (const credential of compiled.credentials)
    for (const { position: door } of compiled.doors) {
      const timeline = timelineAt(table.rows, table.liveRow(credential.position), door);
      expect([credential.credential.id, door, table.timelines.set(timeline)]).toEqual([
        credential.credential.id,
        door,
        openIn(compiled, again, credential, door),
      ]);
    }
  for (const { position: cardholder } of compiled.cardholders)
    for (const { position: door } of compiled.doors) {
      const timeline = timelineAt(table.rows, table.rowOfCardholder(cardholder), door);
      expect([cardholder, door, table.timelines.set(timeline)]).toEqual([cardholder, door, cardholderOpenIn(compiled, again, cardholder, door)]);
    }
}

describe("the access table", () => {
  it("holds for each credential, cardholder and door just what the timetable of the pair says, in every mode", () => {
    fc.assert(
      fc.property(arbitraryFacility, modes, fc.constantFrom(...askedDays), fc.integer({ min: 1, max: 40 }), (draft, mode, day, days) => {
        const compiled = compiledFrom(draft);
        const from = minute(`${day}T00:00:00Z`);
        const to = (from + days * 1440) as EpochMinute;
        expectSamePairs(compiled, exactTimeframe(compiled, from, to, mode), exactTimeframe(compiled, from, to, mode));
      }),
      { numRuns: 400 },
    );
  });

  it("does so for an ordinary week", () => {
    fc.assert(
      fc.property(arbitraryFacility, modes, fc.constantFrom(...askedDays), (draft, mode, day) => {
        const compiled = compiledFrom(draft);
        const at = minute(`${day}T11:00:00Z`);
        expectSamePairs(compiled, ordinaryWeekTimeframe(compiled, at, mode), ordinaryWeekTimeframe(compiled, at, mode));
      }),
      { numRuns: 100 },
    );
  });

  it("does so for a facility compiled after another, in the world in which that one is laid out", () => {
    fc.assert(
      fc.property(arbitraryFacility.map(crowded), arbitrarySecond, modes, fc.constantFrom(...askedDays), (first, how, mode, day) => {
        const from = minute(`${day}T00:00:00Z`);
        const timeframe = (compiled: CompiledFacility): Timeframe => exactTimeframe(compiled, from, (from + 12 * 1440) as EpochMinute, mode);
        const world = new AccessWorld();
        const before = compileFacility(withAllLists(first));
        for (const { position } of before.cardholders) accessTable(before, timeframe(before), world).rowOfCardholder(position);
        const after = compileFacility(withAllLists(changed(first, how)), before);
        const alone = compileFacility(withAllLists(changed(first, how)));
        expectSamePairs(after, timeframe(after), timeframe(alone), world);
      }),
      { numRuns: 150 },
    );
  });

  it("asks nothing of what the facility before spoke of and this one does not have", () => {
    const was = withAllLists({
      ...facilityDraft({}),
      schedules: [
        { id: "gone", name: "gone", always: true },
        { id: "stays", name: "stays", always: true },
      ],
      levels: [{ id: "lost", name: "lost", rows: [{ door: "gate", schedule: "gone" }] }],
      bundles: [{ id: "packed", name: "packed", levels: ["lost"] }],
      grants: [
        { id: "a", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "gone" },
        { id: "b", to: { cardholder: "iris" }, open: { level: "lost" } },
        { id: "c", to: { cardholder: "iris" }, open: { bundle: "packed" } },
      ],
    });
    const is = {
      ...was,
      schedules: was.schedules.slice(1),
      levels: [],
      bundles: [],
      grants: [{ id: "d", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "stays" }],
    };
    const before = compileFacility(was);
    const world = new AccessWorld();
    const timeframe = (compiled: CompiledFacility): Timeframe =>
      exactTimeframe(compiled, minute("2026-03-01T00:00:00Z"), minute("2026-03-02T00:00:00Z"), { lockdown: false, asIfLive: false });
    accessTable(before, timeframe(before), world);
    const after = compileFacility(is, before);
    expect(profilesOf(after).numbers).toBe(profilesOf(before).numbers);
    expectSamePairs(after, timeframe(after), timeframe(after), world);
  });

  it("shares one row among all who have the same", () => {
    const people = Array.from({ length: 50 }, (_, i) => ({ id: `h${i}`, name: `H ${i}`, status: "active" as const, department: "d" }));
    const compiled = compiledFrom({
      groups: [{ id: "d", name: "D", kind: "department" }],
      cardholders: people,
      credentials: people.map(({ id }) => ({ id: `c-${id}`, cardholder: id, kind: "card", status: "active" })),
      grants: [{ id: "g", to: { group: "d" }, open: { door: "gate" }, schedule: "office" }],
    });
    const from = minute("2026-03-01T00:00:00Z");
    const table = accessTable(compiled, exactTimeframe(compiled, from, (from + 1440 * 365) as EpochMinute, { lockdown: false, asIfLive: false }));
    expect(table.rows.count).toBe(2);
    expect(new Set(compiled.cardholders.all().map(({ position }) => table.rowOfCardholder(position)))).toEqual(new Set([1]));
  });
});
