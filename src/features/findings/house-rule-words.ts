import type { QuestionNames } from "@/operations/inquiry/inquiry";
import type { WrittenHouseRule } from "@/operations/ports/house-rules";
import type { Who } from "@/core/questions/question";
import type { When } from "@/core/questions/when";
import type { HouseRuleRefusal } from "@/operations/findings/house-rules";
import { countWords } from "../words/numbers";
import { whenShort } from "../words/when";

/** What a house rule can ask for, as it is chosen. */
export const mustWords: Readonly<Record<WrittenHouseRule["must"], string>> = {
  none: "None of them may open it",
  only: "Only they may open it",
  "not-both": "None of them may open both it and another place",
  "at-least": "At least this many can open it, at every minute",
  "at-most": "At most this many can open it, at any time",
};

/** Of whom a rule speaks, after "none of" or "at most two of"; empty of everybody. */
function ofWhom(who: Who | undefined, name: string): string {
  switch (who?.kind) {
    case "group":
      return ` of ${name.replace(/^Everybody of /, "")}`;
    case "type":
      return ` of type ${who.type}`;
    case "level":
    case "bundle":
      return ` of those who hold ${name.replace(/^Whoever holds /, "")}`;
    case "cardholder":
    case "credential":
      return ` of ${name}`;
    default:
      return "";
  }
}

/** A house rule as a sentence, from the words of its question. */
export function houseRuleSentence(
  { must, count = 1 }: Pick<WrittenHouseRule, "must" | "count">,
  { who, names, other, when }: { readonly who: Who | undefined; readonly names: QuestionNames; readonly other: string | undefined; readonly when: When },
): string {
  const where = names.where ?? "anything";
  const time = when.kind === "any" ? "" : `, ${whenShort(when)}`;
  const of = ofWhom(who, names.who ?? "");
  const isOne = who?.kind === "cardholder" || who?.kind === "credential";
  switch (must) {
    case "none":
      return `${isOne ? `${names.who ?? ""} never` : `Nobody${of}`} opens ${where}${time}`;
    case "only":
      return `Nobody but ${isOne ? (names.who ?? "") : of === "" ? "everybody" : `those${of}`} opens ${where}${time}`;
    case "not-both":
      return `${isOne ? `${names.who ?? ""} never` : `Nobody${of}`} opens both ${where} and ${other ?? "another place"}${time}`;
    case "at-least":
      return `At least ${countWords(count)}${of} ${count === 1 ? "opens" : "open"} ${where} at every minute${time}`;
    case "at-most":
      return `At most ${countWords(count)}${of} ${count === 1 ? "opens" : "open"} ${where}${time}`;
  }
}

export const refusalWords: Readonly<Record<HouseRuleRefusal, string>> = {
  "no-name": "Give the rule a name: findings are told by it.",
  "not-understood":
    "The question is not understood in the present register, or speaks of now, a lockdown, cards as if live, another snapshot or a draft: a house rule holds of what really opens, at whatever times it names.",
  "no-other-place": "Choose the second place.",
  "nobody-named": "Say on the line above who may: that everybody may asks for nothing.",
  "no-count": "Say how many.",
  full: "Two hundred rules are written down already: end one first.",
  "name-taken": "There is a rule of this name already.",
};
