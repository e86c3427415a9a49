import { listOfAddress } from "@/features/register/list-address";
import { asking, csvOfList, nomade, rowsOfList } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";
import { workbookReply } from "@/wiring/web/table-file";

/** A workbook is made whole before it is sent; a longer list comes as CSV. */
const mostInWorkbook = 20_000;

/** A list as it is shown, as CSV, however long, made as it is sent; or as a workbook where that is asked for. */
export const GET = route("read-register", async (account, request) => {
  const { searchParams: query, search } = new URL(request.url);
  const isWorkbook = query.get("as") === "xlsx";
  query.delete("as");
  const address = listOfAddress(query);
  const first = await asking.listRegister(account, address.snapshot, address, { offset: 0, limit: 0, withChoices: false });
  if (!first) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
  if (isWorkbook && first.total > mostInWorkbook)
    return refuse(
      `This list has ${first.total.toLocaleString("en-GB")} rows; a workbook holds at most ${mostInWorkbook.toLocaleString("en-GB")} of them. It comes as CSV.`,
      413,
    );
  await nomade.noteExport(account, { what: "list", on: `snapshot ${first.snapshot}`, query: search });
  const name = `nomade-${address.kind}-snapshot-${first.snapshot}`;
  const page = (offset: number, limit: number) => asking.listRegister(account, address.snapshot, address, { offset, limit, withChoices: false });
  if (isWorkbook) {
    const rows: (readonly string[])[] = [];
    for await (const some of rowsOfList(first, page)) rows.push(...some);
    return workbookReply(name, address.kind, rows);
  }
  return new Response(csvOfList(first, page), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="${name}.csv"` },
  });
});
