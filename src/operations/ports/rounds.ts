import type { Decision, Narrowing } from "@/core/certification/decide-line";
import type { DefinitionKind } from "@/core/certification/definitions/definition";
import type { Line } from "@/core/certification/line";
import type { LineContent } from "@/core/certification/line-content";
import type { OccasionKind } from "@/core/certification/occasions";
import type { RoundTerms } from "@/core/certification/round-terms";
import type { Decided } from "@/core/findings/judged";
import type { Cardholder } from "@/core/facility/document";
import type { HolderId } from "@/core/facility/holder-id";
import type { Account } from "./accounts";
import type { NewOrder } from "./orders";

/** Who a line is about, as the snapshot has it; undefined of a credential that nobody holds. */
export interface LineHolder {
  readonly status: Cardholder["status"];
  readonly type?: NonNullable<Cardholder["type"]>;
  /** The name of the department. */
  readonly department?: string;
  readonly staffNumber?: string;
}

export interface NewDocket {
  /** Cardholder who certifies; undefined where there is nobody, and the reviewer who opened the round does. */
  readonly certifier: string | undefined;
  /** What the snapshot calls them. */
  readonly certifierName: string | undefined;
  /** Who decides where no certifier is named. */
  readonly account: number | undefined;
  /** Whether it waits until a docket that goes first was tried. */
  readonly held: boolean;
  readonly lines: readonly {
    readonly line: LineContent;
    /** Whose access it is, as the snapshot calls them; empty of a definition. */
    readonly holderName: string;
    readonly holder: LineHolder | undefined;
    readonly flagged: boolean;
  }[];
}

export interface Round {
  readonly id: number;
  readonly name: string;
  readonly due: string;
  readonly snapshot: number;
  readonly openedAt: string;
  readonly terms: RoundTerms;
  /** Asked to be closed before all was signed: when, by whom, and why; somebody else confirms it. */
  readonly closingAsked: { readonly at: string; readonly by: Pick<Account, "id" | "name">; readonly reason: string } | undefined;
  readonly closedAt: string | undefined;
}

export interface Docket {
  readonly id: number;
  readonly round: number;
  readonly certifier: string | undefined;
  readonly certifierName: string | undefined;
  readonly account: number | undefined;
  readonly held: boolean;
  /** The signed docket that this one corrects. */
  readonly corrects: number | undefined;
  readonly lines: number;
  readonly flagged: number;
  readonly decided: number;
  readonly withdrawn: number;
  readonly narrowed: number;
  readonly passedOn: number;
  /** Lines that are kept although something speaks against them. */
  readonly keptFlagged: number;
  readonly comments: number;
  readonly signedAt: string | undefined;
  /** When it was closed without a signature. */
  readonly closedAt: string | undefined;
  readonly signedBy: string | undefined;
  readonly statement: string | undefined;
  readonly hash: string | undefined;
  /** When the first and the last of its decisions were made. */
  readonly firstDecidedAt: string | undefined;
  readonly lastDecidedAt: string | undefined;
}

/** What was decided on a line; `to` is the docket to which it was passed on. */
export interface LineDecision {
  readonly decision: Decision | undefined;
  readonly reason: string;
  readonly narrowing?: Narrowing | undefined;
  readonly passedTo?: number | undefined;
}

export interface DocketLine extends LineDecision {
  readonly id: number;
  readonly docket: number;
  readonly position: number;
  readonly holderName: string;
  readonly holder: LineHolder | undefined;
  readonly flagged: boolean;
  readonly line: LineContent;
  /** The line of another docket from which this one was passed on. */
  readonly passedFrom: number | undefined;
}

/** A line of a docket about somebody's access. */
export type AccessDocketLine = DocketLine & { readonly line: Line };

export interface LineComment {
  readonly line: number;
  readonly by: string;
  readonly at: string;
  readonly words: string;
}

/** Lines of a round that have something in common. */
export interface LineFilter {
  readonly docket?: number;
  /** The name of the holder's department, as the snapshot has it; null for those of none. Lines that were passed on count where they are decided. */
  readonly department?: string | null;
  /** Only lines about definitions. */
  readonly definitions?: true;
  readonly decision?: Decision | "decided" | "undecided";
  readonly flagged?: true;
  readonly commented?: true;
}

/** How lines of a department, as the snapshot has it, were decided. */
export interface DepartmentProgress {
  /** Undefined for those of no department, and of definitions. */
  readonly name: string | undefined;
  readonly isDefinitions: boolean;
  readonly lines: number;
  readonly decided: number;
  readonly withdrawn: number;
  readonly narrowed: number;
  readonly keptFlagged: number;
}

/** A line that told of a finding, and what became of it. */
export interface LineOfFinding {
  readonly line: number;
  readonly round: { readonly id: number; readonly name: string; readonly due: string };
  /** What the snapshot calls whoever certifies; undefined where nobody was named. */
  readonly certifierName: string | undefined;
  readonly decision: Decision | undefined;
  readonly signedAt: string | undefined;
}

/** A decision on a definition in a docket that was signed, on the snapshot of its round. */
export interface CertifiedDefinition {
  readonly kind: DefinitionKind;
  readonly id: string;
  readonly decision: "keep" | "withdraw";
  readonly certifier: string | undefined;
  readonly signedAt: string;
  readonly snapshot: number;
}

/** Somebody who certifies in the place of another, from one date to another, both included. */
export interface Substitute {
  readonly id: number;
  readonly round: number;
  readonly certifier: string;
  readonly account: Pick<Account, "id" | "name">;
  readonly from: string;
  readonly until: string;
}

/** Something that asks for a decision between rounds, within so many days, as somebody set it. */
export interface OccasionRule {
  readonly kind: OccasionKind;
  readonly days: number;
  readonly setBy: Account;
}

/** Orders that come of a docket, as it is signed or closed. */
export interface DocketOrders {
  readonly docket: number;
  readonly orders: readonly NewOrder[];
}

export interface RoundStore {
  readonly open: (
    round: Pick<Round, "name" | "due" | "snapshot" | "openedAt" | "terms"> & { readonly openedBy: Account },
    dockets: readonly NewDocket[],
  ) => Promise<number>;
  readonly list: () => Promise<Round[]>;
  /** What was decided on access to areas in dockets that were signed, at the minute of the signature; undefined where none was. */
  readonly decided: () => Promise<Decided[] | undefined>;
  readonly byId: (id: number) => Promise<Round | undefined>;
  /** What was decided on definitions in dockets that were signed, the latest last. */
  readonly certifiedDefinitions: () => Promise<CertifiedDefinition[]>;
  /** The lines about a holder that told of a finding, the latest round first. */
  readonly linesTelling: (holder: HolderId, fingerprint: string) => Promise<LineOfFinding[]>;
  /** Dockets; those of an `account` are its own and, on a date, those for which it stands in. */
  readonly dockets: (filter: {
    readonly round?: number;
    readonly account?: { readonly id: number; readonly today: string };
    readonly id?: number;
  }) => Promise<Docket[]>;
  readonly lines: (filter: {
    readonly docket?: number;
    readonly round?: number;
    readonly id?: number;
    readonly ids?: readonly number[];
    readonly cardholders?: readonly string[];
  }) => Promise<DocketLine[]>;
  /**
   * Writes decisions, all or none: refused if the docket was signed or its round closed meanwhile, or if a line that was passed on was taken up
   * there. What is passed on
   * appears in the other docket at once, and goes from there when it is decided otherwise.
   */
  readonly decide: (
    docket: number,
    decisions: readonly ({ readonly line: number } & LineDecision)[],
    by: Account,
    at: string,
  ) => Promise<"written" | "docket-signed" | "taken-up">;
  /** Signs a docket and writes its orders in one transaction, if it holds just the decisions and reasons that are signed. */
  readonly sign: (
    docket: number,
    signature: {
      readonly statement: string;
      readonly hash: string;
      readonly decisions: readonly ({ readonly line: number } & LineDecision)[];
    },
    orders: readonly NewOrder[],
    by: Account,
    at: string,
  ) => Promise<"signed" | "already-signed" | "changed-meanwhile">;
  /** A new docket with the lines of a signed one, undecided, which corrects it; gives its number. */
  readonly correct: (docket: number, by: Account, at: string) => Promise<number>;
  /** Lets dockets begin that waited for the one that goes first. */
  readonly release: (round: number, by: Account, at: string) => Promise<void>;
  /** Gives a docket that is not signed to another certifier. */
  readonly giveTo: (docket: number, certifier: { readonly id: string; readonly name: string }, by: Account, at: string) => Promise<boolean>;
  readonly substitutes: (round: number) => Promise<Substitute[]>;
  readonly addSubstitute: (substitute: Omit<Substitute, "id">, by: Account, at: string) => Promise<void>;
  readonly askToClose: (round: number, reason: string, by: Account, at: string) => Promise<void>;
  /**
   * Closes a round: lines undecided by then count as its rule says, and orders of dockets that nobody signed are written, in one transaction. Refused (false,
   * nothing written) if a decision or a signature came meanwhile, which `seen` shows: how many lines were decided, and when last, and how many dockets signed.
   */
  readonly close: (
    round: number,
    seen: { readonly decided: number; readonly lastDecidedAt: string | undefined; readonly signed: number },
    orders: readonly DocketOrders[],
    by: Account,
    at: string,
  ) => Promise<boolean>;
  /**
   * How far the lines of each department of a round are, by name, those of no department and definitions last; one that was passed on counts where it is
   * decided.
   */
  readonly departments: (round: number) => Promise<DepartmentProgress[]>;
  /** Some lines of a round, in the order of their dockets, from a place on, and how many there are in all. */
  readonly someLines: (round: number, filter: LineFilter, from: number, count: number) => Promise<{ readonly lines: DocketLine[]; readonly total: number }>;
  readonly comments: (docket: number) => Promise<LineComment[]>;
  readonly comment: (line: number, words: string, by: Account, at: string) => Promise<void>;
  readonly occasions: () => Promise<OccasionRule[]>;
  /** Sets within how many days an occasion asks for a decision; undefined where it asks for none. */
  readonly setOccasion: (kind: OccasionKind, days: number | undefined, by: Account, at: string) => Promise<void>;
  /** What withdrawing a line would come to, as it was worked out over its snapshot; undefined where it was not yet. */
  readonly effect: (line: number) => Promise<string | undefined>;
  /** Lines of open rounds about somebody’s access whose effects are not kept yet: of the latest round first, and in it those that are flagged. */
  readonly linesWithoutEffect: (limit: number) => Promise<readonly { readonly id: number; readonly snapshot: number; readonly line: LineContent }[]>;
  readonly keepEffects: (effects: readonly { readonly line: number; readonly effect: string }[]) => Promise<void>;
}
