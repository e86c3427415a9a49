import { parse } from "csv-parse";
import type { Readable } from "node:stream";
import type { ToldEvent } from "@/core/events/event-book";
import { parseInstant } from "@/core/time/instant";

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

/** A value as it is quoted in a message: short, whatever it is. */
function quoted(value: unknown): string {
  try {
    return JSON.stringify(value).slice(0, 60);
  } catch {
    return "something nested too deeply to be shown";
  }
}

/** A text of a row; an empty one is missing. Throws where it is no text. */
function textOf(record: Readonly<Record<string, unknown>>, name: string, line: number, longest: number): string | undefined {
  const value = Object.hasOwn(record, name) ? record[name] : undefined;
  if (value === undefined || value === "") return undefined;
  if (typeof value !== "string") throw new EventRowError(line, name, `found ${quoted(value)}; expected a text.`);
  if (value.length > longest) throw new EventRowError(line, name, `found ${quoted(value)}, ${value.length} characters; expected at most ${longest}.`);
  return value;
}

/** The event that a row tells, with all that it may say of a card; throws where it tells none. Source: `findings.md`, 2.1. */
function toldEventOf(record: Readonly<Record<string, unknown>>, line: number, longest = Infinity): ToldEvent {
  const needed = (name: string, expected: string): string => {
    const text = textOf(record, name, line, longest);
    if (text === undefined) throw new EventRowError(line, name, `nothing is here; expected ${expected}.`);
    return text;
  };
  const written = needed("at", "an instant such as 2026-03-02T08:00:00Z");
  const at = parseInstant(written);
  if (!at) throw new EventRowError(line, "at", `found ${quoted(written)}; expected an instant such as 2026-03-02T08:00:00Z.`);
  const door = needed("door", "the id of a door");
  const result = needed("result", "granted or refused");
  if (result !== "granted" && result !== "refused") throw new EventRowError(line, "result", `found ${quoted(result)}; expected granted or refused.`);
  const [credential, number, facilityCode, id] = ["credential", "number", "facilityCode", "id"].map((name) => textOf(record, name, line, longest));
  const reason = textOf(record, "reason", line, Math.max(longest, longestReason));
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

/**
 * Streams events from a file of either form, with all that they say of a card: its credential, or a number and facility code, and an id of its own. Throws
 * `EventRowError` at the first row that is none.
 */
export const readToldEvents = (input: Readable, form: EventForm, rowOf: RowReader<ToldEvent> = toldEventOf): AsyncGenerator<ToldEvent> =>
  form === "jsonl" ? readEventLines(input, rowOf) : readEventTable(input, ["at", "door", "result"], rowOf);

/** The longest text that is kept of an event, and of its reason. */
const longestKept = 128;
const longestReason = 500;

/** The same of events that can be kept: a text that is too long to be is refused. A row that tells none is told to `refuse`, and the others are read. */
export async function* storableEvents(input: Readable, form: EventForm, refuse: (error: EventRowError) => void): AsyncGenerator<ToldEvent> {
  const eventOf = (record: Readonly<Record<string, unknown>>, line: number): ToldEvent | undefined => {
    try {
      return toldEventOf(record, line, longestKept);
    } catch (error) {
      if (!(error instanceof EventRowError)) throw error;
      refuse(error);
      return undefined;
    }
  };
  for await (const event of form === "jsonl" ? readEventLines(input, eventOf) : readEventTable(input, ["at", "door", "result"], eventOf))
    if (event) yield event;
}
