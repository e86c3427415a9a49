import type { Brings, OwnershipProfile } from "@/core/facility/ownership";
import type { SourceProfile } from "@/intake/profile/source-profile";
import type { Language } from "@/core/certification/signing-statement";
import type { SourceRhythm } from "./deliveries";
import type { Actor } from "./record";

export type { SourceProfile };

/** Where the orders of a source go by mail. */
export interface OrdersTo {
  readonly address: string;
  readonly language: Language;
}

export interface SourceStore {
  /** Undefined where they are only saved as a file. */
  readonly ordersTo: (source: string) => Promise<OrdersTo | undefined>;
  readonly putOrdersTo: (source: string, to: OrdersTo | undefined, who: Actor, at: string) => Promise<void>;
  /** Sources that are known, by name: from what they brought, or since it is kept how they write. */
  readonly names: () => Promise<string[]>;
  /** What a source's profile lets it own; empty where it owns all that it brings. */
  readonly owns: (source: string) => Promise<OwnershipProfile>;
  readonly putOwns: (source: string, owns: OwnershipProfile, who: Actor, at: string) => Promise<void>;
  /** How often a source is to send, and what is taken in by itself. */
  readonly rhythm: (source: string) => Promise<SourceRhythm>;
  readonly putRhythm: (source: string, rhythm: SourceRhythm, who: Actor, at: string) => Promise<void>;
  /** What each source brought last, the latest source first. */
  readonly brought: () => Promise<{ readonly source: string; readonly brings: Brings; readonly snapshot: number }[]>;
  /** How a source writes things; undefined where nobody has said. */
  readonly profile: (source: string) => Promise<SourceProfile | undefined>;
  /** Keeps how a source writes things, with an entry in the record where that is new. */
  readonly putProfile: (source: string, profile: SourceProfile, who: Actor, at: string) => Promise<void>;
}
