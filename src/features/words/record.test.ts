import { describe, expect, it } from "@jest/globals";
import { changedWords, doneWords, recordKinds } from "./record";

describe("an entry of the record in words", () => {
  it("says who did what, and of an unknown code the code", () => {
    expect([doneWords("line.decided"), doneWords("draft.closed"), doneWords("toString")]).toEqual(["decided", "closed", "toString"]);
    expect(recordKinds.find(({ value }) => value === "sign-in")).toEqual({ value: "sign-in", label: "Signed in" });
  });

  it("says of each field what it was and what it is, and of what stayed nothing", () => {
    const content = JSON.stringify({
      before: { decision: null, reason: "", kept: 1 },
      after: { decision: "withdraw", reason: "left the team", kept: 1, ordersHash: "ab".repeat(32), doors: ["d1", "d2"] },
    });
    expect(changedWords(content)).toEqual(["decision: withdraw", "reason: left the team", "orders hash: abababab…", "doors: d1, d2"]);
    expect(changedWords(JSON.stringify({ before: { role: "manager" }, after: { role: "reviewer" } }))).toEqual(["role: manager → reviewer"]);
    expect(changedWords(JSON.stringify({ before: { name: "Iris" }, after: null }))).toEqual(["name: Iris → nothing"]);
    expect([changedWords(undefined), changedWords(JSON.stringify({ after: "a text" }))]).toEqual([[], ["value: a text"]]);
  });

  it("names the objects of a draft by list and id, whatever the id is", () => {
    const level = { list: "levels", key: "Nights 2", value: { id: "Nights 2", name: "Nights" } };
    expect(changedWords(JSON.stringify({ before: { ...level, value: null }, after: level }))).toEqual(["levels Nights 2: id Nights 2, name Nights"]);
    const removed = { list: "doorGroups", key: "__proto__", value: null };
    expect(changedWords(JSON.stringify({ before: [{ ...removed, value: { name: "North" } }], after: [removed] }))).toEqual([
      "door groups __proto__: name North → nothing",
    ]);
  });
});
