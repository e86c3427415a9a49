import { stringify } from "csv-stringify/sync";
import { isDescribed } from "@/core/certification/withdrawal/described-change";
import { certifierWords } from "@/features/words/holders";
import { holderOrKind, subjectWords } from "@/features/words/line-subjects";
import { changeWords } from "@/features/words/changes";
import type { NamedOrder } from "@/operations/ports/orders";

const columns = [
  "order",
  "round",
  "made_at",
  "holder",
  "staff_number",
  "concerns",
  "what",
  "reason",
  "decided_by",
  "also_lost",
  "do",
  "list",
  "id",
  "group",
  "cardholder",
  "from",
  "until",
  "object",
  "also_lost_ids",
  "source",
  "due",
  "sent_at",
  "ticket",
  "answer",
  "note",
] as const;

/** Lists whose objects tell of people more than their names. */
const ofPeople = new Set(["cardholders"]);

/** The same without what is personal beyond names: staff numbers, reasons, notes, and people as they then are. */
export const ordersByMail = (orders: readonly TabledOrder[]): string =>
  ordersCsv(
    orders.map((order) => {
      const { answer, described } = order;
      return { ...order, staffNumber: "", reason: "", ...(answer && { answer: { ...answer, note: "" } }), described: withoutPerson(described) };
    }),
  );

function withoutPerson(described: TabledOrder["described"]): TabledOrder["described"] {
  if (!isDescribed(described) || described.change.do === "remove" || !ofPeople.has(described.change.list)) return described;
  const { object: _, ...change } = described.change;
  return { ...described, change: change as typeof described.change };
}

/** What of an order stands in the table. */
export type TabledOrder = Omit<NamedOrder, "line" | "lines" | "cancelledAt">;

/** Orders as CSV (RFC 4180). Cells that a spreadsheet would run as a formula are made harmless. */
export const ordersCsv = (orders: readonly TabledOrder[]): string =>
  stringify(orderRows(orders), { record_delimiter: "windows", quoted_match: /[\r\n]/, escape_formulas: true });

/**
 * A header, and a row for each order, which can be sent back with `ticket`, `answer` and `note` filled in: first in words, then in terms of the source, by ids,
 * `object` whole as it then is.
 */
export function orderRows(orders: readonly TabledOrder[]): string[][] {
  const rows = orders.map((order): Record<(typeof columns)[number], string> => {
    const { described, names, alsoLost } = order;
    const change = isDescribed(described) ? described.change : undefined;
    const membership = change?.list === "memberships" ? change.membership : undefined;
    return {
      order: String(order.id),
      round: String(order.round),
      made_at: order.madeAt,
      holder: holderOrKind(order.holderName, order.subject),
      staff_number: order.staffNumber,
      concerns: subjectWords(order.subject),
      what: changeWords(described, names),
      reason: order.reason,
      decided_by: certifierWords(order.decidedBy),
      also_lost: alsoLost.map((door) => names[`door ${door}`] ?? door).join(", "),
      do: change?.do ?? "by hand",
      list: change?.list ?? "",
      id: change === undefined || change.list === "memberships" ? "" : change.id,
      group: membership?.group ?? "",
      cardholder: membership?.cardholder ?? "",
      from: membership?.from ?? "",
      until: membership?.until ?? "",
      object: change === undefined || change.do === "remove" || !("object" in change) ? "" : JSON.stringify(change.object),
      also_lost_ids: JSON.stringify(alsoLost),
      source: order.source ?? "",
      due: order.due ?? "",
      sent_at: order.sentAt ?? "",
      ticket: order.ticket ?? "",
      answer: order.answer?.said ?? "",
      note: order.answer?.note ?? "",
    };
  });
  return [[...columns], ...rows.map((row) => columns.map((column) => row[column]))];
}
