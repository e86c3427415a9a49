import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { compiledFrom, credentialOf, doorOf, minute } from "~/tests/builders";
import type { FacilityDraft } from "../facility/draft";
import { exactReading } from "../resolve/reading";
import { openIn } from "../resolve/timetable";
import { present } from "../kernel/invariant";
import { monthsAhead } from "../time/horizon";
import type { Change } from "./withdrawal";
import { planReturn, planWithdrawal } from "./withdrawal";

const asOf = minute("2026-03-01T00:00:00Z");
const awake = { lockdown: false, asIfLive: true };

const plan = (given: Partial<FacilityDraft>, door = "gate") => {
  const compiled = compiledFrom(given);
  const credentials = present(compiled.cardholders.at(0), "there is somebody").credentials.map((position) => present(compiled.credentials.at(position), "valid"));
  return planWithdrawal(compiled, exactReading(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), awake), credentials, [doorOf(compiled, door)]);
};

/** The document with changes carried out in it. */
function carriedOut(draft: FacilityDraft, changes: readonly Change[]): FacilityDraft {
  const ended = (kind: Change["kind"], matches: (change: Change) => boolean) => changes.some((change) => change.kind === kind && matches(change));
  return {
    ...draft,
    grants: [
      ...(draft.grants ?? []).filter(({ id }) => !ended("end-grant", (change) => change.kind === "end-grant" && change.grant === id)),
      ...changes.flatMap((change, i) => (change.kind === "add-block" ? change.doors.map((door, j) => ({ id: `new-block-${i}-${j}`, to: { cardholder: change.cardholder }, open: { door }, effect: "block" as const })) : [])),
    ],
    memberships: (draft.memberships ?? []).filter(({ group, cardholder }) => !ended("end-membership", (change) => change.kind === "end-membership" && change.group === group && change.cardholder === cardholder)),
    cardholders: (draft.cardholders ?? []).map(({ override, ...cardholder }) => (override === undefined || ended("end-override", (change) => change.kind === "end-override" && change.cardholder === cardholder.id) ? cardholder : { ...cardholder, override })),
  };
}

describe("withdrawing a door", () => {
  const groups = [{ id: "watch", name: "Watch" }];
  const levels = [{ id: "l", name: "L", rows: [{ door: "gate", schedule: "always" }, { door: "shed", schedule: "always" }] }];
  const doors = [{ id: "gate", name: "Gate", site: "garden" }, { id: "shed", name: "Shed", site: "garden" }];

  it("ends the direct grant, leaves the group, and says what else is lost", () => {
    const planned = plan({
      groups,
      levels,
      doors,
      memberships: [{ group: "watch", cardholder: "iris" }],
      grants: [{ id: "straight", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" }, { id: "watch-l", to: { group: "watch" }, open: { level: "l" } }],
    });
    expect(planned.changes).toEqual([{ kind: "end-grant", grant: "straight" }, { kind: "end-membership", group: "watch", cardholder: "iris" }]);
    expect(planned.alsoLost).toEqual(["shed"]);
  });

  it("names a door that is only narrowed apart from one that is lost", () => {
    const planned = plan({
      doors,
      levels,
      grants: [{ id: "l-all", to: { cardholder: "iris" }, open: { level: "l" } }, { id: "shed-day", to: { cardholder: "iris" }, open: { door: "shed" }, schedule: "office" }],
    });
    expect(planned).toEqual({ changes: [{ kind: "end-grant", grant: "l-all" }], alsoLost: [], alsoNarrowed: ["shed"] });
  });

  it("blocks one person where the door comes with the department, so that nobody else loses it", () => {
    const planned = plan({
      groups: [{ id: "press", name: "Press", kind: "department" }],
      cardholders: [{ id: "iris", name: "Iris", status: "active", department: "press" }, { id: "nora", name: "Nora", status: "active", department: "press" }],
      grants: [{ id: "press-gate", to: { group: "press" }, open: { door: "gate" }, schedule: "always" }],
    });
    expect(planned.changes).toEqual([{ kind: "add-block", cardholder: "iris", doors: ["gate"] }]);
  });

  it("ends a standing override", () => {
    expect(plan({ cardholders: [{ id: "iris", name: "Iris", status: "active", override: true }] }).changes).toContainEqual({ kind: "end-override", cardholder: "iris" });
  });

  it("shuts the door when its changes are carried out, whatever the document, and touches nobody else", () => {
    fc.assert(
      fc.property(arbitraryFacility, fc.constantFrom("d1", "d2", "d3"), (draft, door) => {
        const before = compiledFrom(draft);
        const from = minute("2026-03-20T00:00:00Z");
        const to = minute("2026-05-20T00:00:00Z");
        const reading = exactReading(before, from, to, awake);
        const planned = planWithdrawal(before, reading, [credentialOf(before, "c1")], [doorOf(before, door)]);
        const after = compiledFrom(carriedOut(draft, planned.changes));
        const readingAfter = exactReading(after, from, to, awake);
        expect(openIn(after, readingAfter, credentialOf(after, "c1"), doorOf(after, door))).toEqual([]);
        for (const other of ["c2", "c3"])
          for (const each of ["d1", "d2", "d3"])
            expect([other, each, openIn(after, readingAfter, credentialOf(after, other), doorOf(after, each))]).toEqual([other, each, openIn(before, reading, credentialOf(before, other), doorOf(before, each))]);
        for (const each of ["d1", "d2", "d3"].filter((one) => one !== door)) {
          const [was, is] = [openIn(before, reading, credentialOf(before, "c1"), doorOf(before, each)), openIn(after, readingAfter, credentialOf(after, "c1"), doorOf(after, each))];
          if (was.join() !== is.join() && before.doors[doorOf(before, each)]?.via === undefined)
            expect([each, [...planned.alsoLost, ...planned.alsoNarrowed].includes(each)]).toEqual([each, true]);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe("taking a credential back", () => {
  it("loses the doors that no other of the holder's credentials opens", () => {
    const compiled = compiledFrom({
      doors: [{ id: "gate", name: "Gate", site: "garden" }, { id: "shed", name: "Shed", site: "garden" }],
      credentials: [{ id: "c1", cardholder: "iris", kind: "card", status: "active" }, { id: "c2", cardholder: "iris", kind: "fob", status: "active" }],
      grants: [{ id: "a", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" }, { id: "b", to: { credential: "c1" }, open: { door: "shed" }, schedule: "always" }],
    });
    const reading = exactReading(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), { lockdown: false, asIfLive: false });
    expect(planReturn(compiled, reading, credentialOf(compiled, "c1"))).toEqual({ changes: [{ kind: "end-credential", credential: "c1" }], alsoLost: ["shed"], alsoNarrowed: [] });
  });
});
