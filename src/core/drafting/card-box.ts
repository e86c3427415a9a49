import type { Credential } from "../facility/document";

/** A box of cards of one facility code with consecutive numbers, as it comes from the maker. */
export interface CardBox {
  readonly kind: Credential["kind"];
  readonly status: Credential["status"];
  readonly bitFormat: string | undefined;
  readonly facilityCode: string;
  /** First and last number, as written; zeros at the front are kept. */
  readonly first: string;
  readonly last: string;
  /** The number printed on the first card where it is another than the encoded one; the others follow it. */
  readonly printedFirst: string | undefined;
}

export interface BoxFault {
  readonly field: "facilityCode" | "first" | "last" | "printedFirst" | "bitFormat";
  readonly value: string;
  readonly expected: string;
}

/** More cards than this do not come in one box; a slip of the keyboard does. */
export const mostCardsInABox = 5000;

/**
 * The open 26-bit format: 8 bits of facility code, 16 bits of number, an even parity bit over the first twelve of these before
 * them and an odd one over the last twelve behind (common practice, no source).
 */
export const open26 = { name: "26", facilityCodes: 2 ** 8, numbers: 2 ** 16 } as const;

/** The 26 bits that a card of the open format holds, first bit sent first; undefined where facility code or number do not fit. */
export function bitsOf26(facilityCode: number, number: number): string | undefined {
  const fits =
    Number.isInteger(facilityCode) &&
    Number.isInteger(number) &&
    facilityCode >= 0 &&
    number >= 0 &&
    facilityCode < open26.facilityCodes &&
    number < open26.numbers;
  if (!fits) return undefined;
  const data = facilityCode.toString(2).padStart(8, "0") + number.toString(2).padStart(16, "0");
  const ones = (bits: string): number => [...bits].filter((bit) => bit === "1").length;
  return `${ones(data.slice(0, 12)) % 2}${data}${1 - (ones(data.slice(12)) % 2)}`;
}

const digits = /^\d{1,15}$/;
const padded = (number: number, like: string): string => String(number).padStart(like.length, "0");

/** What is wrong with a box, all of it. */
export function faultsOf({ facilityCode, first, last, printedFirst, bitFormat }: CardBox): BoxFault[] {
  const faults: BoxFault[] = [];
  const is26 = bitFormat === open26.name;
  const check = (field: BoxFault["field"], value: string, limit: number | undefined): void => {
    if (!digits.test(value)) faults.push({ field, value, expected: "a whole number" });
    else if (limit !== undefined && Number(value) >= limit)
      faults.push({ field, value, expected: `a number up to ${limit - 1}, which is all that the 26-bit format can hold there` });
  };
  check("facilityCode", facilityCode, is26 ? open26.facilityCodes : undefined);
  check("first", first, is26 ? open26.numbers : undefined);
  check("last", last, is26 ? open26.numbers : undefined);
  if (printedFirst !== undefined && !digits.test(printedFirst))
    faults.push({ field: "printedFirst", value: printedFirst, expected: "a whole number, or nothing" });
  if (faults.some(({ field }) => field === "first" || field === "last")) return faults;
  const count = Number(last) - Number(first) + 1;
  if (count < 1) faults.push({ field: "last", value: last, expected: `a number from ${first} on` });
  else if (count > mostCardsInABox) faults.push({ field: "last", value: last, expected: `at most ${mostCardsInABox} cards in a box; these are ${count}` });
  return faults;
}

/** The cards of a box without fault, in the order of their numbers. Ids are made of facility code and number. */
export function cardsOf({ kind, status, bitFormat, facilityCode, first, last, printedFirst }: CardBox): Credential[] {
  return Array.from({ length: Number(last) - Number(first) + 1 }, (_, i) => {
    const number = padded(Number(first) + i, first);
    return {
      id: `${kind}-${facilityCode}-${number}`,
      kind,
      status,
      ...(bitFormat !== undefined && { bitFormat }),
      facilityCode,
      number,
      ...(printedFirst !== undefined && { printedNumber: padded(Number(printedFirst) + i, printedFirst) }),
    };
  });
}
