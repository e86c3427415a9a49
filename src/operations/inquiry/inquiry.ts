import type { AskedWithdrawal } from "../register/drafts/draft-withdrawal";
import type { GroupRemoval } from "@/core/table/group-removals";
import type { Need } from "@/core/paths/needs";
import type { AskedRegister } from "../register/on-register";
import type { Verdict } from "@/core/paths/trace";
import type { HolderId } from "@/core/facility/holder-id";
import type { Question, Where } from "@/core/questions/question";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import type { RuleKey } from "@/core/findings/finding";
import type { HeldVerdict } from "../units/decide-as-held";
import type { FindingWithNames } from "../findings/with-names";
import type { DoorUse } from "@/core/findings/use";
import type { ShownWithdrawal } from "../certification/withdrawals";

/** A question as the pages ask it. */
export type Inquiry = Question;

/** The register that a question is asked of, where it names one. */
export const registerOf = ({ snapshot, draft }: Pick<Inquiry, "snapshot" | "draft">): AskedRegister => (draft === undefined ? snapshot : { draft });

/** A question about one person or card and one door, or the doors of one place: it is told why. */
export interface PairInquiry extends Inquiry {
  readonly who: HolderId;
  readonly where: Where | undefined;
}

/** The question as one about a single person or card; undefined where it is about several. */
export const asPair = (inquiry: Inquiry): PairInquiry | undefined =>
  inquiry.who?.kind === "cardholder" || inquiry.who?.kind === "credential" ? { ...inquiry, who: inquiry.who, where: inquiry.where } : undefined;

/** An ordinary week, minutes 0..10080 from Monday: when something opens, and what of this is outside the business hours of its site. */
export interface DrawnWeek {
  readonly open: IntervalSet;
  readonly outside: IntervalSet;
}

export interface NamedHolder {
  readonly kind: "cardholder" | "credential";
  readonly id: string;
  readonly name: string;
  readonly detail: string;
}

export interface NamedDoor {
  readonly id: string;
  readonly name: string;
  readonly area: string | undefined;
  readonly site: string;
  readonly zone: string;
}

/** One holder at one door; or one holder at several doors, or several holders at one door, taken together. */
export interface AnswerRow {
  readonly holder: NamedHolder;
  readonly door: NamedDoor;
  /** More doors, and more holders, that the row stands for. */
  readonly furtherDoors: number;
  readonly furtherHolders: number;
  readonly opens: boolean;
  /** Opens only if a suspended or not yet valid credential were made active. */
  readonly asleep: boolean;
  readonly week: DrawnWeek;
  /** Hours in words; undefined where the doors lie in several zones, so that no one sentence is true of all. */
  readonly words: string | undefined;
  readonly weekMinutes: number;
  readonly outOfHoursMinutes: number;
  /** Undefined where the row stands for so many cards that their use is not counted together. */
  readonly use: DoorUse | undefined;
  /** Rules of which something speaks against the holder, each once; of several holders none is told. */
  readonly findings: readonly RuleKey[];
}

/** Who and where of a question, by name. */
export interface QuestionNames {
  readonly who: string | undefined;
  readonly where: string | undefined;
}

/** What of an answer rests on uses. */
export interface RestsOnUses {
  /** How many cards of those who are asked about last longer by uses since the export, which are counted. */
  readonly prolonged: number;
  /** Whether any of their cards ends by not being used: what is said of later holds if it is not used again. */
  readonly endsUnused: boolean;
}

export interface Answer {
  readonly names: QuestionNames;
  /** Whether a row is a holder, or a door. */
  readonly by: "people" | "doors";
  /** How many people and cards were asked about, and how many doors. */
  readonly askedHolders: number;
  readonly askedDoors: number;
  /** The number of the first row, from 0 on. */
  readonly offset: number;
  /** Rows that open then, the most remarkable first. */
  readonly rows: readonly AnswerRow[];
  readonly total: number;
  readonly asleep: readonly AnswerRow[];
  readonly asleepTotal: number;
  /** Holders without a cardholder among the rows: cards that anybody may carry. */
  readonly holderless: number;
  /** Zones of the doors concerned, where they differ or one is asked about. */
  readonly zones: readonly { readonly name: string; readonly offset: number }[];
  /** The asked instant at each zone; undefined for no moment. */
  readonly at: EpochMinute | undefined;
  readonly free: { readonly words: string; readonly week: IntervalSet } | undefined;
  readonly asOf: EpochMinute;
  readonly now: EpochMinute;
  readonly uses: RestsOnUses;
}

export interface Trace {
  readonly holder: NamedHolder;
  readonly door: NamedDoor;
  readonly at: EpochMinute;
  /** False where the clock of the door's site skips the asked time: it is then told of the minute after. */
  readonly comes: boolean;
  readonly credential: NamedHolder | undefined;
  readonly verdict: Verdict;
  /** Verdicts of the same holder's other credentials. */
  readonly others: readonly { readonly credential: NamedHolder; readonly reason: Verdict["reason"] }[];
  readonly week: DrawnWeek;
  readonly words: string;
  /** The same with every exception named; can be read back to the timetable. */
  readonly fullWords: string;
  /** The last minute before the asked one at which that changed; undefined where it did not within some 13 months. */
  readonly previousChange: EpochMinute | undefined;
  /** The first minute after the asked one at which that changes; undefined where it does not within 13 months. */
  readonly nextChange: EpochMinute | undefined;
  readonly free: boolean;
  /** Whether it opens at any minute of the 13 months: then it can be asked what must go. */
  readonly everOpens: boolean;
  /** What would have to be otherwise for it to open at the asked time; empty where it opens. */
  readonly needs: readonly Need[];
  readonly findings: readonly FindingWithNames[];
  readonly timeZone: string;
  /** Names of everything that the paths speak of, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
  /** Cards of the holder that end by not being used, with the minute at which they do if they are not used again. */
  readonly endsUnused: readonly { readonly credential: NamedHolder; readonly at: EpochMinute }[];
  readonly uses: RestsOnUses;
  /** What the unit at the door would decide by what it holds; undefined where none told, and for questions as if live. */
  readonly atUnit: HeldVerdict | undefined;
}

/** What must go before a door no longer opens for a holder. */
export interface ShutPlan {
  readonly withdrawal: ShownWithdrawal;
  /** Another way, with fewer blocks and more of what else is lost; undefined where there is none. */
  readonly otherWay: ShownWithdrawal | undefined;
  /** What a draft would be asked to take away, for those who may edit drafts; undefined where there is nothing to take away. */
  readonly toWithdraw: AskedWithdrawal | undefined;
  /** What would have to be ended to shut it without a block; empty where nothing comes with the department. */
  readonly withoutBlock: readonly GroupRemoval[];
  /** Names of what would have to be ended, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
}
