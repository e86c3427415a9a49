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

/**
 * The question that an address holds, as one answer can be given to it: a past time is asked of the snapshot that stood then. What is not understood, not
 * there, or of several snapshots is refused by name.
 */
export async function readAnswerable(account: Account, parts: AddressParts): Promise<Response | { readonly inquiry: Inquiry; readonly names: QuestionNames }> {
  const read = await readAsked(account, parts);
  if (read && !read.ok) return refuse(`Not understood: ${read.error.map(({ key, text }) => `${key}=${text}`).join(", ")}.`, 400);
  if (!read?.value.isThere) return refuse("The register does not hold who or where.", 404);
  const { inquiry, names } = read.value;
  const times = await asking.timesOfInquiry(account, undefined, inquiry);
  if (times?.outcome === "past" && times.parts.length === 1) return { inquiry: { ...inquiry, snapshot: times.parts[0]?.snapshot }, names };
  if (times && times.outcome !== "present") return refuse("This time lies over several snapshots: name one of them, such as snapshot=2.", 400);
  return { inquiry, names };
}
