import type { Result } from "@/core/kernel/result";
import { success } from "@/core/kernel/result";
import type { AddressParts } from "@/core/questions/question-address";
import type { WhenRefusal } from "@/core/questions/when-piece";
import { readWhen } from "@/core/questions/read-when";
import type { When } from "@/core/questions/when";
import type { Inquiry, QuestionNames } from "./inquiry";
import { minuteNow } from "./inquiry-context";
import { isAbout, namesOfQuestion } from "./inquiry-names";
import { questionOfParts, whenContext } from "./question-of-parts";
import type { UnreadPart } from "./question-of-parts";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** A time that somebody may mean, as it was typed or offered. */
export interface ReadTime {
  readonly typed: string;
  readonly when: When;
}

/** What a typed time means, or why it has no one meaning; and standing times of which what was typed is a part. */
export interface ReadTimes {
  readonly read: ReadTime | undefined;
  readonly refusal: WhenRefusal | undefined;
  readonly offered: readonly ReadTime[];
}

const standing = ["now", "any time", "nights", "weekends", "out of hours", "public holidays", "tonight", "tomorrow", "next week"];

/** Reads a time as somebody types it. */
export function readTimes(services: Services, account: Account, register: OpenRegister, typed: string): ReadTimes {
  demand(account, "ask");
  const context = whenContext(register.compiled, minuteNow(services));
  const wanted = typed.trim().toLowerCase();
  const offered = standing
    .filter((words) => words !== wanted && words.includes(wanted))
    .flatMap((words): ReadTime[] => {
      const meant = readWhen(words, context);
      return meant.ok ? [{ typed: words, when: meant.value }] : [];
    });
  if (wanted === "") return { read: undefined, refusal: undefined, offered };
  const meant = readWhen(typed, context);
  return meant.ok ? { read: { typed: typed.trim(), when: meant.value }, refusal: undefined, offered } : { read: undefined, refusal: meant.error, offered };
}

/** A question as an address holds it, with who and where by name. */
export interface ReadInquiry {
  readonly inquiry: Inquiry;
  readonly names: QuestionNames;
  /** Whether the register holds whoever and whatever is named. */
  readonly isThere: boolean;
}

/** The question that an address holds as it is asked now, with who and where by name. */
export function readInquiry(services: Services, account: Account, register: OpenRegister, parts: AddressParts): Result<ReadInquiry, readonly UnreadPart[]> {
  demand(account, "ask");
  const question = questionOfParts(register.compiled, parts, minuteNow(services));
  if (!question.ok) return question;
  const inquiry = question.value;
  return success({ inquiry, names: namesOfQuestion(register.compiled, inquiry), isThere: isAbout(register.compiled, inquiry) });
}
