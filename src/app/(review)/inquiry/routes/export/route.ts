import { routesTable, untoldRows } from "@/features/inquiry/routes-file";
import { asking, nomade } from "@/wiring/nomade";
import { answerFile, isFileForm } from "@/wiring/web/answer-file";
import { readAnswerable, registerOf } from "@/wiring/web/asked-question";
import { refuse, route } from "@/wiring/web/route";

/** So much is handed out at once. */
const mostRows = 20_000;

/** Who gets where on foot, as a file. */
export const GET = route("ask", async (account, request) => {
  const { search, searchParams } = new URL(request.url);
  const { as = "csv", ...parts } = Object.fromEntries(searchParams);
  if (!isFileForm(as)) return refuse("An answer comes as csv or xlsx.", 400);
  const asked = await readAnswerable(account, parts);
  if (asked instanceof Response) return asked;
  const { inquiry, names } = asked;
  const answer = await asking.findRoutes(account, registerOf(inquiry), inquiry, undefined, mostRows);
  if (!answer) return refuse("There is no such snapshot.", 404);
  if (untoldRows(answer) > 0) return refuse(`The answer has more than ${mostRows.toLocaleString("en-GB")} rows, more than is handed out at once. Narrow the question.`, 413);
  const on = inquiry.snapshot ?? (await nomade.latestSnapshot())?.id;
  await nomade.noteExport(account, { what: "answer", on: `snapshot ${on}${inquiry.draft === undefined ? "" : ` with draft ${inquiry.draft}`}`, query: search });
  const { who } = inquiry;
  if (who?.kind === "cardholder" || who?.kind === "credential") await nomade.noteLookUp(account, "access", { ...who, name: names.who });
  return answerFile("nomade-routes", { title: "Routes", ...routesTable(answer) }, as);
});
