import { parse } from "csv-parse";
import type { Readable } from "node:stream";
import Joi from "joi";
import type { ToldEvent } from "@/core/events/event-book";
import { parseInstant, minuteDown } from "@/core/time/instant";

/** One row of a file of events; `at` in minutes since 1970-01-01T00:00Z. */
export interface ReadEvent {
  readonly at: number;
  readonly door: string;
  readonly credential: string;
  readonly result: "granted" | "refused";
  readonly reason: string | undefined;
}

/** A row that cannot be read: where, and what was expected. */
export class EventRowError extends Error {
  constructor(
    readonly line: number,
    readonly column: string,
    message: string,
  ) {
    super(`Line ${line}, column ${column}: ${message}`);
  }
}

const columns = ["at", "door", "credential", "result"] as const;
/** What a row of events must be; its instant is read afterwards. */
export const rowSchema = Joi.object({
  at: Joi.string().required(),
  door: Joi.string().max(128).required(),
  credential: Joi.string().max(128).required(),
  result: Joi.valid("granted", "refused").required(),
  reason: Joi.string().allow("").max(64),
}).unknown();

/** A value as it is quoted in a message: short, whatever it is. */
function quoted(value: unknown): string {
  try {
    return JSON.stringify(value).slice(0, 60);
  } catch {
    return "something nested too deeply to be shown";
  }
}

const isText = (value: unknown, longest: number): boolean => typeof value === "string" && value.length > 0 && value.length <= longest;

/** Whether a row is plainly as the schema wants it; what is not goes to the schema, which knows what to say. */
export const isPlainlyValid = ({ at, door, credential, result, reason }: Readonly<Record<string, unknown>>): boolean =>
  isText(at, Infinity) &&
  isText(door, 128) &&
  isText(credential, 128) &&
  (result === "granted" || result === "refused") &&
  (reason === undefined || reason === "" || isText(reason, 64));

/** A text of a row; an empty one is missing. Throws where it is no text. */
function textOf(record: Readonly<Record<string, unknown>>, name: string, line: number): string | undefined {
  const value = Object.hasOwn(record, name) ? record[name] : undefined;
  if (value === undefined || value === "") return undefined;
  if (typeof value !== "string") throw new EventRowError(line, name, `found ${quoted(value)}; expected a text.`);
  return value;
}

/** The event that a row tells, with all that it may say of a card; throws where it tells none. Source: `findings.md`, 2.1. */
function toldEventOf(record: Readonly<Record<string, unknown>>, line: number): ToldEvent {
  const needed = (name: string, expected: string): string => {
    const text = textOf(record, name, line);
    if (text === undefined) throw new EventRowError(line, name, `nothing is here; expected ${expected}.`);
    return text;
  };
  const written = needed("at", "an instant such as 2026-03-02T08:00:00Z");
  const at = parseInstant(written);
  if (!at) throw new EventRowError(line, "at", `found ${quoted(written)}; expected an instant such as 2026-03-02T08:00:00Z.`);
  const door = needed("door", "the id of a door");
  const result = needed("result", "granted or refused");
  if (result !== "granted" && result !== "refused") throw new EventRowError(line, "result", `found ${quoted(result)}; expected granted or refused.`);
  const [credential, number, facilityCode, reason, id] = ["credential", "number", "facilityCode", "reason", "id"].map((name) => textOf(record, name, line));
  if (credential === undefined && number === undefined)
    throw new EventRowError(line, "credential", "neither a credential nor a number is here; expected one of them.");
  return {
    second: at.seconds,
    door,
    granted: result === "granted",
    ...(credential !== undefined && { credential }),
    ...(number !== undefined && { number }),
    ...(facilityCode !== undefined && { facilityCode }),
    ...(reason !== undefined && { reason }),
    ...(id !== undefined && { id }),
  };
}

/** The event that a row says; throws where it says none. */
function eventOf(record: Readonly<Record<string, unknown>>, line: number): ReadEvent {
  const error = isPlainlyValid(record) ? undefined : rowSchema.validate(record, { convert: false }).error;
  const detail = error?.details[0];
  if (detail) throw new EventRowError(line, String(detail.path[0]), `${detail.message}; found ${quoted(record[String(detail.path[0])] ?? "")}.`);
  const { at: text, door, credential, result, reason } = record as Record<string, string>;
  const at = parseInstant(text ?? "");
  if (!at) throw new EventRowError(line, "at", `found ${quoted(text)}; expected an instant such as 2026-03-02T08:00:00Z.`);
  return {
    at: minuteDown(at),
    door: door ?? "",
    credential: credential ?? "",
    result: result as ReadEvent["result"],
    reason: reason === "" ? undefined : reason,
  };
}

const longestLine = 64 * 1024;

const tooLong = (line: number): EventRowError => new EventRowError(line, "any", `it is longer than ${longestLine} characters; expected one event.`);

/** Lines of a stream of UTF-8, without their ends; one that is too long is refused while it is read. */
async function* linesOf(input: Readable): AsyncGenerator<{ readonly line: number; readonly text: string }> {
  const decoder = new TextDecoder("utf-8", { fatal: true });
  let line = 1;
  let rest = "";
  try {
    for await (const chunk of input as AsyncIterable<Buffer>) {
      const parts = (rest + decoder.decode(chunk, { stream: true })).split("\n");
      rest = parts.pop() ?? "";
      for (const text of parts) {
        if (text.length > longestLine) throw tooLong(line);
        yield { line: line++, text };
      }
      if (rest.length > longestLine) throw tooLong(line);
    }
    rest += decoder.decode();
  } catch (error) {
    if ((error as { code?: string }).code === "ERR_ENCODING_INVALID_ENCODED_DATA")
      throw new EventRowError(line, "any", "this is no UTF-8; expected JSON Lines in UTF-8.");
    throw error;
  }
  if (rest.trim() !== "") yield { line, text: rest };
}

/** What a row of a file says, by its columns. */
type RowReader<Event> = (record: Readonly<Record<string, unknown>>, line: number) => Event;

/** Streams events from JSON Lines: an object a line. */
async function* readEventLines<Event>(input: Readable, eventOf: RowReader<Event>): AsyncGenerator<Event> {
  for await (const { line, text } of linesOf(input)) {
    if (text.trim() === "") continue;
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      throw new EventRowError(line, "any", `found ${quoted(text)}; expected an object of JSON.`);
    }
    if (typeof value !== "object" || value === null || Array.isArray(value))
      throw new EventRowError(line, "any", `found ${quoted(value)}; expected an object of JSON.`);
    yield eventOf(value as Record<string, unknown>, line);
  }
}

/** Streams events from CSV (RFC 4180) with a header that names these columns, and others, in any order. */
async function* readEventTable<Event>(input: Readable, columns: readonly string[], eventOf: RowReader<Event>): AsyncGenerator<Event> {
  const parser = input.pipe(parse({ bom: true, columns: true, info: true, skip_empty_lines: true, max_record_size: longestLine }));
  input.once("error", (error) => parser.destroy(error));
  let checkedHeader = false;
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: Record<string, string>; info: { lines: number } }>) {
      if (!checkedHeader) {
        const missing = columns.filter((column) => !(column in record));
        if (missing.length > 0)
          throw new EventRowError(1, missing[0] ?? "", `the header has no such column; expected ${columns.join(", ")} and, if known, reason.`);
        checkedHeader = true;
      }
      yield eventOf(record, info.lines);
    }
  } catch (error) {
    if (error instanceof EventRowError) throw error;
    const { lines, message } = error as { lines?: number; message: string };
    throw new EventRowError(lines ?? 0, "any", `this is no CSV that can be read (${message}).`);
  }
}

export type EventForm = "csv" | "jsonl";

/** Streams events from a file of either form; throws `EventRowError` at the first row that is none. */
export const readEvents = (input: Readable, form: EventForm = "csv"): AsyncGenerator<ReadEvent> =>
  form === "jsonl" ? readEventLines(input, eventOf) : readEventTable(input, columns, eventOf);

/** The same with all that an event may say of a card: its credential, or a number and facility code, and an id of its own. */
export const readToldEvents = (input: Readable, form: EventForm): AsyncGenerator<ToldEvent> =>
  form === "jsonl" ? readEventLines(input, toldEventOf) : readEventTable(input, ["at", "door", "result"], toldEventOf);
