import { describe, expect, it } from "@jest/globals";
import { horizonOf } from "@/core/table/horizon";
import fc from "fast-check";
import { compiledFrom, credentialOf } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { ordinary } from "@/core/paths/paths";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { holderKey } from "@/core/facility/holder-id";
import { exactTimeframe } from "@/core/paths/timeframe";
import type { Timeframe } from "@/core/paths/timeframe";
import { cardholderOpenIn, openIn } from "@/core/paths/timetable";
import { instantOf } from "@/core/facility/time-rules";
import { monthsAhead } from "@/core/time/horizon";
import { minuteDown } from "@/core/time/instant";
import type { FacilityDocument } from "@/core/facility/document";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import { subtract, totalMinutes } from "@/core/time/intervals";
import { effectOnAccess } from "./effect-on-access";

const vault = {
  areas: [
    { id: "hall", name: "Hall", site: "garden" },
    { id: "vault", name: "Vault", site: "garden", sensitivity: 3 as const },
  ],
  doors: [
    { id: "gate", name: "Gate", site: "garden", area: "hall" },
    { id: "safe", name: "Safe", site: "garden", area: "vault" },
  ],
};
const people = {
  cardholders: [
    { id: "iris", name: "Iris", status: "active" as const },
    { id: "otto", name: "Otto", status: "active" as const },
  ],
  credentials: [
    { id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const },
    { id: "c2", cardholder: "otto", kind: "card" as const, status: "active" as const },
  ],
};
const grant = (id: string, cardholder: string, door: string, schedule = "office") => ({ id, to: { cardholder }, open: { door }, schedule });

/** One area weighs more than the other. */
const withSensitivity = (draft: FacilityDocument): FacilityDocument => ({
  ...draft,
  areas: (draft.areas ?? []).map((area) => (area.id === "a2" ? { ...area, sensitivity: 2 } : area)),
});

const effectBetween = (before: CompiledFacility, after: CompiledFacility) => effectOnAccess(horizonOf(after).beside(before), horizonOf(after));

describe("the effect of a change on access", () => {
  it("counts and names who gains, loses and gets other hours, what is most sensitive first, with the causes", () => {
    const before = compiledFrom({ ...vault, ...people, grants: [grant("g1", "iris", "gate"), grant("g2", "otto", "gate")] });
    const after = compiledFrom({ ...vault, ...people, grants: [grant("g1", "iris", "gate", "always"), grant("g3", "otto", "safe")] });
    const { changes, ...counts } = effectBetween(before, after);
    expect(counts).toEqual({ gained: 1, lost: 1, hours: 1, people: 2 });
    expect(
      changes.map(({ name, doorName, sensitivity, change, causes }) => [
        name,
        doorName,
        sensitivity,
        change,
        causes.map(({ kind, name: cause, what }) => `${kind} ${cause} ${what}`),
      ]),
    ).toEqual([
      ["Otto", "Safe", 3, "gained", ["grant g3 added"]],
      ["Iris", "Gate", 0, "hours", ["grant g1 changed"]],
      ["Otto", "Gate", 0, "lost", ["grant g2 gone"]],
    ]);
  });

  it("names by the document before what is gone from the one after", () => {
    const before = compiledFrom({ ...vault, ...people, grants: [grant("g2", "otto", "gate")] });
    const after = compiledFrom({ ...vault, cardholders: people.cardholders.slice(0, 1), credentials: people.credentials.slice(0, 1) });
    expect(effectBetween(before, after).changes.map(({ name, causes }) => [name, causes.map(({ kind, name: cause }) => `${kind} ${cause}`)])).toEqual([
      ["Otto", ["cardholder Otto", "credential Card c2", "grant g2"]],
    ]);
  });

  it("says nothing of a document against itself, and of any two just what two resolutions of each pair differ by", () => {
    fc.assert(
      fc.property(arbitraryFacility.map(withSensitivity), arbitraryFacility, (first, other) => {
        const before = compiledFrom(first);
        expect(effectBetween(before, before)).toMatchObject({ gained: 0, lost: 0, hours: 0, people: 0, changes: [] });
        const after = compiledFrom({ ...first, grants: other.grants ?? [], memberships: other.memberships ?? [] });
        const from = minuteDown(instantOf(after.facility.asOf));
        const readings = [
          exactTimeframe(before, from, monthsAhead(from, after.vocabulary.zone), ordinary),
          exactTimeframe(after, from, monthsAhead(from, after.vocabulary.zone), ordinary),
        ] as const;
        const changed: {
          readonly holder: string | undefined;
          readonly door: string | undefined;
          readonly sensitivity: number;
          readonly more: number;
          readonly less: number;
        }[] = [];
        let [gained, lost, hours] = [0, 0, 0];
        const holders = [
          ...before.facility.cardholders.map(({ id }, i) => ({
            id: `cardholder ${id}`,
            opens: (compiled: CompiledFacility, timeframe: Timeframe, door: number) => cardholderOpenIn(compiled, timeframe, i, door),
          })),
          {
            id: "credential c3",
            opens: (compiled: CompiledFacility, timeframe: Timeframe, door: number) => openIn(compiled, timeframe, credentialOf(compiled, "c3"), door),
          },
        ];
        holders.forEach(({ id, opens }) =>
          before.doors.forEach(({ position: door }) => {
            const [was, is] = [opens(before, readings[0], door), opens(after, readings[1], door)];
            if (was.join() === is.join()) return;
            changed.push({
              holder: id,
              door: before.facility.doors[door]?.id,
              sensitivity: doorSensitivity(before, door),
              more: totalMinutes(subtract(is, was)),
              less: totalMinutes(subtract(was, is)),
            });
            if (was.length === 0) gained++;
            else if (is.length === 0) lost++;
            else hours++;
          }),
        );
        const effect = effectBetween(before, after);
        expect(effect).toMatchObject({ gained, lost, hours, people: new Set(changed.map(({ holder }) => holder)).size });
        // The sort of the engine is stable: equal ones stay in the order of the document.
        expect(effect.changes.map(({ holder, door }) => `${holderKey(holder)} ${door}`)).toEqual(
          [...changed].sort((a, b) => b.sensitivity - a.sensitivity || b.more - a.more || b.less - a.less).map(({ holder, door }) => `${holder} ${door}`),
        );
      }),
      { numRuns: 25 },
    );
  });
});
