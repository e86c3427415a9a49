import { parse } from "csv-parse";
import type { IntakeLimits } from "../limits";
import type { BundleFile, RefusedRow } from "./bundle-file";
import { csvRefusal, longestRow } from "./read-table";
import type { RecognisedForm, TextForm } from "./text-form";
import { decodingTrouble, textFormOf, textStream } from "./text-form";

/** A row of a source: its line, or its row in a sheet, from 1, and its cells. */
export interface SourceRow {
  readonly line: number;
  readonly cells: readonly string[];
}

/** A table of a source as it came: a text, or a sheet of a workbook. */
export interface SourceTable {
  readonly file: BundleFile;
  /** Without what follows the last dot: the name by which a profile knows it. */
  readonly name: string;
  /** What its columns are called; one without a heading by its place, one called as another with a number. */
  readonly headers: readonly string[];
  readonly form: RecognisedForm;
  readonly isSheet: boolean;
  readonly isHidden: boolean;
  /** With more columns its rows are not read. */
  readonly mostColumns: number;
}

export const tableName = (name: string): string => name.replace(/^.*\//, "").replace(/(\.(csv|tsv|txt|tab|gz|ldif|json))+$/i, "");

/** Names of columns that tell them apart. */
export function columnNames(cells: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return cells.map((cell, at) => {
    const plain = cell.replace(/\s+/g, " ").trim();
    const name = plain === "" ? `column ${at + 1}` : plain;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    return times === 1 ? name : `${name} (${times})`;
  });
}

/** How text is cut into cells: RFC 4180, with any line ends, and a quotation mark within a cell that does not begin with one as it stands. */
const cutting = ({ delimiter, quote }: Pick<RecognisedForm, "delimiter" | "quote">) => ({
  delimiter,
  ...(quote === "" ? { quote: false as const } : { quote, escape: quote }),
  record_delimiter: ["\r\n", "\n", "\r"],
  relax_quotes: true,
  relax_column_count: true,
  max_record_size: longestRow,
});

/** Breaks within the cells of a record: a record takes as many lines more. */
const breaksIn = (cells: readonly string[]): number => {
  let breaks = 0;
  for (const cell of cells) if (cell.includes("\n") || cell.includes("\r")) breaks += cell.match(/\r\n|\n|\r/g)?.length ?? 0;
  return breaks;
};

/** Rows that have anything in them, each with the line, or the row of its sheet, on which it begins. */
async function* recordsOf(file: BundleFile, form: RecognisedForm, refuse: (row: RefusedRow) => void): AsyncGenerator<SourceRow> {
  // Lines are counted here: the parser's own account of them costs more than all the rest of its work.
  let line = 1;
  const source = textStream(file, form.encoding);
  const parser = parse({
    ...cutting(form),
    skip_records_with_error: true,
    on_skip: (error) => {
      if (!error) return undefined;
      refuse(csvRefusal(file, error, ""));
      line = ((error as { readonly lines?: number }).lines ?? line) + 1;
      return undefined;
    },
  });
  source.once("error", (error) => parser.destroy(error));
  source.pipe(parser);
  let record = 0;
  try {
    for await (const cells of parser as AsyncIterable<string[]>) {
      record++;
      const begins = file.rowOf?.(record) ?? line;
      line += 1 + breaksIn(cells);
      if (cells.some((cell) => cell.trim() !== "")) yield { line: begins, cells };
    }
  } catch (error) {
    refuse(csvRefusal(file, error as Error, ""));
  } finally {
    source.destroy();
  }
}

/** A table with its header, which a row of known headings is before others; nothing else of it is read yet. A table without anything in it has no headers. */
export async function openTable(file: BundleFile, { columns }: IntakeLimits, said?: TextForm, isHeading?: (text: string) => boolean): Promise<SourceTable> {
  const isSheet = file.rowOf !== undefined;
  const recognised = await textFormOf(file, isSheet ? { ...said, encoding: "utf-8", delimiter: ",", quote: '"' } : said, isHeading);
  let skipped = 0;
  let headers: readonly string[] = [];
  for await (const { cells } of recordsOf(file, recognised, () => undefined))
    if (skipped++ === recognised.skip) {
      headers = recognised.header ? columnNames(trimmedEnd(cells)) : cells.map((_cell, at) => `column ${at + 1}`);
      break;
    }
  return { file, name: tableName(file.name), headers, form: recognised, isSheet, isHidden: file.isHidden ?? false, mostColumns: columns };
}

/** Cells without the empty ones at the end: a delimiter after the last heading makes no column. */
const trimmedEnd = (cells: readonly string[]): readonly string[] => cells.slice(0, cells.findLastIndex((cell) => cell.trim() !== "") + 1);

/**
 * Streams the rows of a table below its header. A row with more cells than the header has columns, or fewer, is told to `refuse`; so is what is no CSV, and
 * text that was not decoded as what it is. A row that may have PINs is not quoted.
 */
export async function* rowsOfTable(
  { file, headers, form, mostColumns }: SourceTable,
  refuse: (row: RefusedRow) => void,
  mayHavePins = false,
): AsyncGenerator<SourceRow> {
  const { skip, header } = form;
  const first = header ? skip + 1 : skip;
  if (headers.length > mostColumns)
    return refuse({
      file: file.name,
      line: 1,
      column: "",
      value: String(headers.length),
      reason: `a table has at most ${mostColumns.toLocaleString("en-GB")} columns`,
      whole: true,
    });
  let at = 0;
  for await (const row of recordsOf(file, form, refuse)) {
    if (at++ < first) continue;
    const { line, cells } = row;
    const trouble = form.isSure ? undefined : decodingTrouble(cells.join("\t"));
    if (trouble !== undefined)
      refuse({
        file: file.name,
        line,
        column: "",
        value: "",
        reason: `read as ${form.encoding} it has ${trouble}; expected the encoding in which it is written`,
      });
    else if (cells.length === headers.length) yield row;
    else if (cells.length > headers.length && cells.slice(headers.length).every((cell) => cell.trim() === ""))
      yield { line, cells: cells.slice(0, headers.length) };
    else
      refuse({
        file: file.name,
        line,
        column: "",
        value: mayHavePins || headers.some((name) => /pin/i.test(name)) ? "" : cells.join(form.delimiter).slice(0, 80),
        reason: `it has ${cells.length} cells; expected ${headers.length}, as many as the header`,
      });
  }
}

/** All rows of a table as they came, blank ones and those above the header, too. */
export async function* rawRowsOf({ file, form }: SourceTable): AsyncGenerator<readonly string[]> {
  yield* textStream(file, form.encoding).pipe(parse(cutting(form))) as AsyncIterable<readonly string[]>;
}
