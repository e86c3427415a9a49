import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility, arbitraryQuestion } from "~/tests/judge/arbitrary-facility";
import { compiledFrom, credentialOf, doorOf, minute } from "~/tests/builders";
import type { EpochMinute } from "../time/instant";
import type { Need } from "./needs";
import { needsFor } from "./needs";
import type { Reason } from "./verdict";
import { reasonAt } from "./verdict";

/** The first thing that is lacking, by the reason that the verdict gives. */
const lackingBy: Readonly<Partial<Record<Reason, readonly Need["need"][]>>> = {
  "credential-inactive": ["credential-active"],
  "cardholder-inactive": ["cardholder-active"],
  "not-yet-valid": ["valid-earlier"],
  expired: ["valid-longer"],
  "site-excluded": ["known-at-site"],
  blocked: ["without-block"],
  "no-grant": ["a-grant"],
  "grant-not-in-force": ["grant-in-force"],
  "closed-holiday": ["schedule-open", "grant-in-force"],
  "closed-schedule": ["schedule-open", "grant-in-force"],
  "cardholder-hours": ["hours-open", "grant-in-force", "schedule-open"],
  lockdown: ["lockdown-pass", "grant-in-force", "schedule-open", "hours-open"],
  "entry-unmet": ["a-card", "a-pin"],
  "via-closed": ["door-before"],
};

describe("what would have to be otherwise", () => {
  it("is nothing just where the door opens, and else begins with what the verdict's reason says", () => {
    fc.assert(
      fc.property(arbitraryFacility, fc.array(arbitraryQuestion, { minLength: 8, maxLength: 8 }), (draft, questions) => {
        const compiled = compiledFrom(draft);
        for (const { credential, door, day, minuteOfDay, lockdown, asIfLive } of questions) {
          const at = (minute(`${day}T00:00:00Z`) + minuteOfDay) as EpochMinute;
          const mode = { lockdown, asIfLive };
          const reason = reasonAt(compiled, credentialOf(compiled, credential), doorOf(compiled, door), at, mode);
          const needs = needsFor(compiled, credentialOf(compiled, credential), doorOf(compiled, door), at, mode);
          expect([reason, needs.length === 0]).toEqual([reason, reason === "open"]);
          if (reason !== "open") expect([reason, needs.some(({ need }) => lackingBy[reason]?.includes(need))]).toEqual([reason, true]);
        }
      }),
      { numRuns: 200 },
    );
  });

  it("tells of two shut paths the one that lacks less", () => {
    const compiled = compiledFrom({
      grants: [
        { id: "over", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office", until: "2025-12-31" },
        { id: "by-day", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" },
      ],
    });
    const at = minute("2026-03-02T20:00:00Z");
    expect(needsFor(compiled, credentialOf(compiled, "c1"), doorOf(compiled, "gate"), at, { lockdown: false, asIfLive: false })).toEqual([
      { need: "schedule-open", schedule: "office", holiday: false },
    ]);
  });

  it("adds up everything that is lacking, the door before it with what that lacks", () => {
    const compiled = compiledFrom({
      doors: [
        { id: "lift", name: "Lift", site: "garden", entry: "pin" },
        { id: "floor", name: "Floor", site: "garden", via: "lift" },
      ],
      credentials: [{ id: "c1", cardholder: "iris", kind: "card", status: "suspended" }],
    });
    const at = minute("2026-03-02T10:00:00Z");
    expect(needsFor(compiled, credentialOf(compiled, "c1"), doorOf(compiled, "floor"), at, { lockdown: false, asIfLive: false })).toEqual([
      { need: "credential-active" },
      { need: "a-grant" },
      { need: "door-before", door: "lift", needs: [{ need: "credential-active" }, { need: "a-grant" }, { need: "a-pin" }] },
    ]);
  });
});
