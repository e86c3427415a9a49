import type { ListKey } from "@/core/facility/document";
import type { AccessEffect } from "../effect-on-access";

/** Something that does not hold, or is odd, in the register as the draft would have it. */
export interface DraftIssue {
  readonly list: ListKey | undefined;
  readonly key: string;
  readonly name: string;
  readonly message: string;
}

export interface EffectFinding {
  readonly rule: string;
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
    }
);

export type ClosingOutcome =
  | { readonly outcome: "closed"; readonly snapshot: number | undefined; readonly orders: number }
  /** Nothing was done; each reason is a sentence. */
  | { readonly outcome: "refused"; readonly reasons: readonly string[] };
