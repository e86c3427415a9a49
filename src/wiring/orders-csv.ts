import { stringify } from "csv-stringify/sync";
import type { NamedOrder } from "@/operations/show-rounds";

const columns = ["order", "round", "made_at", "change", "grant", "group", "cardholder", "credential", "doors", "holder", "staff_number", "concerns", "reason", "decided_by", "also_lost"] as const;

/** Orders as CSV (RFC 4180), a line each; cells that a spreadsheet would run as a formula are made harmless. */
export function ordersCsv(orders: readonly NamedOrder[]): string {
  const rows = orders.map((order): Record<(typeof columns)[number], string> => {
    const { change } = order;
    return {
      order: String(order.id),
      round: String(order.round),
      made_at: order.madeAt,
      change: change.kind,
      grant: change.kind === "end-grant" ? change.grant : "",
      group: change.kind === "end-membership" ? change.group : "",
      cardholder: "cardholder" in change ? change.cardholder : "",
      credential: change.kind === "end-credential" ? change.credential : "",
      doors: change.kind === "add-block" ? change.doors.join(" ") : "",
      holder: order.holderName,
      staff_number: order.staffNumber,
      concerns: order.subject,
      reason: order.reason,
      decided_by: order.decidedBy,
      also_lost: order.alsoLost.join(" "),
    };
  });
  return stringify(rows, { header: true, columns: [...columns], record_delimiter: "windows", escape_formulas: true });
}
