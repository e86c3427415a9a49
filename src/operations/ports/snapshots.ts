import type { NewDelivery } from "./deliveries";
import type { Facility, FacilityCounts } from "@/core/facility/facility";
import type { Brings } from "@/core/facility/ownership";
import type { RegisterKind } from "@/core/register/kinds";
import type { Report } from "./progress";
import type { Actor } from "./record";

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

/** A snapshot as lists show it: how many notes it has, without them. */
export type SnapshotSummary = Omit<Snapshot, "notes"> & { readonly noteCount: number };

/** What a snapshot is chosen by. */
export type SnapshotChoice = Pick<Snapshot, "id" | "takenAt" | "leftOut">;

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
  /** What its source sent; undefined where nobody sent it. */
  readonly delivery?: NewDelivery;
}

export interface SnapshotStore {
  readonly latest: () => Promise<Snapshot | undefined>;
  readonly byId: (id: number) => Promise<Snapshot | undefined>;
  readonly list: () => Promise<SnapshotSummary[]>;
  readonly choices: () => Promise<SnapshotChoice[]>;
  /** The frozen normal form of a snapshot. Throws an `AlteredSnapshot` where its bytes do not fit its hash. */
  readonly frozen: (id: number) => Promise<string>;
  /**
   * Stores a snapshot and its rows in one transaction; `unchanged` where the register already stands just so. Another
   * intake that runs at the same time is waited for. With `on` it is stored only while that is the latest one (null: there is none).
   */
  readonly store: (snapshot: NewSnapshot, who: Actor, at: string, report: Report, on?: number | null) => Promise<StoredSnapshot>;
  /**
   * Stores what was before an intake in the place of what it brought, if that is the latest still; what its source brought before is what it brought last. The
   * record says why.
   */
  readonly takeBack: (
    wrong: { readonly id: number; readonly reason: string },
    before: NewSnapshot,
    who: Actor,
    at: string,
    report: Report,
  ) => Promise<StoredSnapshot>;
}

export interface StoredSnapshot {
  readonly outcome: "stored" | "unchanged" | "changed-meanwhile";
  readonly id: number;
  readonly changes: RegisterChanges;
}

/** An object's own values over a stretch of snapshots in which they stood. */
export interface ObjectVersion {
  readonly since: number;
  /** The first snapshot in which they no longer stood; undefined where they still do. */
  readonly until: number | undefined;
  readonly values: Readonly<Record<string, string>>;
}

export interface RegisterStore {
  /** How an object stood in all snapshots, the oldest first. */
  readonly versions: (kind: RegisterKind, id: string) => Promise<ObjectVersion[]>;
}

/** Thrown where the bytes that are kept of a snapshot are not those whose hash it bears: nothing true can be said of them. */
export class AlteredSnapshot extends Error {
  constructor(readonly snapshot: number) {
    super(
      `The bytes kept of snapshot ${snapshot} do not fit its hash: somebody or something altered them. Nothing is said or written of it; restore a backup.`,
    );
  }
}
