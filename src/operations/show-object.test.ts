import { describe, expect, it } from "@jest/globals";
import { changesOf } from "./show-object";

describe("the history of an object", () => {
  it("says what came, what changed from one snapshot to the next, and what went", () => {
    expect(
      changesOf([
        { since: 1, until: 3, values: { name: "Iris", department: "d1" } },
        { since: 3, until: 5, values: { name: "Iris", department: "d2", until: "2026-12-31" } },
      ]),
    ).toEqual([
      { snapshot: 1, what: "came", values: [] },
      { snapshot: 3, what: "changed", values: [{ field: "department", before: "d1", after: "d2" }, { field: "until", before: undefined, after: "2026-12-31" }] },
      { snapshot: 5, what: "went", values: [] },
    ]);
  });

  it("tells an object that was away for a while from one that changed", () => {
    const values = { name: "Iris" };
    expect(changesOf([{ since: 1, until: 2, values }, { since: 4, until: undefined, values }]).map(({ snapshot, what }) => `${what} ${snapshot}`)).toEqual(["came 1", "went 2", "came 4"]);
    expect(changesOf([])).toEqual([]);
  });
});
