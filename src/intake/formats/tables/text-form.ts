import { Readable } from "node:stream";
import { parse } from "csv-parse/sync";
import iconv from "iconv-lite";
import jschardet from "jschardet";
import type { BundleFile } from "./bundle-file";

export const encodings = ["utf-8", "utf-16le", "utf-16be", "windows-1250", "windows-1252", "iso-8859-1", "iso-8859-2", "iso-8859-15"] as const;
export type Encoding = (typeof encodings)[number];

/** How the text of a table is cut into cells; what is absent is recognised. */
export interface TextForm {
  readonly encoding?: Encoding;
  readonly delimiter?: string;
  /** The quotation mark, or an empty text for none. */
  readonly quote?: string;
  /** Lines above the header that are no part of the table. */
  readonly skip?: number;
  /** False where the first row is one of data: columns are then called `column 1`, `column 2`. */
  readonly header?: boolean;
}

/** How the text of a table is cut into cells, all of it recognised or said. */
export interface RecognisedForm {
  readonly encoding: Encoding;
  /** Whether the encoding is sure: by a mark, or since all of it is UTF-8. */
  readonly isSure: boolean;
  readonly delimiter: string;
  readonly quote: string;
  readonly skip: number;
  readonly header: boolean;
}

const marks: readonly (readonly [Encoding, readonly number[]])[] = [
  ["utf-8", [0xef, 0xbb, 0xbf]],
  ["utf-16le", [0xff, 0xfe]],
  ["utf-16be", [0xfe, 0xff]],
];

const sampleBytes = 256 * 1024;
const rowsLookedAt = 60;

/** The beginning of a file, and whether all of it is UTF-8. */
async function lookAt(file: BundleFile): Promise<{ readonly sample: Buffer; readonly isUtf8: boolean }> {
  const decoder = new TextDecoder("utf-8", { fatal: true });
  const chunks: Buffer[] = [];
  let kept = 0;
  let isUtf8 = true;
  const stream = await file.open();
  try {
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      if (kept < sampleBytes) {
        chunks.push(chunk);
        kept += chunk.length;
      }
      if (isUtf8)
        try {
          decoder.decode(chunk, { stream: true });
        } catch {
          isUtf8 = false;
        }
      if (!isUtf8 && kept >= sampleBytes) break;
    }
    if (isUtf8)
      try {
        decoder.decode();
      } catch {
        isUtf8 = false;
      }
  } finally {
    stream.destroy();
  }
  return { sample: Buffer.concat(chunks).subarray(0, sampleBytes), isUtf8 };
}

/** UTF-16 without a mark: of plain letters every second byte is zero. */
function utf16Without(sample: Buffer): Encoding | undefined {
  const zeros = [0, 0];
  const looked = Math.min(sample.length, 4096);
  for (let at = 0; at < looked; at++) if (sample[at] === 0) zeros[at % 2] = (zeros[at % 2] ?? 0) + 1;
  const [even = 0, odd = 0] = zeros;
  if (odd > looked / 5 && even < odd / 10) return "utf-16le";
  if (even > looked / 5 && odd < even / 10) return "utf-16be";
  return undefined;
}

/** Letters of central Europe that the page of western Europe has as signs nobody writes between letters. */
const centralOnly = /[\u00a1-\u00bf\u00d7\u00f7]/g;

/** The one of the single-byte encodings in which a text reads as words: suggested, never sure. */
function singleByte(sample: Buffer): Encoding {
  const found = jschardet.detect(sample).encoding?.toLowerCase() ?? "";
  const western = iconv.decode(sample, "windows-1252");
  const oddities = western.match(/\p{L}[\u00a1-\u00bf\u00d7\u00f7]\p{L}|\p{L}[\u00a1-\u00bf](?=\s|$)|(?:^|\s)[\u00a1-\u00be](?=\p{L})/gu)?.length ?? 0;
  const letters = western.match(/[\u00c0-\u00ff]/g)?.length ?? 0;
  centralOnly.lastIndex = 0;
  if (oddities > 0 && oddities >= letters / 20 && /1250|8859-2/.test(found)) return found.includes("8859-2") ? "iso-8859-2" : "windows-1250";
  return "windows-1252";
}

const known = new WeakMap<BundleFile, Promise<{ sample: Buffer; encoding: Encoding; isSure: boolean }>>();

async function recognise(file: BundleFile): Promise<{ sample: Buffer; encoding: Encoding; isSure: boolean }> {
  const { sample, isUtf8 } = await lookAt(file);
  for (const [encoding, mark] of marks) if (mark.every((byte, i) => sample[i] === byte)) return { sample, encoding, isSure: true };
  const wide = utf16Without(sample);
  if (wide) return { sample, encoding: wide, isSure: true };
  return isUtf8 ? { sample, encoding: "utf-8", isSure: true } : { sample, encoding: singleByte(sample), isSure: false };
}

/** The beginning of a file with the encoding that it is in; looked at once. */
export function encodingOf(file: BundleFile): Promise<{ sample: Buffer; encoding: Encoding; isSure: boolean }> {
  const found = known.get(file) ?? recognise(file);
  known.set(file, found);
  return found;
}

/** The text of a file, decoded, without the mark at its beginning. */
export async function* decodedText(file: BundleFile, encoding: Encoding): AsyncGenerator<string> {
  const stream = await file.open();
  const decoder = iconv.getDecoder(encoding);
  try {
    let isFirst = true;
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      const text = decoder.write(chunk);
      if (text !== "") {
        yield isFirst ? text.replace(/^\ufeff/, "") : text;
        isFirst = false;
      }
    }
    const rest = decoder.end();
    if (rest !== undefined && rest !== "") yield rest;
  } finally {
    stream.destroy();
  }
}

export const delimiters = [",", ";", "\t", "|"] as const;

/** The rows of the beginning of a text that have anything in them, whatever their length; as many as can be read. */
function rowsOfSample(text: string, delimiter: string, quote: string): string[][] {
  return cutIntoRows(text, delimiter, quote).filter((row) => row.some((cell) => cell.trim() !== ""));
}

function cutIntoRows(text: string, delimiter: string, quote: string): string[][] {
  try {
    return parse(text, {
      delimiter,
      ...(quote === "" ? { quote: false } : { quote, escape: quote }),
      record_delimiter: ["\r\n", "\n", "\r"],
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      to: rowsLookedAt,
      // The sample may end within a quoted cell.
      on_record: (record: string[]) => record,
    });
  } catch {
    return text
      .split(/\r\n|\n|\r/)
      .slice(0, rowsLookedAt)
      .filter((line) => line !== "")
      .map((line) => line.split(delimiter));
  }
}

const widthOf = (row: readonly string[]): number => row.findLastIndex((cell) => cell.trim() !== "") + 1;

/** The width that most rows have, of those with more than one cell. */
function usualWidth(rows: readonly (readonly string[])[]): { readonly width: number; readonly count: number } {
  const counts = new Map<number, number>();
  for (const row of rows) counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
  let best = { width: 1, count: 0 };
  for (const [width, count] of counts) if (width > 1 && (count > best.count || (count === best.count && width > best.width))) best = { width, count };
  return best;
}

const looksLikeData = (cell: string): boolean => /^[-+]?\d+([.,]\d+)?$|^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/.test(cell.trim());

const longestHeading = 120;
const titlesAtMost = 20;

/** Rows above the header, and whether there is one: titles stand in few of the columns that the table has. */
export function headerPlace(
  rows: readonly (readonly string[])[],
  isHeading: (text: string) => boolean = () => false,
): { readonly skip: number; readonly header: boolean } {
  const widths = rows.map((row) => row.filter((cell) => cell.trim() !== "").length);
  const most = Math.max(1, ...rows.map(widthOf));
  const isWide = (row: readonly string[], i: number): boolean =>
    (widths[i] ?? 0) >= Math.max(1, Math.ceil(most * 0.6)) && row.every((cell) => cell.trim().length <= longestHeading);
  // A row with words that are headings of such tables is one before any that is only as wide.
  const known = rows.findIndex((row, i) => i < titlesAtMost && isWide(row, i) && row.some(isHeading));
  const skip = Math.max(0, known >= 0 ? known : rows.findIndex(isWide));
  const [header = [], next] = rows.slice(skip);
  const dataAlike = next ? header.filter((cell, i) => looksLikeData(cell) && looksLikeData(next[i] ?? "")).length : 0;
  return { skip, header: dataAlike === 0 || header.some((cell, i) => !looksLikeData(cell) && looksLikeData(next?.[i] ?? "")) };
}

/** The form of a text: what is said of it holds, the rest is recognised from its beginning. */
export async function textFormOf(file: BundleFile, said: TextForm = {}, isHeading?: (text: string) => boolean): Promise<RecognisedForm> {
  const found = await encodingOf(file);
  const encoding = said.encoding ?? found.encoding;
  const text = iconv.decode(found.sample, encoding).replace(/^\ufeff/, "");
  const quote = said.quote ?? '"';
  // A first line such as `sep=;` says the delimiter to spreadsheets (common practice, no source).
  const [sepLine, sep] = /^sep=(.)\r?\n?/i.exec(text) ?? [];
  const rest = sepLine === undefined ? text : text.slice(sepLine.length);
  const delimiter = said.delimiter ?? sep ?? bestDelimiter(rest, quote);
  const place = headerPlace(rowsOfSample(rest, delimiter, quote), isHeading);
  return {
    encoding,
    isSure: found.isSure && encoding === found.encoding,
    delimiter,
    quote,
    skip: said.skip ?? place.skip + (sepLine === undefined ? 0 : 1),
    header: said.header ?? place.header,
  };
}

/** The delimiter by which most rows have the same number of cells. */
function bestDelimiter(text: string, quote: string): string {
  let best = { delimiter: ",", score: 0 };
  for (const delimiter of delimiters) {
    const rows = rowsOfSample(text, delimiter, quote);
    const { width, count } = usualWidth(rows);
    const score = rows.length === 0 ? 0 : (count / rows.length) * 100 + Math.min(width, 40);
    if (width > 1 && score > best.score) best = { delimiter, score };
  }
  return best.delimiter;
}

/** Signs that a text was decoded as what it is not: characters that could not be, and control characters; undefined where there are none. */
export function decodingTrouble(text: string): string | undefined {
  // eslint-disable-next-line no-control-regex -- these are what is looked for
  const found = /[\ufffd\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/.exec(text);
  if (!found) return undefined;
  const code = (found[0].codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, "0");
  const around = text.slice(Math.max(0, found.index - 20), found.index + 20).replace(/[\r\n]+/g, " ");
  return found[0] === "\ufffd" ? `characters that could not be decoded, as in “${around}”` : `the control character U+${code}, as in “${around}”`;
}

export const textStream = (file: BundleFile, encoding: Encoding): Readable => Readable.from(decodedText(file, encoding));
