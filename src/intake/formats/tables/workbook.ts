import { Readable } from "node:stream";
import { SSF, read, utils, write } from "@e965/xlsx";
import type { CellObject, WorkBook, WorkSheet } from "@e965/xlsx";
import { stringify } from "csv-stringify/sync";
import { greatest } from "@/core/kernel/compare";
import { BundleError } from "./bundle-error";
import type { BundleFile } from "./bundle-file";
import type { IntakeLimits } from "../limits";
import type { WrittenTable } from "./write-bundle";

/** What a sheet, and a cell of it, hold at most (the limits of the format, from memory). */
const rowsOfSheet = 1_048_576;
const charactersOfCell = 32_767;
const charactersQuoted = 80;
/** A spreadsheet keeps so many digits of a number; more may have been lost before it came here. */
const digitsKept = 1e15;

export const isWorkbook = (name: string): boolean => /\.(xlsx|xls|ods)$/i.test(name);

/** What the library has for date formats, of which it states no types. */
const dates = SSF as {
  readonly is_date: (format: string) => boolean;
  readonly parse_date_code: (serial: number, options: { readonly date1904: boolean }) => Readonly<Record<"y" | "m" | "d" | "H" | "M" | "S", number>>;
};

const pad = (number: number, length = 2): string => String(number).padStart(length, "0");

/** A date serial as ISO 8601 without a zone: a date, a time of day, or both. */
function dateText(serial: number, date1904: boolean): string {
  const { y, m, d, H, M, S } = dates.parse_date_code(serial, { date1904 });
  const time = `${pad(H)}:${pad(M)}${S > 0 ? `:${pad(Math.floor(S))}` : ""}`;
  if (serial < 1) return time;
  const date = `${pad(y, 4)}-${pad(m)}-${pad(d)}`;
  return Number.isInteger(serial) ? date : `${date}T${pad(H)}:${pad(M)}:${pad(Math.floor(S))}`;
}

/** What a cell says, by its type: a number written with leading zeros keeps them, a formula is its stored value. */
function cellText({ t: type, v: value, w: shown, z: format }: CellObject, date1904: boolean, where: () => string): string {
  if (value === undefined) return "";
  if (type === "b") return value === true ? "true" : "false";
  if (type !== "n" || typeof value !== "number") return type === "e" ? (shown ?? "#ERROR") : String(value);
  if (typeof format === "string" && dates.is_date(format)) return dateText(value, date1904);
  if (typeof format === "string" && /^0+$/.test(format) && shown !== undefined && /^\d+$/.test(shown)) return shown;
  if (Math.abs(value) >= digitsKept) throw new BundleError(`${where()} is a number of more than 15 digits, of which a spreadsheet keeps 15. Write it as text.`);
  return String(value);
}

/** The rows of a sheet from its first that has anything in it, and the number of that row, from 1. */
function rowsOf(sheet: WorkSheet, name: string, date1904: boolean): { readonly rows: string[][]; readonly first: number } {
  const data = (sheet["!data"] ?? []) as readonly (readonly (CellObject | undefined)[] | undefined)[];
  const isFilled = (cells: readonly (CellObject | undefined)[] | undefined): boolean => cells?.some((cell) => cell?.v !== undefined && cell.v !== "") ?? false;
  const first = data.findIndex(isFilled);
  if (first < 0) return { rows: [], first: 1 };
  // Rows that were never written are missing, and count all the same.
  const rows = Array.from(data.slice(first), (cells, at) =>
    Array.from(cells ?? [], (cell, column) => (cell ? cellText(cell, date1904, () => `${name}!${utils.encode_cell({ r: first + at, c: column })}`) : "")),
  );
  const width = greatest(
    rows.map((row) => row.findLastIndex((cell) => cell !== "") + 1),
    0,
  );
  return { rows: rows.map((row) => Array.from({ length: width }, (_, column) => row[column] ?? "")), first: first + 1 };
}

const openedWorkbook = (bytes: Uint8Array, { workbookBytes }: IntakeLimits): WorkBook => {
  if (bytes.length > workbookBytes)
    throw new BundleError(`It has ${Math.round(bytes.length / 1024 ** 2)} MiB; the limit of a workbook is ${Math.round(workbookBytes / 1024 ** 2)} MiB.`);
  try {
    return read(bytes, { type: "array", dense: true, cellNF: true, cellText: true, cellHTML: false, cellFormula: false });
  } catch (error) {
    throw new BundleError(`This workbook cannot be opened (${(error as Error).message}).`);
  }
};

/** Sheets of a table that did not fit into one are numbered: "credentials", "credentials (2)". */
const continued = /^(.*) \((\d{1,4})\)$/;

/** The sheets of a workbook as files of a bundle; those that are hidden say so. One without anything in it is none. */
export function workbookFiles(bytes: Uint8Array, limits: IntakeLimits): BundleFile[] {
  const book = openedWorkbook(bytes, limits);
  const { SheetNames: names, Workbook: settings } = book;
  if (names.length > limits.sheets) throw new BundleError(`It has ${names.length} sheets; the limit of a workbook is ${limits.sheets}.`);
  const date1904 = settings?.WBProps?.date1904 === true;
  const hidden = names.filter((_name, at) => (settings?.Sheets?.[at]?.Hidden ?? 0) > 0);
  const tables = new Map<string, { rows: string[][]; rowOf: (record: number) => number }>();
  for (const name of names) {
    const sheet = book.Sheets[name];
    if (!sheet) continue;
    const { rows, first } = rowsOf(sheet, name, date1904);
    const before = tables.get(continued.exec(name)?.[1] ?? "");
    if (before && rows.length > 0 && JSON.stringify(rows[0]) === JSON.stringify(before.rows[0])) {
      const { length } = before.rows;
      const { rowOf } = before;
      before.rows.push(...rows.slice(1));
      before.rowOf = (record) => (record <= length ? rowOf(record) : record - length + first);
    } else if (rows.length > 0) tables.set(name, { rows, rowOf: (record) => record + first - 1 });
  }
  if (tables.size === 0) throw new BundleError("There is no sheet with anything in it; expected one for each table, such as cardholders.");
  const files = [...tables].map(([name, { rows, rowOf }]): BundleFile => {
    const text = stringify(rows, { record_delimiter: "windows", quoted_match: /[\r\n]/ });
    return { name: `${name}.csv`, open: () => Promise.resolve(Readable.from([Buffer.from(text)])), rowOf, ...(hidden.includes(name) && { isHidden: true }) };
  });
  return files;
}

/** Why a text cannot stand in a cell and be read back as it was; undefined where it can. Control characters are seen to by the library. */
function whyNotHeld(text: string): string | undefined {
  if (text.length > charactersOfCell)
    return `has ${text.length.toLocaleString("en-GB")} characters; a cell of a workbook holds ${charactersOfCell.toLocaleString("en-GB")}`;
  // The format writes a character that it cannot hold as _xHHHH_; a text that looks like that is read as the character. Of two line ends it keeps one.
  const [sign] = /_x[0-9A-Fa-f]{4}_|[\uFFFE\uFFFF]|\r\n/.exec(text) ?? [];
  return sign === undefined ? undefined : `has ${JSON.stringify(sign)}, which a workbook does not keep as it is`;
}

/** Tables as a workbook, a sheet each, or more where one does not fit. Throws a `BundleError` for a text that no cell holds. */
export function writeWorkbook(tables: Iterable<WrittenTable>): Uint8Array {
  const book = utils.book_new();
  for (const { name, rows } of tables) {
    const [head = [], ...body] = rows;
    for (const row of body)
      row.forEach((cell, at) => {
        const why = whyNotHeld(cell);
        if (why !== undefined) throw new BundleError(`${name}, ${head[at] ?? ""} of ${(row[0] ?? "").slice(0, charactersQuoted)} ${why}. Export it as CSV.`);
      });
    for (let from = 0, sheet = 1; from === 0 || from < body.length; from += rowsOfSheet - 1, sheet++) {
      const part = [head, ...body.slice(from, from + rowsOfSheet - 1)].map((row) => row.map((cell) => (cell === "" ? null : cell)));
      utils.book_append_sheet(book, utils.aoa_to_sheet(part), sheet === 1 ? name : `${name} (${sheet})`);
    }
  }
  return new Uint8Array(write(book, { type: "buffer", bookType: "xlsx", compression: true }) as Buffer);
}
