import type { AskedWithdrawal } from "../register/drafts/draft-withdrawal";
import type { GroupRemoval } from "@/core/table/group-removals";
import type { Need } from "@/core/paths/needs";
import type { Verdict } from "@/core/paths/trace";
import type { HolderId } from "@/core/facility/holder-id";
import type { Question } from "@/core/questions/question";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import type { RuleKey } from "@/core/findings/finding";
import type { FindingWithNames } from "../findings/with-names";
import type { DoorUse } from "@/core/findings/use";
import type { ShownWithdrawal } from "../certification/withdrawals";

/** A question as the pages ask it. */
export type Inquiry = Question;

/** Whom the answers at hand are about: a person or a card. */
export type AskedHolder = HolderId;
/** Where: a door, or an area with those below. */
export interface AskedPlace {
  readonly kind: "door" | "area";
  readonly id: string;
}

/** A question that can be answered: other kinds of who and where are understood, and said not to be answered yet. */
export interface AnswerableInquiry extends Inquiry {
  readonly who: AskedHolder | undefined;
  readonly where: AskedPlace | undefined;
}

/** The question as it can be answered; everybody and anywhere are what is left open. Undefined where no view answers it yet. */
export function answerable(inquiry: Inquiry): AnswerableInquiry | undefined {
  const { who, where } = inquiry;
  const asksWho = who === undefined || who.kind === "everybody" ? undefined : who;
  const asksWhere = where === undefined || where.kind === "anywhere" ? undefined : where;
  if (asksWho && asksWho.kind !== "cardholder" && asksWho.kind !== "credential") return undefined;
  if (asksWhere && asksWhere.kind !== "door" && asksWhere.kind !== "area") return undefined;
  return { ...inquiry, who: asksWho, where: asksWhere };
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

/** One holder at one door, or at all doors of an area taken together. */
export interface AnswerRow {
  readonly holder: NamedHolder;
  readonly door: NamedDoor;
  /** More doors that the row stands for, where an area was asked about. */
  readonly furtherDoors: number;
  readonly opens: boolean;
  /** Opens only if a suspended or not yet valid credential were made active. */
  readonly asleep: boolean;
  readonly week: IntervalSet;
  readonly words: string;
  readonly weekMinutes: number;
  readonly outOfHoursMinutes: number;
  readonly use: DoorUse;
  /** Rules of which something speaks against the holder, each once. */
  readonly findings: readonly RuleKey[];
}

export interface Answer {
  readonly asked: {
    readonly who: NamedHolder | undefined;
    readonly where: { readonly kind: "door" | "area"; readonly id: string; readonly name: string } | undefined;
  };
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
}

/** The answer to a question, or that no view answers it yet, with its parts in words. */
export type AskedAnswer =
  | { readonly outcome: "answered"; readonly answerable: AnswerableInquiry; readonly answer: Answer }
  | { readonly outcome: "not-answered-yet"; readonly words: { readonly who: string; readonly where: string } };

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
  readonly week: IntervalSet;
  readonly words: string;
  /** The same with every exception named; can be read back to the timetable. */
  readonly fullWords: string;
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
}

/** What must go before a door no longer opens for a holder. */
export interface ShutPlan {
  readonly withdrawal: ShownWithdrawal;
  /** What a draft would be asked to take away, for those who may edit drafts; undefined where there is nothing to take away. */
  readonly toWithdraw: AskedWithdrawal | undefined;
  /** What would have to be ended to shut it without a block; empty where nothing comes with the department. */
  readonly withoutBlock: readonly GroupRemoval[];
  /** Names of what would have to be ended, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
}
