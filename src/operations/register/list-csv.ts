import { stringify } from "csv-stringify/sync";
import type { ListPage } from "@/operations/register/list-register";

const rowsAtOnce = 2000;

/** A list of the register as CSV (RFC 4180), some rows at a time; cells that a spreadsheet would run as a formula are made harmless. */
export function csvOfList(list: ListPage, page: (offset: number, limit: number) => Promise<ListPage | undefined>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  const line = (cells: readonly (string | number | undefined)[]): readonly string[] => cells.map((cell) => (cell === undefined ? "" : String(cell)));
  const write = (rows: readonly (readonly string[])[]): Uint8Array =>
    encoder.encode(stringify(rows as string[][], { record_delimiter: "windows", quoted_match: /[\r\n]/, escape_formulas: true }));
  const hasWay = list.ofName !== undefined;
  let offset = 0;
  return new ReadableStream({
    start: (controller) =>
      controller.enqueue(write([line(["Id", ...list.columns.filter(({ shown }) => shown).map(({ title }) => title), ...(hasWay ? ["Way"] : [])])])),
    pull: async (controller) => {
      const found = offset < list.total ? await page(offset, rowsAtOnce) : undefined;
      if (!found || found.rows.length === 0) return controller.close();
      offset += found.rows.length;
      controller.enqueue(write(found.rows.map(({ id, cells, way }) => line([id, ...cells, ...(hasWay ? [way ?? ""] : [])]))));
    },
  });
}
