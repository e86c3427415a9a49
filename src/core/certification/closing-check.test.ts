import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { compileFacility } from "../compile/compile-facility";
import { aheadOf } from "../facility/ahead";
import type { FacilityDocument } from "../facility/document";
import type { FacilityChange } from "../facility/facility-change";
import { withChanges } from "../facility/facility-change";
import { normalFacility } from "../facility/normal-form";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { CheckedWish, ClosingInput, ClosingOutcome } from "./closing-check";
import { closingCheck } from "./closing-check";
import { planReturn, planWithdrawal } from "./withdrawal/plan-withdrawal";

const doors = [
  { id: "gate", name: "Gate", site: "garden" },
  { id: "shed", name: "Shed", site: "garden" },
];
const toGate = { id: "to-gate", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" } as const;
const toShed = { id: "to-shed", to: { cardholder: "iris" }, open: { door: "shed" }, schedule: "always" } as const;
const register: Partial<FacilityDocument> = { doors, grants: [toGate, toShed] };
const later = "2026-03-13T00:00:00Z";
const gate: CheckedWish = { kind: "doors", holder: { kind: "cardholder", id: "iris" }, doors: ["gate"], stays: {} };
const both: CheckedWish = { ...gate, doors: ["gate", "shed"] };
const normal = (draft: Partial<FacilityDocument>) => compileFacility(normalFacility(compiledFrom(draft).facility));

/** What the planner orders for a wish. */
function orderedFor(given: Partial<FacilityDocument>, wish: CheckedWish): readonly FacilityChange[] {
  const compiled = normal(given);
  const ahead = aheadOf(compiled.facility);
  return (wish.kind === "return" ? planReturn(compiled, ahead, wish.credential) : planWithdrawal(compiled, ahead, wish, { withBlocks: true })).changes;
}

/** What a later document, that of before with some lists replaced, tells of a wish; asked twelve days after it was sent. */
function told(after: Partial<FacilityDocument>, given: Partial<FacilityDocument> = register, wish = gate, more: Partial<ClosingInput> = {}): ClosingOutcome {
  const before = normal(given);
  return closingCheck({
    before,
    after: normal({ ...given, asOf: later, ...after }),
    wish,
    ordered: orderedFor(given, wish),
    sentAt: aheadOf(before.facility).from,
    wasDone: false,
    leftOut: 0,
    ...more,
  });
}

describe("the closing check of a wish", () => {
  it("is done where the door is shut in every mode, and says where it came about otherwise than ordered", () => {
    expect(told({ grants: [toShed] })).toEqual({ outcome: "done", otherwise: false });
    const block = { id: "b", to: { cardholder: "iris" }, open: { door: "gate" }, effect: "block" as const };
    expect(told({ grants: [toGate, toShed, block] })).toEqual({ outcome: "done", otherwise: true });
  });

  it("is not done, with the days since it was sent, where nothing was changed", () => {
    expect(told({})).toEqual({ outcome: "not-done", days: 12 });
  });

  it("is done in part where one of two doors is shut, or one opens at fewer hours", () => {
    expect(told({ grants: [toShed] }, register, both)).toEqual({ outcome: "in-part", shut: ["gate"], fewer: [], left: ["shed"], lost: [] });
    expect(told({ grants: [{ ...toGate, schedule: "office" }, toShed] })).toEqual({ outcome: "in-part", shut: [], fewer: ["gate"], left: [], lost: [] });
  });

  it("remains where the record is gone and another path opens the door, asleep or not", () => {
    const another = { ...toGate, id: "another" };
    expect(told({ grants: [another, toShed] })).toEqual({
      outcome: "record-gone",
      doors: ["gate"],
      by: [{ kind: "grant", grant: "another", group: undefined }],
    });
    const suspended = [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "suspended" as const }];
    expect(told({ grants: [another, toShed], credentials: suspended }).outcome).toBe("record-gone");
    const overriding = [{ id: "iris", name: "Iris Almond", status: "active" as const, override: true as const }];
    expect(told({ grants: [toShed], cardholders: overriding })).toMatchObject({ outcome: "record-gone", by: [{ kind: "override" }] });
  });

  it("sleeps where only the card was suspended: one change brings it back", () => {
    const suspended = [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "suspended" as const }];
    expect(told({ credentials: suspended })).toEqual({ outcome: "asleep", doors: ["gate"] });
  });

  it("returned where it was done once and is there again", () => {
    expect(told({}, register, gate, { wasDone: true })).toEqual({ outcome: "returned", doors: ["gate"] });
    expect(told({ grants: [toShed] }, register, gate, { wasDone: true })).toEqual({ outcome: "done", otherwise: false });
  });

  it("cannot tell where the holder or the door is missing or another, rows were not read, or the register is older than the sending", () => {
    const nobody = { cardholders: [], credentials: [], grants: [] };
    expect(told(nobody)).toEqual({ outcome: "cannot-tell", why: "holder-missing", id: "iris" });
    const numbered = (staffNumber: string) => ({ cardholders: [{ id: "iris", name: "Iris Almond", status: "active" as const, staffNumber }] });
    expect(told({ ...numbered("8"), grants: [toShed] }, { ...register, ...numbered("7") })).toEqual({
      outcome: "cannot-tell",
      why: "holder-other",
      id: "iris",
    });
    expect(told({ doors: doors.slice(1), grants: [toShed] })).toEqual({ outcome: "cannot-tell", why: "door-missing", id: "gate" });
    const sites = ["garden", "field"].map((id) => ({ id, name: id, timeZone: "Europe/Vienna" }));
    const moved = { sites, doors: [{ id: "gate", name: "Gate", site: "field" }, ...doors.slice(1)], grants: [toShed] };
    expect(told(moved)).toEqual({ outcome: "cannot-tell", why: "door-other", id: "gate" });
    expect(told({ grants: [toShed] }, register, gate, { leftOut: 1 })).toEqual({ outcome: "cannot-tell", why: "rows-not-read" });
    const sentLater = (aheadOf({ asOf: later, timeZone: "UTC" }).from + 1) as EpochMinute;
    expect(told({ grants: [toShed] }, register, gate, { sentAt: sentLater })).toEqual({ outcome: "cannot-tell", why: "before-sending" });
  });

  it("is done of a door that was to be narrowed only where what may stay is there", () => {
    const byDay: CheckedWish = { ...gate, stays: { schedule: "office" } };
    expect(told({ grants: [{ ...toGate, schedule: "office" }, toShed] }, register, byDay)).toEqual({ outcome: "done", otherwise: false });
    expect(told({ grants: [toShed] }, register, byDay)).toEqual({ outcome: "in-part", shut: ["gate"], fewer: [], left: [], lost: ["gate"] });
    expect(told({}, register, byDay).outcome).toBe("not-done");
    // Once the last date has passed nothing has to be there any more.
    const untilTenth: CheckedWish = { ...gate, stays: { until: "2026-03-10" } };
    expect(told({ grants: [toShed] }, register, untilTenth)).toEqual({ outcome: "done", otherwise: true });
    const schedules = [{ id: "always", name: "Always", always: true as const }];
    expect(told({ schedules }, register, byDay)).toEqual({ outcome: "cannot-tell", why: "schedule-missing", id: "office" });
  });

  it("tells of a card that was to come back", () => {
    const card = { id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const };
    const back: CheckedWish = { kind: "return", holder: gate.holder, credential: "c1" };
    const after = (credentials: FacilityDocument["credentials"], more: Partial<ClosingInput> = {}) => told({ credentials }, register, back, more);
    expect(after([{ ...card, until: "2026-03-01T00:00:00Z" }])).toEqual({ outcome: "done", otherwise: false });
    expect(after([{ ...card, status: "returned" }])).toEqual({ outcome: "done", otherwise: true });
    expect(after([])).toEqual({ outcome: "done", otherwise: true });
    expect(after([{ ...card, status: "suspended" }])).toEqual({ outcome: "asleep", doors: [] });
    expect(after([card])).toEqual({ outcome: "not-done", days: 12 });
    expect(after([card], { wasDone: true })).toEqual({ outcome: "returned", doors: [] });
    const other = { cardholders: ["iris", "nora"].map((id) => ({ id, name: id, status: "active" as const })), credentials: [{ ...card, cardholder: "nora" }] };
    expect(told(other, register, back)).toEqual({ outcome: "cannot-tell", why: "credential-elsewhere", id: "c1" });
  });

  it("says done of no door that opens when it should not, and not done of none that was shut, whatever was changed", () => {
    const outcomes = new Map<string, number>();
    fc.assert(
      fc.property(arbitraryFacility, arbitraryFacility, fc.nat(2), fc.nat(3), (draft, other, who, kept) => {
        const given = { ...draft, asOf: "2026-04-01T10:20:00Z" };
        const before = normal(given);
        const holder = before.facility.cardholders[who % Math.max(1, before.facility.cardholders.length)];
        const doorIds = before.facility.doors.map(({ id }) => id).slice(0, 2);
        if (!holder || doorIds.length === 0) return;
        const wish: CheckedWish = { kind: "doors", holder: { kind: "cardholder", id: holder.id }, doors: doorIds, stays: {} };
        const ordered = orderedFor(given, wish);
        // As ordered; not at all; only the first few of the changes; or another register of the same people and doors.
        const changed =
          kept === 0
            ? withChanges(before.facility, ordered)
            : kept === 1
              ? before.facility
              : kept === 2
                ? withChanges(before.facility, ordered.slice(0, -1))
                : {
                    ...before.facility,
                    grants: other.grants ?? [],
                    groups: other.groups ?? [],
                    memberships: other.memberships ?? [],
                    levels: other.levels ?? [],
                  };
        let after;
        try {
          after = normal({ ...changed, asOf: "2026-04-09T10:20:00Z" });
        } catch {
          return;
        }
        const sentAt = aheadOf(before.facility).from;
        const found = closingCheck({ before, after, wish, ordered, sentAt, wasDone: false, leftOut: 0 });
        outcomes.set(found.outcome, (outcomes.get(found.outcome) ?? 0) + 1);
        const judge = new Judge(after.facility);
        const { from, to } = aheadOf(after.facility);
        const opens = (asIfLive: boolean): boolean => {
          for (let minute: number = from; minute < Math.min(to, from + 9 * minutesADay); minute += 397)
            for (const door of doorIds)
              for (const { id } of after.facility.credentials.filter(({ cardholder }) => cardholder === holder.id))
                if (judge.reason(id, door, BigInt(minute), { lockdown: false, asIfLive }) === "open") return true;
          return false;
        };
        if (found.outcome === "done") expect([opens(false), opens(true)]).toEqual([false, false]);
        if (found.outcome === "asleep") expect(opens(false)).toBe(false);
        if (kept === 0) expect(found.outcome).toBe("done");
      }),
      { numRuns: 50 },
    );
    // Both ends were drawn: what is gone, and what is not, in whatever way.
    const isNot = ["not-done", "in-part", "asleep", "record-gone"].reduce((sum, outcome) => sum + (outcomes.get(outcome) ?? 0), 0);
    expect([(outcomes.get("done") ?? 0) > 0, isNot > 0]).toEqual([true, true]);
  });
});
