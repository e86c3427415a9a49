import type { Credential } from "../facility/document";
import { credentialLabel } from "../facility/labels";
import { open26 } from "./card-box";

/** Something about a card that is allowed and seldom meant, or, where it is a fault, that no card can bear. */
export interface CardDoubt {
  readonly field: "cardholder" | "facilityCode" | "number" | "printedNumber";
  readonly message: string;
  readonly isFault: boolean;
}

/** `00123` and `123` are one number to a reader. */
const plainNumber = (text: string): string => text.replace(/^0+(?=\d)/, "");
const codeAndNumber = ({ facilityCode, number }: Credential): string | undefined =>
  number === undefined ? undefined : `${plainNumber(facilityCode ?? "")} ${plainNumber(number)}`;

/** What the format of a card cannot hold. */
function notHeld({ bitFormat, facilityCode, number }: Credential): CardDoubt[] {
  if (bitFormat !== open26.name) return [];
  const beyond = (field: "facilityCode" | "number", value: string | undefined, limit: number): CardDoubt[] =>
    value === undefined || (/^\d+$/.test(value) && Number(value) < limit)
      ? []
      : [{ field, isFault: true, message: `Found "${value}"; expected a number up to ${limit - 1}, which is all that the 26-bit format can hold there.` }];
  return [...beyond("facilityCode", facilityCode, open26.facilityCodes), ...beyond("number", number, open26.numbers)];
}

/**
 * What should be asked about a card before it is put in: that nobody holds it, that its format cannot hold its numbers, that another card
 * has its number or bears it in print. `others` may hold the card itself, which is known by its id.
 */
export function doubtsOfCard(card: Credential, others: Iterable<Credential>): CardDoubt[] {
  const doubts = notHeld(card);
  if (card.cardholder === undefined)
    doubts.push({ field: "cardholder", isFault: false, message: "Nobody holds it: what is granted to it opens for whoever has it in hand." });
  const [number, printed] = [codeAndNumber(card), card.printedNumber && plainNumber(card.printedNumber)];
  for (const other of others) {
    if (other.id === card.id) continue;
    const told = `${credentialLabel(other)} (${other.id})`;
    if (number !== undefined && codeAndNumber(other) === number)
      doubts.push({ field: "number", isFault: false, message: `${told} has the same number${card.facilityCode === undefined ? "" : " and facility code"}.` });
    if (printed !== undefined && printed !== "" && other.printedNumber !== undefined && plainNumber(other.printedNumber) === printed)
      doubts.push({ field: "printedNumber", isFault: false, message: `${told} bears the same number in print.` });
  }
  return doubts;
}
