import type { DecisionRefusal } from "@/core/certification/decide-line";
import type { DecisionCounts } from "@/core/certification/sign-docket";
import type { Language } from "@/core/certification/signing-statement";
import type { CredentialLife, Line, LineFinding, Since } from "@/core/certification/line";
import type { EpochMinute } from "@/core/time/instant";
import type { ShownWithdrawal } from "@/operations/certification/withdrawals";
import type { DefinitionWords } from "./definition-words";
import type { LineHolder } from "@/operations/ports/rounds";

/** Everything that a docket says to its certifier, in one language; the sentences that it is made of are whole, since their order differs. */
export interface DocketWords {
  readonly language: Language;
  /** What the language calls itself, to be switched to. */
  readonly called: string;
  /** For numbers and dates. */
  readonly locale: string;

  readonly dockets: (open: number) => string;
  readonly due: (date: string) => string;
  readonly progress: (decided: number, of: number) => string;
  readonly flaggedAmong: (flagged: number) => string;
  readonly signedThen: string;
  readonly closedThen: string;
  readonly waitsFor: (certifier: string) => string;
  readonly signOut: string;
  readonly yourAccount: string;

  readonly personOf: (person: number, of: number) => string;
  readonly docketOf: (certifier: string | undefined) => string;
  readonly notDecidedByYou: string;
  readonly correctsEarlier: string;
  readonly holder: (holder: LineHolder | undefined) => string;
  readonly definitions: DefinitionWords;
  readonly back: string;
  readonly nextPerson: string;
  readonly toSignature: string;
  readonly keepAll: (open: number) => string;
  readonly keysHint: string;

  readonly override: string;
  readonly hours: (line: Line["hours"][number]) => string;
  readonly doors: (names: readonly string[]) => string;
  readonly use: (line: Line, asOf: EpochMinute) => string;
  readonly peers: (line: Line) => string;
  readonly since: (since: Since) => string;
  readonly keptBefore: (at: string) => string;
  readonly life: (life: CredentialLife) => string;
  readonly finding: (finding: LineFinding, timeZone: string) => string;
  readonly usualWeek: (words: string) => string;
  /** What unfolds the rest of a line. */
  readonly more: string;
  readonly showKeys: string;
  readonly aboutYourself: string;
  readonly passedOnToYou: string;

  readonly keep: (isCard: boolean) => string;
  readonly narrow: string;
  readonly withdraw: (isCard: boolean) => string;
  readonly passOn: string;
  readonly undo: string;
  readonly keepNamed: (subject: string) => string;
  readonly withdrawNamed: (subject: string) => string;
  readonly withdrawnKeep: string;
  readonly showMore: (lines: number) => string;
  readonly sameAsColleagues: (lines: number) => string;
  readonly nothingChanges: string;
  readonly notDecided: string;
  readonly decided: (decision: "keep" | "withdraw" | "narrow" | "pass-on") => string;

  readonly why: string;
  readonly whyHint: string;
  readonly narrowTo: string;
  readonly inHours: string;
  readonly inHoursNone: string;
  readonly share: (stays: number, of: number) => string;
  readonly untilDate: string;
  readonly untilHint: string;
  readonly untilUnread: (typed: string) => string;
  readonly onlyDoors: string;
  readonly onlyDoorsHint: string;
  readonly doNarrow: string;
  readonly stays: string;
  readonly goes: string;
  readonly narrowedTo: (to: { readonly schedule: string | undefined; readonly until: string | undefined; readonly shut: readonly string[] }) => string;
  readonly passOnTo: string;
  readonly passOnWhy: string;
  readonly doPassOn: string;
  readonly passedOnTo: (name: string) => string;
  readonly reviewer: string;

  readonly workingOut: string;
  readonly notWorkedOut: string;
  readonly withdrawal: (withdrawal: Pick<ShownWithdrawal, "isPossible" | "changes" | "effects" | "names">) => string;

  readonly comments: (count: number) => string;
  readonly comment: string;
  readonly send: string;

  readonly saved: string;
  readonly inRecord: string;
  readonly saving: string;
  readonly waiting: (count: number) => string;
  readonly refusals: Readonly<Record<DecisionRefusal, string>>;
  readonly unread: string;

  readonly signHeading: string;
  readonly signedHeading: string;
  readonly closedHeading: string;
  readonly closedSays: string;
  readonly counts: (counts: DecisionCounts) => string;
  readonly goingHeading: string;
  readonly undecidedHeading: string;
  readonly sign: (lines: number) => string;
  readonly forGood: string;
  readonly notSigned: Readonly<Record<"already-signed" | "not-yours" | "changed-meanwhile" | "closed", string>>;
  readonly undecided: (count: number) => string;
}
