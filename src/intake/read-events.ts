import { parse } from "csv-parse";
import type { Readable } from "node:stream";
import Joi from "joi";
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
const rowSchema = Joi.object({
  at: Joi.string().required(),
  door: Joi.string().max(128).required(),
  credential: Joi.string().max(128).required(),
  result: Joi.valid("granted", "refused").required(),
  reason: Joi.string().allow("").max(64),
}).unknown();

/** Streams events from CSV (RFC 4180) with a header that names at, door, credential, result and, if known, reason. */
export async function* readEvents(input: Readable): AsyncGenerator<ReadEvent> {
  const parser = input.pipe(parse({ bom: true, columns: true, info: true, max_record_size: 64 * 1024 }));
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
      const { error } = rowSchema.validate(record, { convert: false });
      const detail = error?.details[0];
      if (detail) throw new EventRowError(info.lines, String(detail.path[0]), `${detail.message}; found ${JSON.stringify(record[String(detail.path[0])] ?? "")}.`);
      const at = parseInstant(record.at ?? "");
      if (!at) throw new EventRowError(info.lines, "at", `found ${JSON.stringify(record.at)}; expected an instant such as 2026-03-02T08:00:00Z.`);
      yield {
        at: minuteDown(at),
        door: record.door ?? "",
        credential: record.credential ?? "",
        result: record.result as ReadEvent["result"],
        reason: record.reason === "" ? undefined : record.reason,
      };
    }
  } catch (error) {
    if (error instanceof EventRowError) throw error;
    const { lines, message } = error as { lines?: number; message: string };
    throw new EventRowError(lines ?? 0, "any", `this is no CSV that can be read (${message}).`);
  }
}
