import { accessRules } from "./findings/access-rules";
import { definitionRules } from "./findings/definition-rules";
import { eventRules } from "./findings/event-rules";
import { peopleRules } from "./findings/people-rules";
import { FindingsTerms, sorted } from "./findings/terms";
import type { Line } from "./findings/terms";

export interface Verdict {
  readonly lines: readonly Line[];
  readonly cannotTell: readonly string[];
  readonly covered: Readonly<Record<string, unknown>>;
}

/**
 * The catalogue read aloud, a rule a function: minute by minute and pair by pair, with nothing laid out for everybody and nothing remembered but what a
 * pair opens. It judges the rules; who opens what it takes from the resolver of single pairs, which has a judge of its own.
 */
export class FindingsJudge extends FindingsTerms {
  private readonly rules: Readonly<Record<string, () => void>> = {
    ...peopleRules(this),
    ...accessRules(this),
    ...definitionRules(this),
    ...eventRules(this),
  };

  judge(rule: string): Verdict {
    this.rule = rule;
    this.lines = [];
    this.untold = [];
    if (["removed-late", "mover-kept", "opened-against-record", "refused-against-record"].includes(rule) && this.earlier.length === 0)
      return { lines: [], cannotTell: [], covered: { documents: 0 } };
    if (rule === "not-certified" && this.decisions === undefined) return { lines: [], cannotTell: [], covered: { decisions: 0 } };
    (this.rules[rule] as () => void)();
    const days: Record<string, number> = {};
    for (const { sites } of this.untold) for (const [site, asked] of sites) days[site] = Math.max(days[site] ?? 0, asked);
    return {
      lines: this.lines,
      cannotTell: sorted(this.untold.map(({ id }) => id)),
      covered: Object.fromEntries(Object.entries(days).map(([site, asked]) => [site, [this.coveredDates(site, asked), asked]])),
    };
  }
}
