import type { PastPart } from "@/core/questions/past-parts";
import type { AddressParts } from "@/core/questions/question-address";
import type { Account } from "@/operations/ports/accounts";
import { registerOf } from "@/operations/inquiry/inquiry";
import type { Inquiry, QuestionNames } from "@/operations/inquiry/inquiry";
import { asking } from "../nomade";
import { refuse } from "./route";

export { registerOf };

/** The question that an address holds, read in the register that it asks; undefined where there is none, or no such snapshot or draft. */
export async function readAsked(account: Account, parts: AddressParts): ReturnType<typeof asking.readInquiry> {
  const presently = await asking.readInquiry(account, undefined, parts);
  const wanted = presently?.ok ? registerOf(presently.value.inquiry) : undefined;
  return wanted === undefined ? presently : asking.readInquiry(account, wanted, parts);
}

interface TimedQuestion {
  readonly inquiry: Inquiry;
  readonly names: QuestionNames;
  /** The parts of a past time that lies over several snapshots; empty where one register answers. */
  readonly parts: readonly PastPart[];
}

/**
 * The question that an address holds, with the snapshots that answer it: a past time is asked of those that stood in it. What is not understood, not there,
 * or of too many snapshots is refused by name.
 */
export async function readTimed(account: Account, parts: AddressParts): Promise<Response | TimedQuestion> {
  const read = await readAsked(account, parts);
  if (read && !read.ok) return refuse(`Not understood: ${read.error.map(({ key, text }) => `${key}=${text}`).join(", ")}.`, 400);
  if (!read?.value.isThere) return refuse("The register does not hold who or where.", 404);
  const { inquiry, names } = read.value;
  const times = await asking.timesOfInquiry(account, undefined, inquiry);
  if (times?.outcome === "too-many") return refuse(`This time lies over ${times.count} snapshots: name one of them, such as snapshot=2.`, 400);
  if (times?.outcome !== "past") return { inquiry, names, parts: [] };
  const [only, ...others] = times.parts;
  return others.length > 0 ? { inquiry, names, parts: times.parts } : { inquiry: { ...inquiry, snapshot: only?.snapshot }, names, parts: [] };
}

/** The same as one register can answer it: a time that lies over several is refused. */
export async function readAnswerable(account: Account, parts: AddressParts): Promise<Response | Pick<TimedQuestion, "inquiry" | "names">> {
  const timed = await readTimed(account, parts);
  return timed instanceof Response || timed.parts.length === 0
    ? timed
    : refuse("This time lies over several snapshots: name one of them, such as snapshot=2.", 400);
}
