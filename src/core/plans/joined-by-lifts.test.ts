import { describe, expect, test } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import { joinedByLifts, liftOf } from "./joined-by-lifts";

const compiled = compiledFrom({
  doors: [
    { id: "lift", name: "Lift", site: "garden", kind: "lift" },
    { id: "up", name: "First floor", site: "garden", kind: "floor", via: "lift" },
    { id: "top", name: "Top floor", site: "garden", kind: "floor", via: "lift" },
    { id: "hoist", name: "Hoist", site: "garden" },
    { id: "attic", name: "Attic", site: "garden", kind: "floor", via: "hoist" },
    { id: "inner", name: "Inner door", site: "garden", via: "hoist" },
  ],
});
const at = (door: string) => ({ door, x: 0, y: 0 });

describe("lifts", () => {
  test("are known by their reader, and their floors by the reader that they need", () => {
    expect(["lift", "up", "attic", "hoist", "inner", "gone"].map((door) => liftOf(compiled, door))).toEqual([
      "lift",
      "lift",
      "hoist",
      undefined,
      undefined,
      undefined,
    ]);
  });

  test("lead from each of their doors to every other plan that has one of them, to its reader where that is there", () => {
    const [ground, first, top] = [
      { id: 1, doors: [at("hoist"), at("up"), at("lift")] },
      { id: 2, doors: [at("up"), at("gone")] },
      { id: 3, doors: [at("inner"), at("top")] },
    ];
    expect(joinedByLifts(compiled, first, [ground, first, top])).toEqual([
      { door: "up", plan: 1, there: "lift" },
      { door: "up", plan: 3, there: "top" },
    ]);
    expect(joinedByLifts(compiled, ground, [ground, first, top]).map(({ door, plan }) => [door, plan])).toEqual([
      ["up", 2],
      ["up", 3],
      ["lift", 2],
      ["lift", 3],
    ]);
    expect(joinedByLifts(compiled, { id: 4, doors: [at("hoist"), at("gone")] }, [ground, first, top])).toEqual([]);
  });
});
