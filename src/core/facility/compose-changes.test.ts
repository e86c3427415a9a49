import { describe, expect, it } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import { composeChanges } from "./compose-changes";
import type { FacilityChange } from "./facility-change";
import { withChanges } from "./facility-change";

const { facility } = compiledFrom({
  groups: [{ id: "press", name: "Press" }],
  memberships: [{ group: "press", cardholder: "iris" }],
  grants: ["a", "b"].map((id) => ({ id, to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" })),
});
const grant = (id: string, schedule = "always") => ({ id, to: { cardholder: "iris" }, open: { door: "gate" }, schedule });
const add = (id: string): FacilityChange => ({ do: "add", list: "grants", id, object: grant(id) });
const alter = (id: string, schedule: string): FacilityChange => ({ do: "alter", list: "grants", id, object: grant(id, schedule) });
const remove = (id: string): FacilityChange => ({ do: "remove", list: "grants", id });
const membership = (until?: string) => ({ group: "press", cardholder: "iris", ...(until !== undefined && { until }) });
const until = (from: string | undefined, to: string): FacilityChange => ({
  do: "alter",
  list: "memberships",
  membership: membership(from),
  object: membership(to),
});

describe("changes after one another, as one set", () => {
  it.each<[string, FacilityChange[], FacilityChange[]]>([
    ["what was added and altered", [add("c")], [alter("c", "office")]],
    ["what was added and removed", [add("c"), alter("a", "always")], [remove("c")]],
    ["what was altered twice", [alter("a", "always")], [alter("a", "office")]],
    ["what was altered and removed", [alter("a", "always")], [remove("a"), add("d")]],
    ["a membership that was altered twice", [until(undefined, "2026-05-01")], [until("2026-05-01", "2026-04-01")]],
    [
      "a membership that was altered and removed",
      [until(undefined, "2026-05-01")],
      [{ do: "remove", list: "memberships", membership: membership("2026-05-01") }],
    ],
  ])("come to the same for %s, each object once", (_, first, then) => {
    const composed = composeChanges(first, then);
    expect(withChanges(facility, composed)).toEqual(withChanges(withChanges(facility, first), then));
    expect(new Set(composed.map((change) => JSON.stringify("id" in change ? change.id : change.membership))).size).toBe(composed.length);
  });
});
