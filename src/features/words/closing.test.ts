import { describe, expect, it } from "@jest/globals";
import type { CheckOutcome } from "@/core/certification/wish-state";
import { checkWords, wishCountsWords } from "./closing";

const names = { "door d1": "Vault door", "door d2": "Inner door", "grant g": "Seed vault", "group w": "Frost watch" };
const said = (found: CheckOutcome): string => checkWords({ line: 1, snapshot: 2, at: "", found, names });

describe("what became of a withdrawal", () => {
  it("is counted: what is done of all, then what is wrong, what is open and since when, and what was not sent", () => {
    expect(wishCountsWords({ of: 4, by: { done: 2, "in-part": 1, "not-done": 1 }, openDays: 12 })).toBe("2 of 4 done, 1 in part, 1 open for 12 days");
    expect(wishCountsWords({ of: 3, by: { sent: 1, returned: 1, "not-sent": 1 }, openDays: 0 })).toBe(
      "0 of 3 done, 1 returned, 1 open since today, 1 not sent yet",
    );
    expect(wishCountsWords({ of: 2, by: { awaited: 1, "not-done": 1 }, openDays: 1 })).toBe("0 of 2 done, 2 open for 1 day");
    expect(wishCountsWords({ of: 0, by: {}, openDays: undefined })).toBe("nothing to withdraw");
  });

  it.each<[CheckOutcome, string]>([
    [{ outcome: "done", otherwise: false }, "Done as ordered: what was to go opens no more, not in a lockdown either, nor with every card made active."],
    [{ outcome: "done", otherwise: true }, "Done, otherwise than ordered: what was to go opens no more, by other changes."],
    [{ outcome: "awaited", sources: ["hr", "cards"] }, "Gone; still to speak: hr and cards."],
    [{ outcome: "returned", doors: ["d1", "d2"] }, "It was done, and Vault door and Inner door open again."],
    [{ outcome: "returned", doors: [] }, "It was returned, and is in use again."],
    [
      { outcome: "record-gone", doors: ["d1"], by: [{ kind: "override" }, { kind: "grant", grant: "g", group: "w" }] },
      "What was ordered was done, and Vault door opens still, by a standing override and the grant of Seed vault through Frost watch.",
    ],
    [{ outcome: "asleep", doors: ["d1"] }, "The record remains: Vault door would open again with one change."],
    [{ outcome: "in-part", shut: ["d1"], fewer: [], left: ["d2"], lost: [] }, "Shut: Vault door. As before: Inner door."],
    [
      { outcome: "in-part", shut: [], fewer: ["d2"], left: [], lost: ["d1"] },
      "Fewer hours: Inner door. Too much was taken: nothing is left at Vault door, where something was to stay.",
    ],
    // Of what was changed otherwise nothing is said: only that it still opens.
    [{ outcome: "not-done", days: 1 }, "It still opens, 1 day after it was sent."],
    [{ outcome: "cannot-tell", why: "door-missing", id: "d9" }, "Cannot tell: a door is missing from the register (d9)."],
  ])("%j is told as it is", (found, words) => {
    expect(said(found)).toBe(words);
  });
});
