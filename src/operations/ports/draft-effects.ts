import type { DraftEffect } from "../register/drafts/draft-outcomes";
import type { Account } from "./accounts";
import type { Progress, Watch } from "./progress";

/** How far the effect of a draft is worked out. */
export type EffectState =
  | { readonly state: "working"; readonly progress: Progress }
  | { readonly state: "stopped" | "failed" }
  | { readonly state: "done"; readonly effect: DraftEffect };

/** Works the effect of a draft out; undefined where the account may not see it. */
export type WorkOutEffect = (account: Account, draft: number, watch: Watch) => Promise<DraftEffect | undefined>;

/** What an effect is worked out for: another revision, or another snapshot, makes another effect. */
export interface EffectOf {
  readonly draft: number;
  readonly revision: number;
  readonly snapshot: number;
}

/** Effects of drafts, worked out while pages ask how far they are. */
export interface DraftEffects {
  /** Begins to work it out where that was not asked for yet, and stops an older one of the same draft. */
  readonly stateOf: (effect: EffectOf, account: Account, again: boolean) => EffectState;
  readonly stop: (draft: number) => void;
}
