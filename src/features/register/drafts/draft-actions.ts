import type { BoxOutcome, ChangeOutcome, Move, WantedObject } from "@/operations/register/drafts/change-draft";
import type { ClosingOutcome } from "@/operations/register/drafts/draft-outcomes";
import type { CardBox } from "@/core/drafting/card-box";
import type { ListKey } from "@/core/facility/document";

/** A change of a draft as it was seen. */
export interface SeenChange {
  readonly list: ListKey;
  readonly key: string;
  readonly seen: number;
}

/** What the pages of drafts can have done. */
export interface DraftActions {
  /** `despite` writes what is doubtful, once that was said. */
  readonly change: (draft: number, objects: readonly WantedObject[], despite: boolean) => Promise<ChangeOutcome>;
  readonly takeBack: (draft: number, change: SeenChange) => Promise<ChangeOutcome>;
  readonly takeBackAll: (draft: number, list: ListKey, revision: number) => Promise<ChangeOutcome>;
  readonly settle: (draft: number, change: SeenChange, take: "draft" | "register") => Promise<ChangeOutcome>;
  readonly addBox: (draft: number, box: CardBox) => Promise<BoxOutcome>;
  readonly move: (
    draft: number,
    moves: readonly Move[],
    to: string | undefined,
  ) => Promise<ChangeOutcome | { readonly outcome: "moved-meanwhile"; readonly people: readonly string[] }>;
  readonly share: (draft: number, account: number) => Promise<boolean>;
  readonly drop: (draft: number) => Promise<boolean>;
  readonly close: (
    draft: number,
    seen: { readonly revision: number; readonly snapshot: number },
    task: string,
  ) => Promise<ClosingOutcome | { readonly outcome: "stopped" }>;
}
