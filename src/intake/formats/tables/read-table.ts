import type { BundleFile, RefusedRow } from "./bundle-file";
import { Readable } from "node:stream";
import { parse } from "csv-parse";
import { parse as parseNow } from "csv-parse/sync";
import { readList, restored } from "./cells";
import type { CellKind, Loose, TableColumn } from "./tables";
import { putAt } from "./tables";
import type { Encoding } from "./text-form";
import { decodedText, delimiters, encodingOf } from "./text-form";

export interface TableRow {
  readonly line: number;
  readonly values: Loose;
}

/** One row longer than this is no row of such a table. */
export const longestRow = 1024 * 1024;
const quotedLength = 80;

const quoted = (text: string): string => (text.length > quotedLength ? `${text.slice(0, quotedLength)}…` : text);

/** `Staff number`, `staff_number` and `staffNumber` are one. */
const plainName = (header: string): string => header.toLowerCase().replace(/[^\p{L}\p{N}]/gu, "");

/** The delimiter of a header: the one that it holds most often outside quotes. */
export function delimiterOf(header: string): (typeof delimiters)[number] {
  const bare = header.replace(/"[^"]*"/g, "");
  const counts = delimiters.map((delimiter) => bare.split(delimiter).length);
  return delimiters[counts.indexOf(Math.max(...counts))] ?? ",";
}

async function firstLine(file: BundleFile, encoding: Encoding): Promise<string> {
  let text = "";
  for await (const chunk of decodedText(file, encoding)) {
    text += chunk;
    const end = text.search(/[\r\n]/);
    if (end >= 0) return text.slice(0, end);
    if (text.length > longestRow) break;
  }
  return text;
}

const flags: Readonly<Record<string, boolean>> = { true: true, yes: true, "1": true, false: false, no: false, "0": false };

/** The value of a cell, or what was expected of it. An empty cell is no value. */
function readCell(cell: string, kind: CellKind): { readonly value: unknown } | { readonly expected: string } {
  switch (kind) {
    case "number":
      return /^-?\d{1,15}$/.test(cell) ? { value: Number(cell) } : { expected: "a whole number" };
    case "flag": {
      const flag = flags[cell.toLowerCase()];
      return flag === undefined ? { expected: "true or false" } : { value: flag };
    }
    case "list":
    case "sites": {
      if (kind === "sites" && cell === "everywhere") return { value: true };
      const list = readList(cell);
      return list ? { value: list } : { expected: "ids with semicolons between them, or a list of JSON" };
    }
    default:
      return { value: restored(cell) };
  }
}

interface CsvError {
  readonly code?: string;
  readonly message: string;
  readonly lines?: number;
  readonly record?: readonly string[];
}

const csvReasons: Readonly<Record<string, string>> = {
  CSV_RECORD_INCONSISTENT_FIELDS_LENGTH: "it has more or fewer cells than the header",
  CSV_RECORD_INCONSISTENT_COLUMNS: "it has more or fewer cells than the header",
  CSV_QUOTE_NOT_CLOSED: "a quotation mark is opened and not closed until the end of the file",
  CSV_MAX_RECORD_SIZE: `it is longer than ${longestRow.toLocaleString("en-GB")} characters`,
  INVALID_OPENING_QUOTE: "a quotation mark stands inside a cell that does not begin with one",
  CSV_INVALID_CLOSING_QUOTE: "something follows a closing quotation mark",
};

/** Whether an error takes more with it than its row: nobody knows where the next one begins. */
const cutsOff = ({ code }: CsvError): boolean => code === undefined || code === "CSV_QUOTE_NOT_CLOSED" || code === "CSV_MAX_RECORD_SIZE";

/** A row that is no CSV, or more than a row, as it is told. */
export const csvRefusal = (file: BundleFile, error: CsvError, value: string): RefusedRow => ({
  ...(cutsOff(error) && { whole: true }),
  file: file.name,
  line: error.lines ?? 0,
  column: "",
  value: quoted(value),
  reason: `${csvReasons[error.code ?? ""] ?? error.message}; expected a row of CSV (RFC 4180)`,
});

/** The header of a file, as it is written; empty where there is none that can be read. */
export async function headerOf(file: BundleFile): Promise<readonly string[]> {
  const { encoding } = await encodingOf(file);
  const line = await firstLine(file, encoding);
  try {
    return parseNow(line, { bom: true, delimiter: delimiterOf(line), to: 1 })[0] ?? [];
  } catch {
    return [];
  }
}

/** The cells of a table, its header first, unread; throws where it is no CSV. */
export async function* cellsOfTable(file: BundleFile): AsyncGenerator<readonly string[]> {
  const { encoding } = await encodingOf(file);
  const parser = Readable.from(decodedText(file, encoding)).pipe(
    parse({
      bom: true,
      delimiter: delimiterOf(await firstLine(file, encoding)),
      skip_empty_lines: true,
      max_record_size: longestRow,
      relax_column_count: true,
    }),
  );
  yield* parser as AsyncIterable<readonly string[]>;
}

/** The column that a header stands for by its name alone. */
export const columnNamed = (header: string, columns: readonly TableColumn[]): TableColumn | undefined =>
  columns.find(({ name }) => plainName(name) === plainName(header));

/** The columns of a header, by place; what is not known is told. */
function columnsOfHeader(
  header: readonly string[],
  columns: readonly TableColumn[],
  file: string,
): { readonly places: (TableColumn | undefined)[]; readonly refused: RefusedRow[] } {
  const byName = new Map(columns.map((column) => [plainName(column.name), column]));
  const refused: RefusedRow[] = [];
  const seen = new Set<TableColumn>();
  const places = header.map((text) => {
    const column = byName.get(plainName(text));
    if (!column || seen.has(column))
      refused.push({
        file,
        line: 1,
        column: quoted(text),
        value: quoted(text),
        reason: column ? "this column comes twice" : `no such column; expected ${columns.map(({ name }) => name).join(", ")}`,
        whole: true,
      });
    else seen.add(column);
    return column;
  });
  return { places, refused };
}

/**
 * Streams the rows of a CSV table (RFC 4180; other delimiters and encodings are recognised). Rows that cannot be read are told to
 * `refuse` and passed over; a header that cannot be read ends the file.
 */
export async function* readTable(file: BundleFile, columns: readonly TableColumn[], refuse: (row: RefusedRow) => void): AsyncGenerator<TableRow> {
  const { encoding } = await encodingOf(file);
  const delimiter = delimiterOf(await firstLine(file, encoding));
  /** A row whose cells are out of place is not quoted where one of them may be a PIN. */
  let mayHavePin = false;
  const lineOf = ({ lines, records }: { readonly lines: number; readonly records: number }): number => file.rowOf?.(records) ?? lines;
  const badRow = (error: CsvError): void => refuse(csvRefusal(file, error, mayHavePin ? "" : (error.record ?? []).join(delimiter)));
  const parser = parse({
    bom: true,
    delimiter,
    info: true,
    skip_empty_lines: true,
    max_record_size: longestRow,
    relax_column_count: true,
    skip_records_with_error: true,
    on_skip: (error) => {
      if (error) badRow(error);
      return undefined;
    },
  });
  const source = Readable.from(decodedText(file, encoding));
  source.once("error", (error) => parser.destroy(error));
  source.pipe(parser);
  let places: (TableColumn | undefined)[] | undefined;
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: readonly string[]; info: { lines: number; records: number } }>) {
      // A row without anything in it is none.
      if (record.every((cell) => cell === "")) continue;
      if (!places) {
        const header = columnsOfHeader(record, columns, file.name);
        for (const row of header.refused) refuse(row);
        if (header.refused.length > 0) return;
        places = header.places;
        mayHavePin = places.some((column, at) => (column ? column.kind === "pin" : /pin/i.test(record[at] ?? "")));
        continue;
      }
      if (record.length !== places.length) {
        badRow({ code: "CSV_RECORD_INCONSISTENT_COLUMNS", message: "", lines: lineOf(info), record });
        continue;
      }
      const values: Loose = {};
      let isGood = true;
      for (const [i, cell] of record.entries()) {
        const column = places[i];
        if (!column || cell === "") continue;
        const read = readCell(cell, column.kind);
        if ("value" in read) putAt(values, column.path, read.value);
        else {
          isGood = false;
          refuse({ file: file.name, line: lineOf(info), column: column.name, value: quoted(cell), reason: `expected ${read.expected}` });
        }
      }
      if (isGood) yield { line: lineOf(info), values };
    }
  } catch (error) {
    badRow(error as CsvError);
  } finally {
    source.destroy();
  }
}
