import type { EpochMinute } from "../time/instant";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import type { AccessTable } from "../table/access-table";
import type { Reach } from "./reach";
import type { UseRecord } from "./use";

export type SubjectKind = "cardholder" | "credential" | "door" | "area" | "level" | "group" | "schedule" | "calendar";

/** One term of the sum that a risk is. */
export interface RiskPart {
  readonly what: string;
  readonly points: number;
}

/** What a rule reports; the risk is added up by `weigh`. */
export interface Observation {
  readonly subject: { readonly kind: SubjectKind; readonly id: string };
  /** The cardholder concerned, if there is one. */
  readonly cardholder?: string;
  /** Distinguishes several findings of one rule on one subject; part of the fingerprint. */
  readonly distinct?: string;
  readonly proof: Readonly<Record<string, string | number | readonly string[]>>;
  /** The sentence shown to a person. */
  readonly sentence: string;
  /** What would end it, in words. */
  readonly remedy: string;
  /** Credentials whose reach (were they live) makes it weigh more. */
  readonly credentials: readonly CompiledCredential[];
  /** Since when it stands, if known. */
  readonly since?: EpochMinute;
}

export interface Finding extends Omit<Observation, "credentials" | "since" | "distinct"> {
  readonly rule: string;
  /** The same finding bears the same one in every snapshot. */
  readonly fingerprint: string;
  readonly risk: number;
  readonly parts: readonly RiskPart[];
  readonly since?: EpochMinute;
}

/** Something that a rule could not tell, and why; said instead of guessed. */
export interface CannotTell {
  readonly rule: string;
  readonly reason: string;
  readonly concerned: number;
}

export interface FindingContext {
  readonly compiled: CompiledFacility;
  readonly asOf: EpochMinute;
  readonly use: UseRecord;
  /** Who opens what over 13 months from `asOf`. Most people share their row with others, so look at rows, and at each once. */
  readonly ahead: AccessTable;
  /** Reach in an ordinary week at `asOf`, were the credentials live. */
  readonly wakenedWeek: (credentials: readonly CompiledCredential[]) => Reach;
}

export interface FindingRule {
  readonly key: string;
  readonly title: string;
  /** Where the rule comes from; cited from memory unless it says otherwise. */
  readonly source: string;
  /** Points that every finding of the rule has before anything is added. */
  readonly base: number;
  readonly parameters: Readonly<Record<string, number>>;
  /** Whether it speaks of what did not happen in the events: of what a draft adds that cannot be said. */
  readonly speaksOfUse?: boolean;
  readonly observe: (context: FindingContext) => { readonly observations: readonly Observation[]; readonly cannotTell?: Omit<CannotTell, "rule"> };
}

export interface Findings {
  /** The riskiest first; ties by fingerprint. */
  readonly findings: readonly Finding[];
  readonly cannotTell: readonly CannotTell[];
}
