import type { RetentionKind } from "@/core/evidence/retention";
import type { Actor } from "./record";

/** For how many months something is kept; set by whom and when (ISO text of UTC). */
export interface RetentionSetting {
  readonly kind: RetentionKind;
  readonly months: number;
  readonly setAt: string;
  readonly setBy: string;
}

export interface RetentionStore {
  /** What is not among them is kept for ever. */
  readonly settings: () => Promise<RetentionSetting[]>;
  /** Sets for how many months something is kept; undefined: for ever. It stands in the record. */
  readonly set: (kind: RetentionKind, months: number | undefined, who: Actor, at: string) => Promise<void>;
  /** How many of a kind are of before an instant, and would go. */
  readonly due: (kind: RetentionKind, before: string) => Promise<number>;
  /** Lets them go, and says so in the record; gives how many. */
  readonly drop: (kind: RetentionKind, before: string, who: Actor, at: string) => Promise<number>;
}
