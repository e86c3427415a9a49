import type { OccasionKind } from "./occasions";

/** Whose and which lines a round has; each thing named narrows it, and nothing named is everything. Lists of ids are sorted. */
export interface RoundScope {
  /** Whom alone it is about. */
  readonly about?: { readonly kind: "cardholder" | "credential"; readonly id: string };
  readonly sites?: readonly string[];
  /** Areas, with those below them. */
  readonly areas?: readonly string[];
  /** Only what leads into places of this sensitivity or a greater one. */
  readonly sensitivity?: number;
  /** Departments, with those below them. */
  readonly departments?: readonly string[];
  readonly types?: readonly string[];
  /** Only lines that something speaks against, or only those that are otherwise than in the last round or were not in it. */
  readonly only?: "findings" | "changed";
  /** Whether definitions are certified, too, by the owners of the areas that they concern, or nothing else; left out where they are not. */
  readonly definitions?: "too" | "only";
}

/** Who certifies a line: the cardholder's manager, the owner of the area, or both, each in a docket of their own. */
export type CertifiedBy = "manager" | "owner" | "both";

/** How a round is run. */
export interface RoundTerms {
  readonly scope: RoundScope;
  /** What asked for it between rounds; left out where a reviewer opened it. */
  readonly occasion?: OccasionKind;
  readonly by: CertifiedBy;
  /** What lines count as that nobody decided by the time the round is closed. */
  readonly undecided: "keep" | "withdraw";
  /** Days before the due date on which certifiers are reminded, the first reminder first. */
  readonly remind: readonly number[];
  /** Days after the due date on which their own managers are told. */
  readonly escalate: readonly number[];
  /** Days after a signature by which its orders are to be carried out. */
  readonly orderDays: number;
}

export const usualTerms: RoundTerms = { scope: {}, by: "manager", undecided: "keep", remind: [7, 1], escalate: [3], orderDays: 14 };
