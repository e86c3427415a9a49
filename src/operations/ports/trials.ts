import type { Trial } from "@/core/evidence/trials";
import type { Actor } from "./record";

export interface KeptTrial extends Trial {
  readonly id: number;
  readonly madeBy: string;
  readonly madeAt: string;
}

export interface TrialStore {
  /** Those that are run, in the order in which they were written down. */
  readonly kept: () => Promise<readonly KeptTrial[]>;
  /** Writes a trial down. Gives its number. */
  readonly add: (trial: Trial, who: Actor, at: string) => Promise<number>;
  /** Takes a trial out of those that are run; false where there is none such. */
  readonly drop: (id: number, who: Actor, at: string) => Promise<boolean>;
}
