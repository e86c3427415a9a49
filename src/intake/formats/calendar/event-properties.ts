import ICAL from "ical.js";
import type { TextLine } from "./calendar-text";

/** A property of an event or a calendar: its parameters and values as the library reads them, and the text of its value as it is written. */
export interface CalendarProperty {
  readonly line: number;
  readonly name: string;
  readonly parameters: Readonly<Record<string, string | readonly string[]>>;
  readonly type: string;
  /** As jCal has them (RFC 7265): dates and times as texts of ISO 8601. */
  readonly values: readonly unknown[];
  readonly written: string;
}

/** A line that is no property: which, and why. */
export class UnreadLine extends Error {
  constructor(
    readonly line: number,
    reason: string,
  ) {
    super(reason);
  }
}

/** What follows the colon that ends a property's name and parameters; one in quotation marks does not. */
function valueOf(text: string): string {
  let isQuoted = false;
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') isQuoted = !isQuoted;
    else if (text[i] === ":" && !isQuoted) return text.slice(i + 1).trim();
  }
  return "";
}

const quotedLength = 60;

/** The properties of some lines. Throws `UnreadLine` at the first that is none. */
export function propertiesOf(lines: readonly TextLine[]): CalendarProperty[] {
  return lines.map(({ line, text }) => {
    // A recurrence rule is read from its text: the library makes something of one that is faulty.
    const [, rule] = /^(RRULE|EXRULE)[;:]/i.exec(text) ?? [];
    if (rule !== undefined) return { line, name: rule.toLowerCase(), parameters: {}, type: "recur", values: [], written: valueOf(text) };
    let parsed: unknown;
    try {
      parsed = ICAL.parse.property(text, ICAL.design.icalendar);
    } catch (error) {
      throw new UnreadLine(line, `line ${line} is ${JSON.stringify(text.slice(0, quotedLength))}, which cannot be read (${(error as Error).message})`);
    }
    const [name, parameters, type, ...values] = parsed as [string, CalendarProperty["parameters"], string, ...unknown[]];
    return { line, name, parameters, type, values, written: valueOf(text) };
  });
}

export const allNamed = (properties: readonly CalendarProperty[], name: string): readonly CalendarProperty[] => properties.filter((one) => one.name === name);

/** The text of a property; undefined where there is none. */
export function textOf(properties: readonly CalendarProperty[], name: string): string | undefined {
  const value = properties.find((one) => one.name === name)?.values[0];
  return value === undefined || value === null ? undefined : typeof value === "string" ? value : JSON.stringify(value);
}
