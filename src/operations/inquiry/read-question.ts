import type { Result } from "@/core/kernel/result";
import { failure, success } from "@/core/kernel/result";
import { readQuestion } from "@/core/questions/question-address";
import type { AddressParts, UnknownPart } from "@/core/questions/question-address";
import type { WhenRefusal } from "@/core/questions/when-piece";
import { readWhen } from "@/core/questions/read-when";
import { whenOfAddress } from "@/core/questions/when-address";
import { usualParts } from "@/core/questions/when-context";
import type { WhenContext } from "@/core/questions/when-context";
import type { When } from "@/core/questions/when";
import { calendarAt } from "@/core/paths/paths";
import { zoneOf } from "@/core/time/zone";
import type { Inquiry, QuestionNames } from "./inquiry";
import { minuteNow } from "./inquiry-context";
import { isAbout, namesOfQuestion } from "./inquiry-names";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** What times are read against in a register: its sites, their clocks and calendars. */
function whenContext(services: Services, { compiled }: OpenRegister): WhenContext {
  const { facility, indexes, vocabulary } = compiled;
  const sites = facility.sites.map(({ id, timeZone, calendar }) => ({
    id,
    zone: zoneOf(timeZone),
    calendar: calendarAt(compiled, calendar === undefined ? undefined : indexes.of("calendars").get(calendar)),
  }));
  return { now: minuteNow(services), zone: vocabulary.zone, sites, parts: usualParts };
}

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
  const context = whenContext(services, register);
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

/** A part of an address that is not understood, and of a time what of it is. */
export interface UnreadPart extends UnknownPart {
  readonly refusal?: WhenRefusal;
}

/** A question as an address holds it, with who and where by name. */
export interface ReadInquiry {
  readonly inquiry: Inquiry;
  readonly names: QuestionNames;
  /** Whether the register holds whoever and whatever is named. */
  readonly isThere: boolean;
}

/** The question that an address holds, times as they are written there or as somebody would type them; or every part that is not understood. */
export function readInquiry(services: Services, account: Account, register: OpenRegister, parts: AddressParts): Result<ReadInquiry, readonly UnreadPart[]> {
  demand(account, "ask");
  let refusal: WhenRefusal | undefined;
  const question = readQuestion(parts, (text) => {
    const written = whenOfAddress(text);
    if (written) return written;
    const meant = readWhen(text, whenContext(services, register));
    if (!meant.ok) refusal = meant.error;
    return meant.ok ? meant.value : undefined;
  });
  if (!question.ok) return failure(question.error.map((part) => (part.key === "when" && refusal ? { ...part, refusal } : part)));
  const inquiry = question.value;
  return success({ inquiry, names: namesOfQuestion(register.compiled, inquiry), isThere: isAbout(register.compiled, inquiry) });
}
