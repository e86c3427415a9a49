import type { ListKey } from "@/core/facility/document";
import { isZoneName } from "@/core/time/zone";
import { tagOrTagged } from "@/intake/formats/tables/read-bundle";
import { numberExpected, readCardNumber } from "./card-numbers";
import { readClock, readHours, readInterval, readWeekdays } from "./hours";
import type { ReadInterval } from "./hours";
import { momentText } from "./moments";
import { plainMeaning } from "./plain-values";
import type { FieldSource } from "./source-profile";
import type { TargetField } from "./target-fields";
import { partOf, turnedName } from "./text-parts";

/** An object of another list as a cell names it. */
export interface Named {
  readonly names: ListKey;
  /** The field that the text is of; undefined: what its list is known by. */
  readonly by: string | undefined;
  readonly text: string;
}

export const isNamed = (value: unknown): value is Named => typeof value === "object" && value !== null && "names" in value;

/** What a field is: null says that there is none, which is more than saying nothing. */
export type FieldValue = string | number | boolean | null | Named | readonly (string | Named)[];

/** A field read from a row: by the name of a field its value; each entry makes an object of its own. Empty: the row says nothing of it. */
export type ReadField = { readonly entries: readonly Readonly<Record<string, FieldValue>>[] } | { readonly expected: string; readonly value: string };

export interface ReadingContext {
  /** The zone of times that name none. */
  readonly zone: string;
  readonly tagOfPin: (pin: string) => string;
}

const wholeNumber = /^-?\d{1,15}$/;

const lineBreaks = /[\r\n]+/;
/** No moment, interval, weekday or number is longer: what is read by patterns is not searched through without measure. */
const longestRead = 1000;

/** The texts of the columns of a field together, and the items of it where several stand in one cell; none where all are empty. */
export function itemsOfField(cells: readonly string[], { join = " ", split }: FieldSource): string[] {
  const joined = cells
    .map((cell) => cell.trim())
    .filter((cell) => cell !== "")
    .join(join);
  if (joined === "") return [];
  return split === undefined
    ? [joined]
    : joined
        .split(split === "" ? lineBreaks : split)
        .map((item) => item.trim())
        .filter((item) => item !== "");
}

/** An item after its part is taken, turning and case; undefined where it has no such part. */
export function refined(item: string, { part, turned, case: letters }: FieldSource): string | undefined {
  const taken = part ? partOf(item, part) : item;
  if (taken === undefined) return undefined;
  const text = turned ? turnedName(taken) : taken;
  return letters === "lower" ? text.toLowerCase() : letters === "upper" ? text.toUpperCase() : text;
}

/**
 * Reads a field of the document from the cells of its columns. What does not fit is told with what was expected; nothing is guessed beyond what the profile
 * says and what plainly is a value of the document.
 */
export function readField(cells: readonly string[], source: FieldSource, target: TargetField, blocks: boolean, context: ReadingContext): ReadField {
  const { name, reads } = target;
  const items = source.constant === undefined ? itemsOfField(cells, source) : [source.constant];
  const texts: string[] = [];
  for (const item of items) {
    const text = source.constant === undefined ? refined(item, source) : item;
    if (text === undefined) return { expected: "a text that has the part which the profile takes", value: reads.kind === "pin" ? "" : item };
    if (text !== "") texts.push(text);
  }
  if (texts.length === 0 && source.otherwise !== undefined && source.otherwise !== "") texts.push(source.otherwise);
  if (texts.length === 0) {
    // An empty cell may mean something: an end that never comes, or a value of the list.
    const meaning = source.values && Object.hasOwn(source.values, "") ? source.values[""] : undefined;
    const isNever = source.moment?.never?.includes("") ?? false;
    if (meaning === null || isNever) return one(name, null);
    return meaning === undefined ? { entries: [] } : readText(meaning, source, target, blocks, context);
  }
  if (reads.kind === "texts" || reads.kind === "references") return readList(texts, source, target);
  const entries: Readonly<Record<string, FieldValue>>[] = [];
  for (const text of texts) {
    const read = readText(text, source, target, blocks, context);
    if ("expected" in read) return read;
    entries.push(...read.entries);
  }
  return { entries };
}

/** What a text is by the values that the profile maps. */
const mappedText = (text: string, { values }: FieldSource): string | null => (values && Object.hasOwn(values, text) ? (values[text] ?? null) : text);

function readList(texts: readonly string[], source: FieldSource, { name, column, reads }: TargetField): ReadField {
  const items = texts.map((text) => mappedText(text, source)).filter((text) => text !== null);
  if (column?.kind === "sites" && items.length === 1 && items[0] === "everywhere") return one(name, true);
  return one(name, reads.kind === "references" ? items.map((text): Named => ({ names: reads.list, by: source.by, text })) : items);
}

const one = (name: string, value: FieldValue): ReadField => ({ entries: [{ [name]: value }] });

function readText(text: string, source: FieldSource, { name, column, reads }: TargetField, blocks: boolean, context: ReadingContext): ReadField {
  const refuse = (expected: string): ReadField => ({ expected, value: reads.kind === "pin" ? "" : text });
  const value = mappedText(text, source);
  if (value === null) return one(name, null);
  const key = column?.name ?? name;
  if (value.length > longestRead && reads.kind !== "text" && reads.kind !== "reference")
    return refuse(`at most ${longestRead.toLocaleString("en-GB")} characters`);
  switch (reads.kind) {
    case "closed":
      return reads.values.includes(value) ? one(name, value) : refuse(`${reads.values.join(", ")}, or a value that the profile says the meaning of`);
    case "flag":
      return value === "true" || value === "false" ? one(name, value === "true") : refuse("true or false, or a value that the profile says the meaning of");
    case "number":
      return wholeNumber.test(value) ? one(name, Number(value)) : refuse("a whole number");
    case "zone":
      return isZoneName(value) ? one(name, value) : refuse("a zone of the IANA database such as Europe/Paris");
    case "reference":
      return one(name, { names: reads.list, by: source.by, text: value });
    case "references":
    case "texts":
      return readList([text], source, { name, column, reads });
    case "date":
    case "moment":
    case "instant": {
      const moment = momentText(value, source.moment ?? { forms: ["iso"] }, { kind: reads.kind, side: reads.side, blocks }, context.zone);
      return "expected" in moment ? refuse(moment.expected) : one(name, moment.value);
    }
    case "clock": {
      if (source.hours?.never?.includes(value)) return { entries: [] };
      const minute = readClock(value, name === "end");
      // Whether both ends make an interval is seen when both are read.
      return minute === undefined ? refuse("a time of day such as 07:00, 0700, 7.00 or 07:00 AM") : one(name, value);
    }
    case "hours": {
      const hours = readHours(value, source.hours ?? {});
      return "expected" in hours ? refuse(hours.expected) : { entries: hours.intervals.map(intervalFields) };
    }
    case "weekday": {
      const days = readWeekdays(value, source.weekdays);
      return days
        ? { entries: days.map((day) => ({ weekday: day })) }
        : refuse("a weekday, by its name in English, German, French, Spanish or Dutch, or by a number that the profile says the meaning of");
    }
    case "card-number": {
      const number = readCardNumber(value, source.number);
      if (!number) return refuse(source.number ? numberExpected[source.number] : "a number");
      return { entries: [{ [name]: number.number, ...(number.facilityCode !== undefined && { facilityCode: number.facilityCode }) }] };
    }
    case "pin": {
      // In a file that waited, tags stand in the place of PINs.
      const tag = tagOrTagged(value, context.tagOfPin);
      return (source.noPin ?? []).some((none) => context.tagOfPin(none) === tag) ? one("pinTag", null) : one("pinTag", tag);
    }
    case "text":
      return one(key, value);
  }
}

/** The fields of a row of hours; a day that stays shut has a row without times. */
export const intervalFields = (interval: ReadInterval): Readonly<Record<string, FieldValue>> =>
  interval ? { start: interval[0], end: interval[1] } : { start: null, end: null };

/** A start and an end that stand in two columns, as the document writes them. */
export const intervalOfTwo = (start: string, end: string, source: FieldSource | undefined): ReadField => {
  const read = readInterval(start, end, source?.hours ?? {});
  return "expected" in read ? { expected: read.expected, value: `${start}-${end}` } : { entries: [intervalFields(read.interval)] };
};

/** What a value of a closed list or a flag plainly means, to be suggested. */
export const suggestedMeaning = (table: string, { name, reads }: TargetField, text: string): string | undefined =>
  reads.kind === "flag" ? plainMeaning("flag", text) : reads.kind === "closed" ? plainMeaning(`${table}.${name}`, text) : undefined;
