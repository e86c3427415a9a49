import { describe, expect, it } from "@jest/globals";
import { compiledFrom, credentialOf, doorOf, minute } from "~/tests/builders";
import { groupRemovals } from "./group-removals";
import { exactTimeframe } from "../paths/timeframe";

describe("ending a department's grant", () => {
  it("counts the others who would open a door less, and not those whom another path keeps", () => {
    const people = ["iris", "nora", "otto", "pia"];
    const compiled = compiledFrom({
      groups: [
        { id: "science", name: "Science", kind: "department" },
        { id: "bank", name: "Bank", kind: "department", parent: "science" },
      ],
      cardholders: people.map((id) => ({ id, name: id, status: id === "pia" ? ("left" as const) : ("active" as const), department: "bank" })),
      credentials: people.map((id) => ({ id: `c-${id}`, cardholder: id, kind: "card" as const, status: "active" as const })),
      grants: [
        { id: "science-gate", to: { group: "science" }, open: { door: "gate" }, schedule: "office" },
        // Otto keeps the gate by an exception; Pia has left and opens nothing anyway.
        { id: "otto-gate", to: { cardholder: "otto" }, open: { door: "gate" }, schedule: "always" },
      ],
    });
    const timeframe = exactTimeframe(compiled, minute("2026-03-02T00:00:00Z"), minute("2026-04-02T00:00:00Z"), { lockdown: false, asIfLive: false });
    expect(groupRemovals(compiled, timeframe, [credentialOf(compiled, "c-iris")], doorOf(compiled, "gate"))).toEqual([
      { grant: "science-gate", group: "science", others: 1 },
    ]);
    expect(groupRemovals(compiled, timeframe, [credentialOf(compiled, "c-otto")], doorOf(compiled, "gate"))).toEqual([
      { grant: "science-gate", group: "science", others: 2 },
    ]);
  });
});
