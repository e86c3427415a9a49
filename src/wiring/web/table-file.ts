import { stringify } from "csv-stringify/sync";
import { utils, write } from "@e965/xlsx";

/** A cell as it is written: texts stay texts, also where they look like formulas or numbers. */
export type TableCell = string | number | Date | undefined;

/** A table that is handed out as a file. */
export interface TableFile {
  /** Of the sheet. */
  readonly title: string;
  readonly columns: readonly { readonly title: string; readonly width?: number }[];
  readonly rows: readonly (readonly TableCell[])[];
}

const asText = (cell: TableCell): string => (cell instanceof Date ? cell.toISOString().replace(".000Z", "Z") : cell === undefined ? "" : String(cell));

/** As CSV (RFC 4180), in UTF-8 with a mark that says so; what a spreadsheet would take for a formula is marked as text. */
export const csvFile = ({ columns, rows }: TableFile): string =>
  `\uFEFF${stringify([columns.map(({ title }) => title), ...rows.map((row) => row.map(asText))], { record_delimiter: "windows", quoted_match: /[\r\n]/, escape_formulas: true })}`;

/** Names of sheets hold at most so many characters, and none of some. */
const sheetName = (title: string): string => title.replace(/[\\/?*[\]:]/g, " ").slice(0, 31);

/** As a workbook with typed cells: numbers and moments can be reckoned with. */
export function xlsxFile({ title, columns, rows }: TableFile): Uint8Array {
  const sheet = utils.aoa_to_sheet([columns.map((column) => column.title), ...rows.map((row) => row.map((cell) => cell ?? null))], {
    cellDates: true,
    UTC: true,
  });
  sheet["!cols"] = columns.map(({ width }) => ({ wch: width ?? 14 }));
  sheet["!autofilter"] = { ref: utils.encode_range({ s: { r: 0, c: 0 }, e: { r: rows.length, c: Math.max(0, columns.length - 1) } }) };
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, sheetName(title));
  return new Uint8Array(write(book, { type: "buffer", bookType: "xlsx", compression: true }) as Buffer);
}

/** What a workbook is called where it is sent. */
export const workbookType = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

/** A reply that hands rows of texts out as a workbook, the first of them its header. */
export function workbookReply(name: string, title: string, [header = [], ...rows]: readonly (readonly string[])[]): Response {
  const bytes = xlsxFile({ title, columns: header.map((of) => ({ title: of, width: 18 })), rows });
  return new Response(new Uint8Array(bytes), {
    headers: { "content-type": workbookType, "content-disposition": `attachment; filename="${name}.xlsx"` },
  });
}
