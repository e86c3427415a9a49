import type { Cardholder } from "../facility/document";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { AccessTable } from "../table/access-table";
import type { EpochMinute } from "../time/instant";
import type { LastUses } from "./use";

export type SubjectKind = "cardholder" | "credential" | "door" | "area" | "level" | "group" | "schedule" | "calendar";

/** What each rule proves. Lists are of ids, minutes are texts of UTC, dates `YYYY-MM-DD`. */
export interface Proofs {
  readonly "leaver-live": {
    readonly status: Cardholder["status"];
    readonly left?: string;
    readonly leftBy?: "status" | "end";
    readonly credentials: readonly string[];
  };
  readonly "expired-active": { readonly end: string; readonly by: "until" | "expiry" };
  readonly unused: { readonly days: number; readonly lastUse?: string; readonly coveredDays: number };
  /** `week` is the Monday of the first whole week; `override`: the holder passes everywhere. */
  readonly "around-the-clock": { readonly sensitivity: number; readonly week: string; readonly doors: readonly string[]; readonly override: boolean };
}

export type RuleKey = keyof Proofs;

/** One term of the sum that a risk is: its points, and what they are for. Sensitivity 0 to 3, percent of the week's minutes, hours a week, days. */
export interface RiskTerm {
  readonly term: "base" | "sensitivity" | "outOfHours" | "weeklyHours" | "standing";
  readonly points: number;
  readonly of: number;
}

interface OfRule<K extends RuleKey> {
  readonly rule: K;
  readonly subject: { readonly kind: SubjectKind; readonly id: string };
  /** The cardholder concerned, if there is one. */
  readonly cardholder?: string;
  /** Tells several findings of one rule on one subject apart; part of the fingerprint. */
  readonly distinct: readonly string[];
  readonly proof: Proofs[K];
  /** Since when it stands, if known. */
  readonly since?: EpochMinute;
}

/** What a rule reports; the risk is added up by `weigh`. `credentials` are those whose reach, were they live, makes it weigh more. */
export type Observation<K extends RuleKey = RuleKey> = Omit<OfRule<K>, "rule"> & { readonly credentials: ArrayLike<Position> };

/** What a finding says, without how much it weighs. */
export type FindingFacts = { [K in RuleKey]: Pick<OfRule<K>, "rule" | "subject" | "distinct" | "proof"> }[RuleKey];

export type Finding = {
  [K in RuleKey]: OfRule<K> & {
    /** The same finding bears the same one in every snapshot. */
    readonly fingerprint: string;
    readonly risk: number;
    readonly terms: readonly RiskTerm[];
  };
}[RuleKey];

/** What a rule could not tell, said instead of guessed: of how many subjects, and of how many dates the events cover how many where they cover least. */
export interface CannotTell {
  readonly rule: RuleKey;
  readonly concerned: number;
  readonly covered: number;
  readonly days: number;
}

export interface FindingContext {
  readonly compiled: CompiledFacility;
  readonly asOf: EpochMinute;
  readonly use: LastUses;
  /** Who opens what over 13 months from `asOf`. Most people share their row with others, so look at rows, and at each once. */
  readonly ahead: AccessTable;
}

export interface FindingRule<K extends RuleKey = RuleKey> {
  readonly key: K;
  /** Where the rule comes from; cited from memory unless it says otherwise. */
  readonly source: string;
  /** Points that every finding of the rule has before anything is added. */
  readonly base: number;
  readonly parameters: Readonly<Record<string, number>>;
  /** Whether it speaks of what did not happen in the events: of what a draft adds that cannot be said. */
  readonly speaksOfUse?: boolean;
  readonly observe: (context: FindingContext) => { readonly observations: readonly Observation<K>[]; readonly cannotTell?: Omit<CannotTell, "rule"> };
}

/** Any of the rules, each with findings of its own kind. */
export type AnyRule = { [K in RuleKey]: FindingRule<K> }[RuleKey];

export interface Findings {
  /** The riskiest first; ties by fingerprint. */
  readonly findings: readonly Finding[];
  readonly cannotTell: readonly CannotTell[];
}
