import { describe, expect, it } from "@jest/globals";
import type { FactsOf, FindingFacts, RuleKey } from "@/core/findings/finding";
import type { SubjectKind } from "@/core/findings/flag";
import { findingProof, findingRemedy, findingSentence } from "./findings";

const names = { timeZone: "Europe/Vienna", name: (kind: SubjectKind, id: string) => `${kind} ${id}` };

const sentence = <K extends RuleKey>(rule: K, proof: FactsOf<K>["proof"], distinct: readonly string[] = [], kind: SubjectKind = "cardholder"): string =>
  findingSentence({ rule, subject: { kind, id: "s" }, distinct, proof } as unknown as FindingFacts, names);

describe("what a finding says", () => {
  it("names the minute from which hours are counted, so that the date of leaving cannot be taken for another", () => {
    // The end of 28 February is the first minute of 1 March there: `until` 2026-03-01T00:00 on the wall clock of Vienna.
    const proof = { left: "2026-02-28T23:00Z", lastLive: "2026-03-02T11:30Z", hours: 36, credentials: ["c1"] };
    expect(sentence("removed-late", proof)).toBe("Left on 1 Mar 2026 at 00:00; 36 hours later, on 2 Mar 2026 at 12:30, a credential was still live.");
    expect(sentence("removed-late", { ...proof, hours: 1, credentials: ["c1", "c2"] })).toContain(
      "; one hour later, on 2 Mar 2026 at 12:30, 2 credentials were",
    );
  });

  it("speaks of the last date on which something held, not of the minute after it", () => {
    expect(sentence("expired-active", { end: "2026-02-28T23:00Z", by: "until" }, [], "credential")).toContain("Ended on 28 Feb 2026 ");
    expect(sentence("leaver-live", { status: "active", left: "2026-02-28T23:00Z", leftBy: "end", credentials: ["c1"] })).toBe(
      "Left on 28 Feb 2026; a credential is still marked active.",
    );
    expect(sentence("leaver-live", { status: "left", left: "2026-02-28T23:00Z", leftBy: "status", credentials: ["c1", "c2"] })).toBe(
      "Left on 1 Mar 2026; 2 credentials are still marked active.",
    );
    expect(sentence("leaver-live", { status: "left", credentials: ["c1"] })).toBe("Left; a credential is still marked active.");
  });

  it("does not deny a round that was signed after the export", () => {
    expect(sentence("not-certified", {}, ["vault"])).toBe("When this was exported, no round had certified the access to area vault.");
    expect(sentence("not-certified", { last: "2025-01-05T10:00Z" }, ["vault"])).toBe(
      "When this was exported, no round had certified the access to area vault since 5 Jan 2025.",
    );
  });

  it("does not say that there is no manager where one is who has left, or who is the same", () => {
    expect(sentence("no-department", {})).toBe("Opens doors, but has no department, and no manager who is somebody else and still here.");
    expect(sentence("no-department", { department: "g" })).toBe(
      "Opens doors, but neither they nor group g, nor a group above it, has a manager who is somebody else and still here.",
    );
    expect(sentence("no-certifier", { holders: 1 }, [], "area")).toBe(
      "One holder can reach it, but neither it nor an area above it has an owner who is still here.",
    );
  });

  it.each([
    ["level", "unused", "It is given to nobody."],
    ["level", "opens-nothing", "It covers no door."],
    ["bundle", "opens-nothing", "It covers no door."],
    ["group", "unused", "Nobody is in it."],
    ["group", "one-member", "Just one person is in it."],
    ["group", "opens-nothing", "Nothing is given to it."],
    ["schedule", "unused", "Nothing uses it."],
    ["schedule", "opens-nothing", "It is never open."],
    ["calendar", "opens-nothing", "There is no day in it."],
  ] as const)("says of a %s with nothing behind it (%s) what that means there", (kind, why, said) => {
    expect(sentence("nothing-behind", {}, [why], kind)).toBe(said);
  });

  it("tells a side of a duty that opens no door as one that opens none", () => {
    expect(sentence("duties-conflict", { a: ["d1"], b: [] }, ["buy-and-pay"])).toBe("Has both sides of “buy-and-pay”: one opens door d1, the other no door.");
  });

  it("tells an entry without a name as one", () => {
    expect(sentence("holiday-tie", { first: "2026-03-27", dates: 2 }, ["", "fair"], "calendar")).toBe(
      "One without a name and “fair” have the same priority and different day types on two dates, first on 27 Mar 2026; the first-named wins.",
    );
  });

  it("counts peers as those who open doors, and what begins from its first minute on the facility's clock", () => {
    expect(sentence("unlike-peers", { peers: 12, reach: 1 }, ["vault"])).toBe(
      "Reaches area vault; of the 12 others in the department who open doors one does.",
    );
    expect(sentence("waking", { from: "2026-07-01T04:00Z", areas: ["vault"], doors: 1 }, [], "credential")).toBe(
      "Becomes live on 1 Jul 2026 at 06:00, and then opens one sensitive door in area vault.",
    );
  });

  it("tells of ids that no register has, and of years far off on the clock there, as they are", () => {
    const hostile = "<script>alert(1)</script> \u202e";
    expect(sentence("opened-against-record", { events: 1, last: "9999-12-31T23:59:59Z", before: "expired", after: "no-grant" }, [hostile], "door")).toBe(
      `credential ${hostile} was let in once although expired by that time (and later: no grant reaches this door), last on 10000-01-01 at 00:59.`,
    );
  });

  it("has a remedy that names no more than the finding does", () => {
    const finding = { rule: "stranded-right", subject: { kind: "cardholder", id: "s" }, distinct: ["d"], proof: { from: "vault" } } as unknown as FindingFacts;
    expect(findingRemedy(finding, names)).toBe("Give the doors on the way to area vault, or withdraw this one.");
    expect(findingProof(finding, names, () => "area")).toEqual([["From", [{ text: "area vault", object: { kind: "area", id: "vault" } }]]]);
  });
});
