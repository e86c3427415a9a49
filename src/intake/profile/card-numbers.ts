import type { NumberForm } from "./source-profile";

export interface CardNumber {
  readonly facilityCode?: string;
  readonly number: string;
}

const withoutZeros = (digits: string): string => digits.replace(/^0+(?=\d)/, "");

/**
 * The number of a card as a source writes it, in decimal digits; undefined where it is not of that form. The open 26-bit format has 8 bits of facility
 * code and 16 bits of number (common practice, no source).
 */
export function readCardNumber(text: string, form: NumberForm | undefined): CardNumber | undefined {
  switch (form) {
    case undefined:
      return { number: text };
    case "hexadecimal": {
      const [, digits] = /^(?:0x)?([0-9a-f]{1,64})h?$/i.exec(text.replace(/[\s:]/g, "")) ?? [];
      return digits === undefined ? undefined : { number: BigInt(`0x${digits}`).toString() };
    }
    case "code-and-number": {
      const [, code, number] = /^(\d{1,20})\s*[-:/.,\s]\s*(\d{1,40})$/.exec(text) ?? [];
      return code === undefined || number === undefined ? undefined : { facilityCode: withoutZeros(code), number: withoutZeros(number) };
    }
    case "26-bit": {
      const value = /^\d{1,8}$/.test(text) ? Number(text) : Infinity;
      return value >= 2 ** 24 ? undefined : { facilityCode: String(Math.floor(value / 2 ** 16)), number: String(value % 2 ** 16) };
    }
  }
}

export const numberExpected: Readonly<Record<NumberForm, string>> = {
  hexadecimal: "a number in hexadecimal digits",
  "code-and-number": "facility code and number with a sign between them, such as 012-34567",
  "26-bit": "facility code and number as one number of the open 26-bit format, below 16,777,216",
};
