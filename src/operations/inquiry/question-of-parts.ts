import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Result } from "@/core/kernel/result";
import { failure } from "@/core/kernel/result";
import { calendarAt } from "@/core/paths/paths";
import { readQuestion } from "@/core/questions/question-address";
import type { AddressParts, UnknownPart } from "@/core/questions/question-address";
import type { Question } from "@/core/questions/question";
import { readWhen } from "@/core/questions/read-when";
import { whenOfAddress } from "@/core/questions/when-address";
import { usualParts } from "@/core/questions/when-context";
import type { WhenContext } from "@/core/questions/when-context";
import type { WhenRefusal } from "@/core/questions/when-piece";
import type { EpochMinute } from "@/core/time/instant";
import { zoneOf } from "@/core/time/zone";

/** What times are read against in a register: its sites, their clocks and calendars. */
export function whenContext(compiled: CompiledFacility, now: EpochMinute): WhenContext {
  const { facility, indexes, vocabulary } = compiled;
  const sites = facility.sites.map(({ id, timeZone, calendar }) => ({
    id,
    zone: zoneOf(timeZone),
    calendar: calendarAt(compiled, calendar === undefined ? undefined : indexes.of("calendars").get(calendar)),
  }));
  return { now, zone: vocabulary.zone, sites, parts: usualParts };
}

/** A part of an address that is not understood, and of a time what of it is. */
export interface UnreadPart extends UnknownPart {
  readonly refusal?: WhenRefusal;
}

/**
 * The question that an address holds, times as they are written there or as somebody would type them at a minute; or every part that is not understood.
 */
export function questionOfParts(compiled: CompiledFacility, parts: AddressParts, now: EpochMinute): Result<Question, readonly UnreadPart[]> {
  let refusal: WhenRefusal | undefined;
  const question = readQuestion(parts, (text) => {
    const written = whenOfAddress(text);
    if (written) return written;
    const meant = readWhen(text, whenContext(compiled, now));
    if (!meant.ok) refusal = meant.error;
    return meant.ok ? meant.value : undefined;
  });
  if (!question.ok) return failure(question.error.map((part) => (part.key === "when" && refusal ? { ...part, refusal } : part)));
  return question;
}
