import type { DraftChange } from "@/core/drafting/change";
import type { DraftOrder } from "@/core/drafting/settle-draft";
import type { ListKey } from "@/core/facility/document";
import type { Account } from "./accounts";
import type { Report } from "./progress";
import type { NewSnapshot } from "./snapshots";

/** A set of changes tried out on the register. */
export interface Draft {
  readonly id: number;
  readonly name: string;
  readonly owner: Pick<Account, "id" | "name">;
  readonly openedAt: string;
  readonly state: "open" | "dropped" | "closed";
  /** Counts every change of its contents. */
  readonly revision: number;
  readonly changes: number;
  readonly sharedWith: readonly Pick<Account, "id" | "name">[];
  /** When and by whom it was dropped or closed, and the snapshot that its own part made, if any. */
  readonly ended: { readonly at: string; readonly by: string; readonly snapshot: number | undefined } | undefined;
}

export interface StoredChange extends DraftChange {
  readonly id: number;
  /** Counts how often this change was written, from 1 on. */
  readonly version: number;
  readonly changedAt: string;
  readonly changedBy: string;
}

/** A change to be written, and the version of it that the writer has seen; 0 for none. */
export interface WantedChange extends DraftChange {
  readonly seen: number;
}

export interface StoredDraftOrder extends DraftOrder {
  readonly id: number;
  readonly draft: number;
  readonly madeAt: string;
}

export type DraftWritten =
  | { readonly outcome: "written"; readonly revision: number }
  /** Somebody else changed these meanwhile; nothing was written. */
  | { readonly outcome: "changed-meanwhile"; readonly theirs: readonly StoredChange[] }
  | { readonly outcome: "ended" };

export interface DraftStore {
  readonly open: (name: string, who: Account, at: string) => Promise<number>;
  /** All drafts, the latest first. */
  readonly list: () => Promise<Draft[]>;
  readonly byId: (id: number) => Promise<Draft | undefined>;
  readonly changes: (draft: number) => Promise<StoredChange[]>;
  /** Writes changes, all or none. One whose value is as its base is taken back. */
  readonly write: (draft: number, changes: readonly WantedChange[], who: Account, at: string) => Promise<DraftWritten>;
  readonly share: (draft: number, account: Account, who: Account, at: string) => Promise<void>;
  readonly drop: (draft: number, who: Account, at: string) => Promise<boolean>;
  /** Ends a draft whose contents are of a revision: its orders are written and its own part becomes a snapshot on top of another, in one transaction. */
  readonly close: (
    draft: { readonly id: number; readonly revision: number; readonly onSnapshot: number },
    outcome: { readonly orders: readonly DraftOrder[]; readonly snapshot: NewSnapshot | undefined },
    who: Account,
    at: string,
    report: Report,
  ) => Promise<{ readonly outcome: "closed"; readonly snapshot: number | undefined } | { readonly outcome: "changed-meanwhile" }>;
  readonly orders: (draft: number) => Promise<StoredDraftOrder[]>;
  /** What other open drafts change of the objects that a draft changes, or of one object. */
  readonly alsoChanging: (
    draft: number,
    object?: { readonly list: ListKey; readonly key: string },
  ) => Promise<{ readonly list: ListKey; readonly key: string; readonly draft: number; readonly owner: string }[]>;
}
