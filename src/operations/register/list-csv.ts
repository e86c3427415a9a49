import { stringify } from "csv-stringify/sync";
import type { ListPage } from "@/operations/register/list-register";

const rowsAtOnce = 2000;

type PageAt = (offset: number, limit: number) => Promise<ListPage | undefined>;

/** The rows of a list of the register as texts, some at a time, its header first. */
export async function* rowsOfList(list: ListPage, page: PageAt): AsyncGenerator<readonly (readonly string[])[]> {
  const line = (cells: readonly (string | number | undefined)[]): readonly string[] => cells.map((cell) => (cell === undefined ? "" : String(cell)));
  const hasWay = list.ofName !== undefined;
  yield [line(["Id", ...list.columns.filter(({ shown }) => shown).map(({ title }) => title), ...(hasWay ? ["Way"] : [])])];
  for (let offset = 0; offset < list.total;) {
    const found = await page(offset, rowsAtOnce);
    if (!found || found.rows.length === 0) return;
    offset += found.rows.length;
    yield found.rows.map(({ id, cells, way }) => line([id, ...cells, ...(hasWay ? [way ?? ""] : [])]));
  }
}

/** A list of the register as CSV (RFC 4180), made as it is sent; cells that a spreadsheet would run as a formula are made harmless. */
export function csvOfList(list: ListPage, page: PageAt): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  const rows = rowsOfList(list, page);
  return new ReadableStream({
    pull: async (controller) => {
      const next = await rows.next();
      if (next.done) return controller.close();
      controller.enqueue(encoder.encode(stringify(next.value as string[][], { record_delimiter: "windows", quoted_match: /[\r\n]/, escape_formulas: true })));
    },
  });
}
