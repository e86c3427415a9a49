import type { AddressParts, UnknownPart } from "@/core/questions/question-address";
import type { Account } from "@/operations/ports/accounts";
import { asking } from "../nomade";

/** The question that an address holds, read in the snapshot that it asks; undefined where there is no register, or no such snapshot. */
export async function readAsked(account: Account, parts: AddressParts): ReturnType<typeof asking.readInquiry> {
  const presently = await asking.readInquiry(account, undefined, parts);
  const wanted = presently?.ok ? presently.value.inquiry.snapshot : undefined;
  return wanted === undefined ? presently : asking.readInquiry(account, wanted, parts);
}

/** What is answered to an address of which some parts are not understood. */
export const notUnderstood = (parts: readonly UnknownPart[]): Response =>
  Response.json({ error: `Not understood: ${parts.map(({ key, text }) => `${key}=${text}`).join(", ")}.` }, { status: 400 });
