import { describe, expect, it } from "@jest/globals";
import type { FacilityDocument } from "@/core/facility/document";
import { judgeBy } from "@/core/findings/judge";
import { Horizon } from "@/core/table/horizon";
import type { EpochMinute } from "@/core/time/instant";
import { layOutUnit } from "@/core/units/lay-out-unit";
import type { UnitMemory } from "@/core/units/unit-memory";
import { UnitSources } from "@/core/units/unit-sources";
import { compiledFrom, minute } from "~/tests/builders";
import { judgedOf } from "~/tests/judged";
import { ruleOf } from "@/core/findings/catalogue";
import { required } from "@/core/kernel/invariant";
import { notAtDoor } from "./not-at-door";

const asOf = "2026-03-02T00:00:00Z";
const document: Partial<FacilityDocument> = {
  asOf,
  doors: [
    { id: "gate", name: "Gate", site: "garden", controller: "u1" },
    { id: "shed", name: "Shed", site: "garden" },
  ],
  grants: [
    { id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" },
    { id: "s", to: { cardholder: "iris" }, open: { door: "shed" }, schedule: "always" },
  ],
};

const horizonFrom = (given: Partial<FacilityDocument>): Horizon => new Horizon(compiledFrom(given));
const heldBy = (given: Partial<FacilityDocument>): UnitMemory => layOutUnit(new UnitSources(horizonFrom(given)), "u1");
const judgedWith = (memory: UnitMemory | undefined, at = minute(asOf)) => {
  const judged = judgedOf(horizonFrom(document), { unitReports: memory ? [{ unit: "u1", at, memory }] : [] });
  const { findings, untold } = judgeBy(judged, required(ruleOf(notAtDoor.key), "it is in the catalogue"));
  return { flags: [...findings].map(({ subject, distinct, proof }) => [subject.id, ...(distinct ?? []), proof]), cannotTell: untold?.cannotTell };
};

describe("not-at-door", () => {
  it("flags a card that a unit lets in when the register does not, from the first minute on, and one that it keeps out", () => {
    const always = heldBy({ ...document, grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" }] });
    // From Monday 2 March 2026, 01:00 in Vienna, to 2 April 2027, 01:00: 56 weeks and four days, of which 284 weekdays with ten hours are the register's.
    const all = minute("2027-04-01T23:00:00Z") - minute(asOf);
    const weekdays = 56 * 5 + 4;
    expect(judgedWith(always).flags).toEqual([["gate", "c1", { first: "2026-03-02T00:00Z", controller: "open", minutes: all - weekdays * 600 }]]);
    const never = heldBy({ ...document, grants: [] });
    expect(judgedWith(never).flags).toEqual([["gate", "c1", { first: "2026-03-02T07:00Z", controller: "closed", minutes: weekdays * 600 }]]);
  });

  it("does not flag a unit that holds what the register says, nor doors that hang on none", () => {
    expect(judgedWith(heldBy(document))).toEqual({ flags: [], cannotTell: undefined });
  });

  it("says of a door that stands free otherwise that it is so for anybody", () => {
    const free = heldBy({ ...document, doors: [{ id: "gate", name: "Gate", site: "garden", controller: "u1", unlock: "office" }], grants: [] });
    expect(judgedWith(free).flags).toEqual([["gate", { first: "2026-03-02T07:00Z", controller: "open", minutes: 284 * 600 }]]);
    const wide = heldBy({ ...document, doors: [{ id: "gate", name: "Gate", site: "garden", controller: "u1", unlock: "always" }], grants: [] });
    expect(judgedWith(wide).flags.map(([door, card]) => [door, typeof card])).toEqual([
      ["gate", "object"],
      ["gate", "string"],
    ]);
  });

  it("cannot tell of the doors of a unit that has not been heard for a day, or never", () => {
    expect(judgedWith(heldBy(document), (minute(asOf) - 1441) as EpochMinute)).toEqual({ flags: [], cannotTell: ["gate"] });
    expect(judgedWith(heldBy(document), (minute(asOf) - 1440) as EpochMinute).cannotTell).toBeUndefined();
    expect(judgedWith(undefined).cannotTell).toEqual(["gate"]);
  });
});
