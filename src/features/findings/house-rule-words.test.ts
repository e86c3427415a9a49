import { describe, expect, it } from "@jest/globals";
import type { Who } from "@/core/questions/question";
import { houseRuleSentence } from "./house-rule-words";
import { breachWords, namesFrom } from "../words/findings";

const at = (who: Who | undefined, name: string | undefined, other?: string) => ({
  who,
  names: { who: name, where: "Seed vault" },
  other,
  when: { kind: "any" as const },
});
const gardeners: Who = { kind: "group", id: "g" };
const byName = at(gardeners, "Everybody of Gardeners", "Data room");

describe("a house rule in a sentence", () => {
  it("says what must be, of everybody, of some, and of one", () => {
    expect(
      (["none", "only", "not-both", "at-least", "at-most"] as const).flatMap((must) =>
        [at(undefined, undefined, "Data room"), byName, at({ kind: "cardholder", id: "ada" }, "Ada Almond", "Data room")].map((asked) =>
          houseRuleSentence({ must, count: 2 }, asked),
        ),
      ),
    ).toEqual([
      "Nobody opens Seed vault",
      "Nobody of Gardeners opens Seed vault",
      "Ada Almond never opens Seed vault",
      "Nobody but everybody opens Seed vault",
      "Nobody but those of Gardeners opens Seed vault",
      "Nobody but Ada Almond opens Seed vault",
      "Nobody opens both Seed vault and Data room",
      "Nobody of Gardeners opens both Seed vault and Data room",
      "Ada Almond never opens both Seed vault and Data room",
      "At least two open Seed vault at every minute",
      "At least two of Gardeners open Seed vault at every minute",
      "At least two of Ada Almond open Seed vault at every minute",
      "At most two open Seed vault",
      "At most two of Gardeners open Seed vault",
      "At most two of Ada Almond open Seed vault",
    ]);
    expect(houseRuleSentence({ must: "at-least", count: 1 }, at({ kind: "type", type: "contractor" }, "Everybody of type contractor"))).toBe(
      "At least one of type contractor opens Seed vault at every minute",
    );
    expect(houseRuleSentence({ must: "none" }, at({ kind: "level", id: "l" }, "Whoever holds Night rounds"))).toBe(
      "Nobody of those who hold Night rounds opens Seed vault",
    );
  });

  it("says what breaks it, with the door and the minute on the clock there", () => {
    const names = namesFrom({ "door d": "Inner door", "door e": "Data room", "cardholder a": "Ada", "cardholder b": "Bo" }, "Europe/Vienna");
    const first = { name: "n", doors: ["d"], door: "d", at: "2026-11-20T20:00Z", there: "2026-11-20T22:00" };
    expect(breachWords({ must: "none", ...first }, names)).toBe("opens Inner door, first on 20 Nov 2026 at 22:00 there.");
    expect(breachWords({ must: "not-both", ...first, otherDoor: "e", otherThere: "2026-11-21T07:00" }, names)).toBe(
      "opens both Inner door, first on 20 Nov 2026 at 22:00 there, and Data room, first on 21 Nov 2026 at 07:00 there.",
    );
    expect(breachWords({ must: "at-least", name: "n", count: 2, found: 0, there: "2026-11-20T19:00" }, names)).toBe(
      "nobody opens it on 20 Nov 2026 at 19:00 there, and it asks for two.",
    );
    expect(breachWords({ must: "at-most", name: "n", count: 1, found: 2, among: ["a", "b"] }, names)).toBe(
      "two holders open it, and it allows one; among them Ada and Bo.",
    );
  });
});
