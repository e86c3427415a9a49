import { describe, expect, test } from "@jest/globals";
import { planEdge } from "@/core/plans/plan";
import { safeDrawing } from "@/intake/formats/pictures/safe-drawing";
import { verraneInstitute } from "../institute";
import { plansOf } from "./plans";

describe("the plans of the Verrane Institute", () => {
  const institute = verraneInstitute({ cardholders: 420, doors: 95, seed: 7 });
  const plans = plansOf(institute);
  const doors = new Map((institute.doors ?? []).map((door) => [door.id, door]));

  test("show every door of it, each within its own site and within the picture", () => {
    const placed = plans.flatMap((plan) => plan.doors.map((one) => ({ ...one, site: plan.site })));
    expect(new Set(placed.map(({ door }) => door))).toEqual(new Set(doors.keys()));
    for (const { door, site, x, y } of placed)
      expect([door, doors.get(door)?.site, x >= 0 && x <= planEdge, y >= 0 && y <= planEdge]).toEqual([door, site, true, true]);
    for (const { name, doors: own } of plans) expect([name, new Set(own.map(({ door }) => door)).size]).toEqual([name, own.length]);
  });

  test("are drawn with nothing that a plan may not hold", () => {
    for (const { name, svg } of plans) {
      const safe = safeDrawing(svg);
      expect([name, safe.ok && [...safe.value.leftOut]]).toEqual([name, []]);
    }
  });

  test("leave out doors and areas of which a smaller institute has none", () => {
    const small = plansOf({ doors: [{ id: "v-inner", name: "Inner", site: "vault" }], areas: [] });
    expect(small.flatMap(({ doors: own }) => own.map(({ door }) => door))).toEqual(["v-inner"]);
    expect(small.every(({ area }) => area === undefined)).toBe(true);
  });
});
