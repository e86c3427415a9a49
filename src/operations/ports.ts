import type { BundleMapping } from "@/intake/bundle/read-bundle";
import type { RegisterKind } from "@/core/register/kinds";
import type { Line } from "@/core/certification/line";
import type { Change } from "@/core/certification/withdrawal";
import type { Decision } from "@/core/certification/decide-line";
import type { ChainState, RecordEntry } from "@/core/evidence/chain";
import type { Facility, FacilityCounts } from "@/core/facility/facility";
import type { DraftChange } from "@/core/drafting/change";
import type { Brings, OwnershipProfile } from "@/core/facility/ownership";
import type { DraftOrder } from "@/core/drafting/settle-draft";
import type { ListKey } from "@/core/facility/draft";
import type { Findings, Finding, CannotTell } from "@/core/findings/finding";
import type { UseRecord } from "@/core/findings/use";

/** How far a long piece of work is. */
export interface Progress {
  readonly step: "reading" | "checking" | "storing" | "findings" | "access" | "lines" | "opening";
  readonly done: number;
  readonly of: number;
}

export type Report = (progress: Progress) => void;

/** For work that nobody watches. */
export const unwatched: Report = () => undefined;

/** What operations need from outside. Times of the clock are ISO texts of UTC; ids of our own are whole numbers. */

export type Role = "administrator" | "reviewer" | "manager" | "owner" | "auditor";

export interface Account {
  readonly id: number;
  readonly signIn: string;
  readonly name: string;
  readonly role: Role;
  /** Who they are in the register; certifiers need it. */
  readonly cardholder: string | undefined;
}

export interface NewAccount extends Omit<Account, "id"> {
  readonly passwordHash: string;
}

export interface AccountStore {
  readonly bySignIn: (signIn: string) => Promise<(Account & { readonly passwordHash: string; readonly barredUntil: string | undefined }) | undefined>;
  readonly byCardholder: (cardholder: string) => Promise<Account | undefined>;
  readonly all: () => Promise<Account[]>;
  readonly put: (account: NewAccount) => Promise<void>;
  /** Counts a failed sign-in and bars further ones until then, if given. */
  readonly noteFailure: (account: number, barAfter: number, barredUntil: string) => Promise<void>;
  readonly clearFailures: (account: number) => Promise<void>;
}

export interface SessionStore {
  readonly open: (tokenHash: string, account: number, at: string) => Promise<void>;
  /** The account of a session used after `notBefore`, whose last use is moved to `at`. */
  readonly use: (tokenHash: string, notBefore: string, at: string) => Promise<Account | undefined>;
  readonly close: (tokenHash: string) => Promise<void>;
}

export interface Snapshot {
  readonly id: number;
  /** SHA-256 of the normal form. */
  readonly hash: string;
  readonly facilityName: string;
  readonly timeZone: string;
  readonly asOf: string;
  readonly takenAt: string;
  readonly takenBy: string;
  readonly source: string;
  readonly counts: FacilityCounts;
  /** Rows of the register added and ended by this intake. */
  readonly changes: RegisterChanges;
  readonly notes: readonly PrintedIssue[];
  /** How many rows of its files were not read; the reviewer accepted that. */
  readonly leftOut: number;
  readonly files: readonly IntakeFile[];
}

/** A file of an intake, for whoever has to reconcile what came with what was stored. */
export interface IntakeFile {
  readonly name: string;
  /** SHA-256 of its bytes. */
  readonly hash: string;
  /** Rows taken in, and rows left out; undefined where a file has no rows. */
  readonly rows: number | undefined;
  readonly leftOut: number;
  /** How many rows the source states that it has, where it does. */
  readonly stated?: number;
}

export interface PrintedIssue {
  readonly level: "error" | "note";
  readonly path: string;
  readonly code: string;
  readonly message: string;
}

export interface RegisterChanges {
  readonly added: number;
  readonly ended: number;
  readonly byTable: Readonly<Record<string, { readonly added: number; readonly ended: number }>>;
}

export interface NewSnapshot {
  readonly hash: string;
  readonly normal: Facility;
  readonly normalText: string;
  readonly counts: FacilityCounts;
  readonly notes: readonly PrintedIssue[];
  readonly source: string;
  readonly fileHash: string;
  readonly leftOut: number;
  readonly files: readonly IntakeFile[];
  /** What the source brings, and so owns from now on. */
  readonly brings: Brings;
}

export interface SnapshotStore {
  readonly latest: () => Promise<Snapshot | undefined>;
  readonly byId: (id: number) => Promise<Snapshot | undefined>;
  readonly list: () => Promise<Snapshot[]>;
  /** The frozen normal form of a snapshot. */
  readonly frozen: (id: number) => Promise<string>;
  /**
   * Stores a snapshot and its rows in one transaction; `unchanged` where the register already stands just so. Another
   * intake that runs at the same time is waited for.
   */
  readonly store: (snapshot: NewSnapshot, who: Actor, at: string, report: Report) => Promise<{ readonly outcome: "stored" | "unchanged"; readonly id: number; readonly changes: RegisterChanges }>;
}

/** Who does something, as it stands in the record. */
export interface Actor {
  readonly signIn: string;
}

export const system: Actor = { signIn: "system" };

/** What is written into the record, within the transaction of the change that it speaks of. */
export interface Recorded {
  readonly what: string;
  readonly on: string;
  readonly before?: unknown;
  readonly after?: unknown;
}

export interface RecordStore {
  readonly append: (who: Actor, at: string, recorded: Recorded) => Promise<void>;
  /** Entries with numbers below `before` (all, if undefined), the latest first. */
  readonly page: (before: number | undefined, limit: number) => Promise<(RecordEntry & { readonly content: string | undefined })[]>;
  /** Walks the whole chain, its values, and the heads written beside the database. */
  readonly verify: () => Promise<RecordVerification>;
}

export type RecordVerification =
  | { readonly sound: true; readonly count: number; readonly head: string }
  | { readonly sound: false; readonly chain: ChainState; readonly why: string };

/** An object's own values over a stretch of snapshots in which they stood. */
export interface ObjectVersion {
  readonly since: number;
  /** The first snapshot in which they no longer stood; undefined where they still do. */
  readonly until: number | undefined;
  readonly values: Readonly<Record<string, string>>;
}

export interface SourceStore {
  /** Sources that are known, by name: from what they brought, or since it is kept how they write. */
  readonly names: () => Promise<string[]>;
  /** What a source's profile lets it own; empty where it owns all that it brings. */
  readonly owns: (source: string) => Promise<OwnershipProfile>;
  readonly putOwns: (source: string, owns: OwnershipProfile, who: Actor, at: string) => Promise<void>;
  /** What each source brought last, the latest source first. */
  readonly brought: () => Promise<{ readonly source: string; readonly brings: Brings; readonly snapshot: number }[]>;
  /** How a source writes its tables; empty for one that is not known. */
  readonly mapping: (source: string) => Promise<BundleMapping>;
  /** Keeps how a source writes its tables, with an entry in the record where that is new. */
  readonly put: (source: string, mapping: BundleMapping, who: Actor, at: string) => Promise<void>;
}

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
  readonly alsoChanging: (draft: number, object?: { readonly list: ListKey; readonly key: string }) => Promise<{ readonly list: ListKey; readonly key: string; readonly draft: number; readonly owner: string }[]>;
}

export interface RegisterStore {
  /** How an object stood in all snapshots, the oldest first. */
  readonly versions: (kind: RegisterKind, id: string) => Promise<ObjectVersion[]>;
}

export interface EventRow {
  readonly at: number;
  readonly door: string;
  readonly credential: string;
  readonly result: "granted" | "refused";
  readonly reason: string | undefined;
}

export interface EventStore {
  /** Stores the events of one file in one transaction; `unchanged` where just this file was taken in before. */
  readonly store: (
    file: { readonly name: string; readonly hash: string },
    rows: AsyncIterable<EventRow>,
    who: Actor,
    at: string,
    report: Report,
  ) => Promise<{ readonly outcome: "stored" | "unchanged"; readonly rows: number }>;
  /** Numbers that doors saw and the register does not have, with how often and when last (a minute), those seen most often first. Cost: a walk of the index of events. */
  readonly unknownCredentials: (limit: number) => Promise<{ readonly credential: string; readonly times: number; readonly lastAt: number }[]>;
  /** What the events say, limited to one door or to some credentials where only these are asked for. */
  readonly use: (of: { readonly door?: string; readonly credentials?: readonly string[] }, siteOfDoor: (door: string) => string | undefined) => Promise<UseRecord>;
}

export interface StoredFinding extends Finding {
  readonly position: number;
}

/** How many findings there are, by rule and altogether, and what could not be judged. */
export interface FindingCounts {
  readonly byRule: Readonly<Record<string, number>>;
  readonly total: number;
  readonly cannotTell: readonly CannotTell[];
}

export interface FindingStore {
  readonly put: (snapshot: number, findings: Findings, at: string) => Promise<void>;
  readonly isMade: (snapshot: number) => Promise<boolean>;
  /** The riskiest first: all, those of a rule, or those that are about any of some cardholders and their cards, or about any of some credentials. */
  readonly page: (snapshot: number, filter: { readonly rule?: string; readonly cardholders?: readonly string[]; readonly credentials?: readonly string[] }, limit: number) => Promise<StoredFinding[]>;
  readonly counts: (snapshot: number) => Promise<FindingCounts>;
}

export interface NewDocket {
  /** Cardholder who certifies; undefined where there is nobody, and the reviewer who opened the round does. */
  readonly certifier: string | undefined;
  /** Who decides where no certifier is named. */
  readonly account: number | undefined;
  readonly lines: readonly { readonly line: Line; readonly holderName: string; readonly flagged: boolean }[];
}

export interface Round {
  readonly id: number;
  readonly name: string;
  readonly due: string;
  readonly snapshot: number;
  readonly openedAt: string;
}

export interface Docket {
  readonly id: number;
  readonly round: number;
  readonly certifier: string | undefined;
  readonly account: number | undefined;
  readonly lines: number;
  readonly flagged: number;
  readonly decided: number;
  readonly withdrawn: number;
  readonly signedAt: string | undefined;
  readonly statement: string | undefined;
  readonly hash: string | undefined;
  /** When the first and the last of its decisions were made. */
  readonly firstDecidedAt: string | undefined;
  readonly lastDecidedAt: string | undefined;
}

export interface DocketLine {
  readonly id: number;
  readonly docket: number;
  readonly position: number;
  readonly holderName: string;
  readonly flagged: boolean;
  readonly line: Line;
  readonly decision: Decision | undefined;
  readonly reason: string;
}

export interface Order {
  readonly id: number;
  readonly round: number;
  readonly line: number;
  readonly change: Change;
  readonly alsoLost: readonly string[];
  readonly madeAt: string;
}

export interface RoundStore {
  readonly open: (round: Omit<Round, "id"> & { readonly openedBy: Account }, dockets: readonly NewDocket[]) => Promise<number>;
  readonly list: () => Promise<Round[]>;
  readonly byId: (id: number) => Promise<Round | undefined>;
  readonly dockets: (filter: { readonly round?: number; readonly account?: number; readonly id?: number }) => Promise<Docket[]>;
  readonly lines: (filter: { readonly docket?: number; readonly id?: number }) => Promise<DocketLine[]>;
  /** Writes decisions; refused (false, nothing written) if the docket was signed meanwhile. */
  readonly decide: (docket: number, decisions: readonly { readonly line: number; readonly decision: Decision; readonly reason: string }[], by: Account, at: string) => Promise<boolean>;
  /** Signs a docket and writes its orders in one transaction; refused if it was signed or changed meanwhile. */
  readonly sign: (
    docket: number,
    signature: { readonly statement: string; readonly hash: string; readonly decisions: readonly { readonly line: number; readonly decision: Decision }[] },
    orders: readonly Omit<Order, "id" | "madeAt">[],
    by: Account,
    at: string,
  ) => Promise<boolean>;
  readonly orders: (round: number) => Promise<Order[]>;
}
