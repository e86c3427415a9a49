import { parse } from "csv-parse/sync";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** Something in a source's answer that could not be taken. */
export interface AnswerIssue {
  readonly line: number;
  readonly column: string;
  readonly value: string;
  readonly expected: string;
}

export type AnsweringOutcome =
  { readonly outcome: "answered"; readonly done: number; readonly refused: number } | { readonly outcome: "refused"; readonly issues: readonly AnswerIssue[] };

const said = new Map<string, "done" | "refused">([
  ["done", "done"],
  ["refused", "refused"],
]);

const longestNote = 2000;

/**
 * Takes what a source answers to the orders of a round: CSV with the columns `order`, `answer` (`done` or `refused`) and, if it likes, `note` and
 * `ticket`; others
 * are passed over, so that the file of orders can be sent back with two columns added. All or nothing, every mistake told at once.
 */
export async function answerOrders(services: Services, account: Account, round: number, text: string): Promise<AnsweringOutcome> {
  demand(account, "run-rounds");
  let rows: { readonly record: Readonly<Record<string, string>>; readonly info: { readonly lines: number } }[];
  try {
    rows = parse(text, {
      columns: (header: string[]) => header.map((name) => name.trim().toLowerCase()),
      bom: true,
      info: true,
      skip_empty_lines: true,
      trim: true,
    });
  } catch (error) {
    return {
      outcome: "refused",
      issues: [{ line: 1, column: "", value: "", expected: `a table as CSV: ${error instanceof Error ? error.message : "it could not be read"}` }],
    };
  }
  const missing = ["order", "answer"].filter((column) => rows.length === 0 || !(column in (rows[0]?.record ?? {})));
  if (missing.length > 0) return { outcome: "refused", issues: missing.map((column) => ({ line: 1, column, value: "", expected: `a column ${column}` })) };
  const orders = new Map(
    (await services.orders.ofRound(round)).filter(({ cancelledAt }) => cancelledAt === undefined).map((order) => [String(order.id), order]),
  );
  const issues: AnswerIssue[] = [];
  const seen = new Set<string>();
  const answers: { order: number; said: "done" | "refused"; note: string }[] = [];
  const tickets: { order: number; ticket: string }[] = [];
  for (const { record, info } of rows) {
    const [number, answer] = [record.order ?? "", record.answer ?? ""];
    const note = record.note ?? "";
    const order = orders.get(number);
    const issue = (column: string, value: string, expected: string) => issues.push({ line: info.lines, column, value, expected });
    const ticket = record.ticket ?? "";
    // A line that says nothing of its order is one that nobody has come to yet.
    if (answer === "" && ticket === "") continue;
    if (!order) issue("order", number, "the number of an order of this round that stands");
    else if (order.sentAt === undefined) issue("order", number, "an order that was sent");
    else if (seen.has(number)) issue("order", number, "each order once");
    seen.add(number);
    const what = said.get(answer.toLowerCase());
    if (answer !== "" && !what) issue("answer", answer, "done or refused");
    if (note.length > longestNote) issue("note", `${note.slice(0, 40)} …`, `at most ${longestNote.toLocaleString("en-GB")} characters`);
    if (ticket.length > 128) issue("ticket", ticket, "at most 128 characters");
    if (order && what) answers.push({ order: order.id, said: what, note });
    if (order && ticket !== "" && ticket !== order.ticket) tickets.push({ order: order.id, ticket });
  }
  if (issues.length > 0) return { outcome: "refused", issues };
  await services.orders.answer({ answers, tickets }, account, services.now());
  const done = answers.filter((answer) => answer.said === "done").length;
  return { outcome: "answered", done, refused: answers.length - done };
}
