import type { LineContent } from "@/core/certification/line-content";
import { isDefinition } from "@/core/certification/line-content";
import { unreachable } from "@/core/kernel/invariant";
import type { ListedLine, ListedLines } from "@/operations/certification/list-lines";
import type { LineFilter } from "@/operations/ports/rounds";
import { english } from "./docket/english";
import { englishDefinitions } from "./docket/english-definitions";
import { certifierWords } from "./holders";

const decided: Readonly<Record<NonNullable<LineFilter["decision"]>, string>> = {
  keep: "kept",
  withdraw: "withdrawn",
  narrow: "narrowed",
  "pass-on": "passed on",
  decided: "decided",
  undecided: "undecided",
};

/** Which lines a filter asks for, in words. */
export function filterWords({ department, definitions, decision, flagged, commented, docket }: LineFilter, listed: Pick<ListedLines, "docket">): string {
  const how = decision === "keep" && flagged ? "kept although flagged" : [...(decision ? [decided[decision]] : []), ...(flagged ? ["flagged"] : [])].join(", ");
  return (
    [
      ...(docket === undefined ? [] : [`docket of ${certifierWords(listed.docket?.certifierName)}`]),
      ...(department === undefined ? [] : [department ?? "no department"]),
      ...(definitions ? ["definitions"] : []),
      ...(how === "" ? [] : [how]),
      ...(commented ? ["with comments"] : []),
    ].join(", ") || "all"
  );
}

/** How a line was decided; of a definition, in the words of its docket. */
export function decisionWords({ decision, line }: Pick<ListedLine, "decision" | "line">): string {
  if (decision === undefined) return "not yet";
  if (!isDefinition(line)) return english.decided(decision);
  switch (decision) {
    case "keep":
      return "as it should be";
    case "withdraw":
      return "needs changing";
    case "narrow":
    case "pass-on":
      return english.decided(decision);
    default:
      return unreachable(decision);
  }
}

/** What a line says of when, or what a definition says. */
export const hoursOfLine = (line: LineContent): string =>
  isDefinition(line)
    ? englishDefinitions.facts(line.definition).join(" ")
    : line.hours.length > 0
      ? line.hours.map((hours) => english.hours(hours)).join(" ")
      : line.life
        ? english.life(line.life)
        : "";
