import { formOf } from "@/core/questions/answer-form";
import { answerTable, pastTable, sheetTable, yearTable } from "@/features/inquiry/answer-table";
import type { AnswerTable } from "@/features/inquiry/answer-table";
import { asking, nomade } from "@/wiring/nomade";
import { answerFile, isFileForm } from "@/wiring/web/answer-file";
import { readTimed, registerOf } from "@/wiring/web/asked-question";
import { refuse, route } from "@/wiring/web/route";

/** So much is handed out at once. */
const mostRows = 20_000;
const rowsAtOnce = 2000;
const mostCells = 1_000_000;

/** The whole answer to a question, as a file. */
export const GET = route("ask", async (account, request) => {
  const { as = "csv", ...parts } = Object.fromEntries(new URL(request.url).searchParams);
  if (!isFileForm(as)) return refuse("An answer comes as csv or xlsx.", 400);
  const asked = await readTimed(account, parts);
  if (asked instanceof Response) return asked;
  const { inquiry, names, parts: past } = asked;
  const { who } = inquiry;
  const wanted = registerOf(inquiry);
  const tooMany = (found: string): Response => refuse(`The answer has ${found}, more than is handed out at once. Narrow the question.`, 413);
  let table: AnswerTable;
  if (past.length > 0) {
    const answer = await asking.answerPast(account, inquiry, past, mostRows);
    if (answer.total > mostRows) return tooMany(`${answer.total.toLocaleString("en-GB")} rows`);
    table = pastTable(answer);
  } else if (formOf(inquiry) === "verdict") {
    const year = await asking.yearOfPair(account, wanted, inquiry);
    if (!year) return refuse("There is no such pair of holder and door in the register.", 404);
    table = yearTable(year);
  } else if (formOf(inquiry) === "sheet") {
    const start = { row: 0, column: 0 };
    const sizes = await asking.layOutSheet(account, wanted, inquiry, start, { rows: 0, columns: 0 });
    if (!sizes) return refuse("There is no such snapshot.", 404);
    const [rows, columns] = [sizes.rowCount, sizes.columnCount];
    if (rows * columns > mostCells) return tooMany(`${rows.toLocaleString("en-GB")} rows and ${columns.toLocaleString("en-GB")} columns`);
    const whole = await asking.layOutSheet(account, wanted, inquiry, start, { rows, columns });
    if (!whole) return refuse("There is no such snapshot.", 404);
    table = sheetTable(inquiry, whole);
  } else {
    const counted = await asking.answerInquiry(account, wanted, inquiry, 0, 0);
    if (!counted) return refuse("There is no such snapshot.", 404);
    const all = counted.total + counted.asleepTotal;
    if (all > mostRows) return tooMany(`${all.toLocaleString("en-GB")} rows`);
    // Some at a time: words for thousands of rows take longer than a question may.
    const pages = [counted];
    for (let offset = 0; offset < all; offset += rowsAtOnce) {
      const page = await asking.answerInquiry(account, wanted, inquiry, offset, rowsAtOnce);
      if (page) pages.push(page);
    }
    table = answerTable({ ...counted, rows: pages.flatMap(({ rows }) => rows), asleep: pages.flatMap(({ asleep }) => asleep) });
  }
  const told = past.length > 0 ? past.map(({ snapshot }) => snapshot).join(", ") : (inquiry.snapshot ?? (await nomade.latestSnapshot())?.id);
  const on = `snapshot ${told}${inquiry.draft === undefined ? "" : ` with draft ${inquiry.draft}`}`;
  await nomade.noteExport(account, { what: "answer", on, query: new URL(request.url).search });
  if (who?.kind === "cardholder" || who?.kind === "credential") await nomade.noteLookUp(account, "access", { ...who, name: names.who });
  return answerFile("nomade-answer", { title: "Answer", ...table }, as);
});
