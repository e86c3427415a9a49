import type { Decision, Narrowing } from "../certification/decide-line";
import type { LineContent } from "../certification/line-content";
import type { RoundTerms } from "../certification/round-terms";
import type { OrderedChange } from "../certification/withdrawal/described-change";
import type { CheckOutcome } from "../certification/wish-state";
import type { Finding } from "../findings/finding";
import type { RuleSettings } from "../findings/settings";
import type { Trial, TrialResult } from "./trials";
import type { RecordEntry } from "./chain";

/** A file of an intake, as it came, and how many of its rows were stored. */
export interface IntakeOfFile {
  readonly name: string;
  /** SHA-256 of its bytes. */
  readonly hash: string;
  readonly rows?: number;
  readonly leftOut: number;
  /** How many rows its source states that it has, where it does. */
  readonly stated?: number;
}

/** An intake behind a round: what came, and what was stored of it. */
export interface IntakeEvidence {
  readonly snapshot: number;
  /** SHA-256 of the facility document as it was frozen then. */
  readonly hash: string;
  readonly source: string;
  readonly asOf: string;
  readonly takenAt: string;
  readonly takenBy: string;
  readonly leftOut: number;
  readonly files: readonly IntakeOfFile[];
  /** Objects of the register after it, by list. */
  readonly counts: Readonly<Record<string, number>>;
}

export interface DocketEvidence {
  readonly docket: number;
  readonly certifier?: string;
  readonly certifierName?: string;
  readonly corrects?: number;
  /** The name and the sign-in name of who signed. */
  readonly signedBy?: { readonly name: string; readonly signIn: string };
  readonly signedAt?: string;
  readonly statement?: string;
  /** SHA-256 of the signed text, which is in the pack. */
  readonly hash?: string;
  readonly closedAt?: string;
  readonly firstDecidedAt?: string;
  readonly lastDecidedAt?: string;
}

export interface LineEvidence {
  readonly line: number;
  readonly docket: number;
  readonly holderName: string;
  readonly department?: string;
  readonly staffNumber?: string;
  readonly flagged: boolean;
  readonly decision?: Decision;
  readonly reason: string;
  readonly narrowing?: Narrowing;
  readonly passedTo?: number;
  readonly passedFrom?: number;
  readonly content: LineContent;
}

export interface WaiverEvidence {
  readonly reason: string;
  readonly until: string;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly confirmedBy?: string;
}

export type FindingEvidence = Pick<Finding, "rule" | "subject" | "distinct" | "proof" | "risk" | "fingerprint"> & { readonly waiver?: WaiverEvidence };

export interface OrderEvidence {
  readonly order: number;
  readonly lines: readonly number[];
  readonly source?: string;
  readonly asked: OrderedChange;
  /** Doors, by id, that the holder loses besides. */
  readonly alsoLost: readonly string[];
  readonly madeAt: string;
  readonly due?: string;
  readonly ticket?: string;
  readonly sentAt?: string;
  readonly answer?: { readonly at: string; readonly said: "done" | "refused"; readonly note: string };
  readonly cancelledAt?: string;
  /** Names of what it speaks of, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
}

export interface CheckEvidence {
  readonly line: number;
  readonly snapshot: number;
  readonly at: string;
  readonly found: CheckOutcome;
  readonly names: Readonly<Record<string, string>>;
}

/** A trial with what the door does by the document of the snapshot. */
export type TrialEvidence = Trial & TrialResult & { readonly trial: number };

/** An entry of the record; with what it says only where that is about the round. */
export type EntryEvidence = RecordEntry & { readonly content?: string };

export interface RoundFacts {
  readonly id: number;
  readonly name: string;
  readonly due: string;
  readonly openedAt: string;
  readonly closedAt?: string;
  readonly closingAsked?: { readonly at: string; readonly by: string; readonly reason: string };
  readonly terms: RoundTerms;
}

/** Everything that shows how a round was run and what came of it. */
export interface RoundEvidence {
  readonly round: RoundFacts;
  readonly snapshot: {
    readonly id: number;
    readonly hash: string;
    readonly facilityName: string;
    readonly timeZone: string;
    readonly asOf: string;
    readonly leftOut: number;
  };
  /** The frozen document of the snapshot, to the byte. */
  readonly document: string;
  readonly intakes: readonly IntakeEvidence[];
  readonly dockets: readonly DocketEvidence[];
  /** The text of each signature, by docket, whose SHA-256 is the docket's. */
  readonly signedTexts: ReadonlyMap<number, string>;
  readonly lines: readonly LineEvidence[];
  readonly comments: readonly { readonly line: number; readonly by: string; readonly at: string; readonly words: string }[];
  readonly findings: readonly FindingEvidence[];
  readonly orders: readonly OrderEvidence[];
  readonly checks: readonly CheckEvidence[];
  readonly settings: RuleSettings;
  /** Credentials tried at doors of the snapshot; undefined where none were written down. */
  readonly trials?: readonly TrialEvidence[] | undefined;
  /** The record from the opening of the round on, without a gap. */
  readonly entries: readonly EntryEvidence[];
  readonly madeAt: string;
  /** Sign-in name of who made the pack. */
  readonly madeBy: string;
  readonly seed: string;
}
