import type { BeyondCount } from "@/core/findings/changed-findings";
import type { ListKey } from "@/core/facility/document";
import type { RuleKey } from "@/core/findings/finding";
import type { AccessEffect } from "../effect-on-access";

/** Something that does not hold, or is odd, in the register as the draft would have it. */
export interface DraftIssue {
  readonly list: ListKey | undefined;
  readonly key: string;
  readonly name: string;
  readonly message: string;
}

export interface EffectFinding {
  readonly rule: RuleKey;
  readonly risk: number;
  /** Who or what it is about, by name. */
  readonly about: string;
}

/** What a draft does to access and to findings. */
export type DraftEffect = {
  readonly draft: number;
  /** The revision of the draft, and the snapshot, that this was worked out for. */
  readonly revision: number;
  readonly snapshot: number;
} & (
  | { readonly outcome: "impossible"; readonly errors: readonly DraftIssue[]; readonly errorCount: number }
  | {
      readonly outcome: "worked-out";
      readonly access: AccessEffect;
      /** What would be odd that is not now. */
      readonly notes: readonly DraftIssue[];
      readonly come: readonly EffectFinding[];
      readonly comeCount: number;
      readonly gone: readonly EffectFinding[];
      readonly goneCount: number;
      /** Rules that find more than is looked through: of these it is not said what comes and goes. */
      readonly beyond: readonly BeyondCount[];
    }
);

export type ClosingOutcome =
  | { readonly outcome: "closed"; readonly snapshot: number | undefined; readonly orders: number }
  /** Nothing was done; each reason is a sentence. */
  | { readonly outcome: "refused"; readonly reasons: readonly string[] };
