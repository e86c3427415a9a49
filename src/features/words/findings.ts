import { unreachable } from "@/core/kernel/invariant";
import type { CannotTell, FindingFacts, RiskTerm, RuleKey } from "@/core/findings/finding";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { lastDateText, localDateText, zoneOf } from "@/core/time/zone";
import { plural } from "./numbers";
import { ruleWords } from "./rules";

/** Rules by what they flag, in the order in which they are listed. */
export const findingTitles: Readonly<Record<RuleKey, string>> = {
  "leaver-live": ruleWords["leaver-live"].title,
  "expired-active": ruleWords["expired-active"].title,
  unused: ruleWords.unused.title,
  "around-the-clock": ruleWords["around-the-clock"].title,
};

/** What a finding is told with: the zone in which its dates are read, and what is called how; an id where it has no name any more. */
export interface FindingNames {
  readonly timeZone: string;
  readonly name: (kind: "area" | "door" | "credential", id: string) => string;
}

const dateOf = (minute: string, timeZone: string, isEnd: boolean): string => {
  const instant = parseInstant(minute);
  if (!instant) return minute;
  return isEnd ? lastDateText(zoneOf(timeZone), minuteDown(instant)) : localDateText(zoneOf(timeZone), minuteDown(instant));
};

/** What should not be, as a sentence. */
export function findingSentence(finding: FindingFacts, { timeZone, name }: FindingNames): string {
  switch (finding.rule) {
    case "leaver-live": {
      const { left, leftBy, credentials } = finding.proof;
      const when = left === undefined ? "" : ` on ${dateOf(left, timeZone, leftBy === "end")}`;
      return `Left${when}; ${credentials.length === 1 ? "a credential is" : `${credentials.length} credentials are`} still active.`;
    }
    case "expired-active":
      return `Ended on ${dateOf(finding.proof.end, timeZone, true)} but is still marked active: it opens nothing, and one changed date brings it back.`;
    case "unused": {
      const { lastUse, days, coveredDays } = finding.proof;
      return lastUse === undefined
        ? `Active, and not used in ${days} days, of which events cover ${coveredDays}.`
        : `Active, and not used since ${dateOf(lastUse, timeZone, false)}.`;
    }
    case "around-the-clock":
      return `Opens ${finding.distinct.map((id) => name("area", id)).join(", ")} at all hours of the week.`;
    default:
      return unreachable(finding);
  }
}

/** What would end it. */
export function findingRemedy(finding: FindingFacts, { name }: FindingNames): string {
  switch (finding.rule) {
    case "leaver-live": {
      const { credentials } = finding.proof;
      return `Return ${credentials.length === 1 ? "the credential" : "the credentials"} ${credentials.join(", ")}.`;
    }
    case "expired-active":
      return `Set credential ${finding.subject.id} to returned.`;
    case "unused":
      return `Suspend credential ${finding.subject.id} until it is asked for.`;
    case "around-the-clock":
      return finding.proof.override
        ? "End the standing override."
        : `Narrow the access to ${finding.distinct.map((id) => name("area", id)).join(", ")} to the hours that are needed.`;
    default:
      return unreachable(finding);
  }
}

const minuteWords = (minute: string): string => minute.replace(/T(\d\d:\d\d)Z$/, " $1 UTC");

/** What a finding proves, a term and its value each. */
export function findingProof(finding: FindingFacts, { name }: FindingNames): readonly (readonly [term: string, value: string])[] {
  switch (finding.rule) {
    case "leaver-live": {
      const { status, left, credentials } = finding.proof;
      return [["Status", status], ...(left === undefined ? [] : [["Left", minuteWords(left)] as const]), ["Credentials", credentials.join(", ")]];
    }
    case "expired-active":
      return [
        ["End", minuteWords(finding.proof.end)],
        ["By", finding.proof.by === "until" ? "its last date" : "its expiry by use"],
      ];
    case "unused": {
      const { days, lastUse, coveredDays } = finding.proof;
      return [
        ["Days looked at", String(days)],
        ...(lastUse === undefined ? [] : [["Last used", minuteWords(lastUse)] as const]),
        ["Days with events", String(coveredDays)],
      ];
    }
    case "around-the-clock": {
      const { sensitivity, week, doors } = finding.proof;
      return [
        ["Area", finding.distinct.map((id) => name("area", id)).join(", ")],
        ["Sensitivity", String(sensitivity)],
        ["Whole week from", week],
        ["Doors", doors.map((id) => name("door", id)).join(", ")],
      ];
    }
    default:
      return unreachable(finding);
  }
}

/** What the points of a risk are for. */
export function riskWords({ term, of }: RiskTerm): string {
  switch (term) {
    case "base":
      return "the rule itself";
    case "sensitivity":
      return `most sensitive area reached: ${of} of 3`;
    case "outOfHours":
      return `out of hours ${of} %`;
    case "weeklyHours":
      return `${of} h a week`;
    case "standing":
      return `standing for ${of} days`;
    default:
      return unreachable(term);
  }
}

/** Of what a rule cannot tell, and why. */
export const cannotTellWords = ({ rule, concerned, covered, days }: CannotTell): string =>
  `“${findingTitles[rule]}” cannot tell for ${plural(concerned, "subject", "subjects")}: events cover ${covered} of ${days} days where they open doors.`;
