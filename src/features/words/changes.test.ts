import { describe, expect, it } from "@jest/globals";
import type { ShownWithdrawal } from "@/operations/certification/withdrawals";
import { withdrawalWords } from "./changes";

const nothing: ShownWithdrawal = {
  isPossible: true,
  changes: [],
  alternative: undefined,
  effects: { lost: [], narrowed: [], staysLess: [], others: [] },
  names: {},
};

describe("what a withdrawal comes to", () => {
  it("is never said to be over where there is no way to it", () => {
    expect(withdrawalWords({ ...nothing, isPossible: false })).toMatch(/no change of theirs alone .* by hand\.$/);
    expect(withdrawalWords(nothing)).toBe("It is over by itself: nothing has to be changed.");
    const shut: ShownWithdrawal = {
      ...nothing,
      changes: [{ change: { do: "remove", list: "grants", id: "g" }, fields: [] }],
      effects: { ...nothing.effects, lost: ["d"] },
      names: { "grant g": "Gate", "door d": "Barn door" },
    };
    expect(withdrawalWords(shut)).toBe("End the grant of Gate. Also lost: Barn door. Nobody else is touched.");
  });
});
