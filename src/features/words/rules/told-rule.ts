import type { RuleKey } from "@/core/findings/proofs";

/** What a rule needs beside the register. */
export type RuleNeed = "events" | "earlier snapshots" | "decisions" | "countries of sites" | "duty pairs" | "house rules" | "units";

/**
 * A rule in words. In `flags`, `{days}` stands for the parameter of that name, as it is set at present, and `{days|day|days}` for it with what it counts:
 * what is set otherwise is told otherwise.
 */
export interface RuleWords {
  readonly title: string;
  /** What it flags, as a sentence. */
  readonly flags: string;
  /** Why that matters. */
  readonly why: string;
  /** What it cannot see. */
  readonly blind: string;
  readonly needs?: RuleNeed;
  /** Without it the rule finds nothing and does not say that it cannot tell: what nobody reported cannot be missed. */
  readonly isSilentWithout?: true;
}

/** Some rules in words. */
export type SomeRules = Partial<Record<RuleKey, RuleWords>>;
