import { describe, expect, test } from "@jest/globals";
import type { AnswerOnPlan, MarkOnPlan } from "@/operations/inquiry/answer-on-plan";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { legendText, markSentence, markWord } from "./plan-answer-view";

const mark = (state: MarkOnPlan["state"], more: Partial<MarkOnPlan> = {}): MarkOnPlan => ({
  door: "gate",
  name: "Gate",
  kind: "door",
  x: 0,
  y: 0,
  state,
  isFree: false,
  opening: 0,
  asleep: 0,
  words: undefined,
  ...more,
});
const several = { names: { who: "Everybody of Press house", where: undefined }, isOfOne: false, askedHolders: 1200 } as AnswerOnPlan;
const asked: Inquiry = { who: undefined, where: undefined, when: { kind: "any" }, lockdown: false };
const [any, now]: readonly [Inquiry, Inquiry] = [asked, { ...asked, when: { kind: "now" } }];
const one = { names: { who: "Iris", where: undefined }, isOfOne: true, askedHolders: 1 } as AnswerOnPlan;

describe("what is said of a door on a plan", () => {
  test("is a word or a number beside it", () => {
    expect(markWord(mark("open", { opening: 1100 }), false)).toBe("1,100");
    expect(markWord(mark("open", { opening: 1 }), true)).toBe("opens");
    expect((["shut", "not-asked", "gone"] as const).map((state) => markWord(mark(state), false))).toEqual(["nobody", "not asked", "not in the register"]);
    const free = { isFree: true, opening: 8, asleep: 2 };
    expect((["shut", "open", "asleep"] as const).map((state) => markWord(mark(state, free), false))).toEqual([
      "stands free",
      "stands free; 8",
      "stands free; 2 asleep",
    ]);
    expect([markWord(mark("asleep", { asleep: 2 }), false), markWord(mark("asleep", { asleep: 1 }), true)]).toEqual(["2 asleep", "asleep"]);
  });

  test("is a sentence where it is chosen, and never says shut of a door that stands free", () => {
    expect(markSentence(mark("open", { opening: 3, asleep: 2 }), several, now)).toBe(
      "3 of 1,200 people and cards open it now. Two more would if cards were made active that are not.",
    );
    expect(markSentence(mark("open", { opening: 1, words: "Mon–Fri 06:00–20:00" }), one, any)).toBe("Iris opens it: Mon–Fri 06:00–20:00.");
    expect(markSentence(mark("shut", { isFree: true }), one, now)).toBe("Iris does not open it now. It stands open to everybody then, whatever they hold.");
    expect(markSentence(mark("open", { isFree: true, opening: 1 }), several, any)).toBe(
      "1 of 1,200 people and cards opens it. At times it stands open to everybody, whatever they hold.",
    );
    expect(markSentence(mark("asleep", { asleep: 1 }), several, any)).toBe(
      "Nobody of those asked about opens it. One would if cards were made active that are not.",
    );
    expect(markSentence(mark("asleep", { asleep: 1 }), one, any)).toBe("Iris does not open it, but would if a card were made active that is not.");
    expect(markSentence(mark("shut"), several, any)).toBe("Nobody of those asked about opens it.");
    expect(markSentence(mark("not-asked"), several, any)).toBe("The question is not about Gate.");
  });

  test("is counted under the plan", () => {
    expect(legendText([mark("open"), mark("shut"), mark("shut"), mark("gone")], false)).toBe(
      "One door opens, for as many as its number says; two doors open for nobody of them; one door is not in the register.",
    );
    expect(legendText([mark("open"), mark("open", { isFree: true }), mark("shut", { isFree: true })], true)).toBe(
      "Two doors open; one door stays shut. Two doors stand free, for anybody.",
    );
    expect(legendText([], true)).toBe("No door stands on this plan yet.");
  });
});
