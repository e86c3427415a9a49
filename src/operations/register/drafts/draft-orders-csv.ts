import { stringify } from "csv-stringify/sync";
import type { ShownOrder } from "@/operations/register/drafts/show-draft";

const columns = ["order", "source", "made_at", "change", "kind", "id", "name", "field", "before", "after", "done"] as const;

/** Orders of a draft as CSV (RFC 4180); cells that a spreadsheet would run as a formula are made harmless. */
export const draftOrdersCsv = (orders: readonly ShownOrder[]): string =>
  stringify(draftOrderRows(orders), { record_delimiter: "windows", quoted_match: /[\r\n]/, escape_formulas: true });

/** A header, and a row for each field of an order of a draft. */
export function draftOrderRows(orders: readonly ShownOrder[]): string[][] {
  const rows = orders.flatMap(({ id, source, madeAt, action, list, key, name, fields, done }) => {
    const head = { order: String(id), source, made_at: madeAt, change: action, kind: list, id: key, name, done: done ? "yes" : "no" };
    return (fields.length > 0 && action !== "end" ? fields : [{ field: "", gone: [], come: [] }]).map(({ field, gone, come }) => ({
      ...head,
      field,
      before: gone.join("; "),
      after: come.join("; "),
    }));
  });
  return [[...columns], ...rows.map((row) => columns.map((column) => row[column]))];
}
