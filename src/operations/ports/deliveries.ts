import type { PeopleSource } from "@/core/findings/judged";

/** What a source sends is expected and taken in like this. */
export interface SourceRhythm {
  /** Hours within which it is to send again; absent: as often as it did before. */
  readonly dueHours?: number;
  /** Whether files that are laid into its folder are taken. */
  readonly watched?: boolean;
  /** When what came is looked at: so many minutes after the time before, or at a time on the register's clock; absent: of a folder at once, of a feed never. */
  readonly everyMinutes?: number;
  readonly dailyAt?: string;
  /** It is taken in by itself where the access of at most so many people changes; absent: somebody looks at it first. */
  readonly atMostPeople?: number;
}

/** What a source sent, as it was taken in. */
export interface Delivery {
  readonly source: string;
  /** What it was called: a file's name. */
  readonly name: string;
  /** When it was taken in, and the moment for which it speaks where that is known. */
  readonly at: string;
  readonly asOf: string | undefined;
}

/** Whom a source names, where its list of people is complete. */
export interface NewDelivery extends Omit<Delivery, "at"> {
  readonly people?: readonly string[];
}

/** How something arrived that waits for somebody. */
export type ArrivedBy = "folder" | "feed";

/** Why it was not taken in by itself. */
export type WaitReason =
  | { readonly code: "asked" | "looks-first" | "needs-profile" | "no-moment" | "failed" }
  | { readonly code: "refused" | "left-out" | "unread"; readonly count: number }
  | { readonly code: "effect"; readonly people: number; readonly atMost: number };

/** A file that arrived from a source, before anything is known of it. */
export interface ArrivedFile {
  readonly path: string;
  readonly name: string;
  readonly source: string;
  /** The moment for which it speaks, where that is known beforehand. */
  readonly asOf: string | undefined;
}

export type TakenByItself = { readonly outcome: "taken" } | { readonly outcome: "waits"; readonly why: readonly WaitReason[] };

/** Something that arrived and waits for somebody, with the token by which its file is found. */
export interface Arrival {
  readonly token: string;
  readonly source: string;
  readonly name: string;
  readonly by: ArrivedBy;
  readonly at: string;
  readonly asOf: string | undefined;
  readonly why: readonly WaitReason[];
}

export interface DeliveryStore {
  /** Notes what is no part of a snapshot, such as events. */
  readonly note: (delivery: Delivery) => Promise<void>;
  /** What each source sent last, so many of each, the latest first. */
  readonly last: (ofEach: number) => Promise<Delivery[]>;
  /** Whom each source that lists everybody named last, in a snapshot or before it; undefined for the latest. */
  readonly peopleSources: (snapshot: number | undefined) => Promise<readonly PeopleSource[]>;
  readonly arrivals: () => Promise<Arrival[]>;
  readonly addArrival: (arrival: Arrival) => Promise<void>;
  /** Takes an arrival off the list; undefined where it is not on it. */
  readonly settle: (token: string) => Promise<Arrival | undefined>;
}

/** A file or a folder that was laid into the folder of a source, and has not changed since it was looked at last. */
export interface LaidIn {
  readonly path: string;
  readonly name: string;
}

/** The folders that are watched, one for each source. */
export interface Inbox {
  /** The folder of a source, for whoever lays files into it. */
  readonly folderOf: (source: string) => string;
  readonly look: (source: string) => Promise<readonly LaidIn[]>;
}
