import { linesOfAddress } from "@/features/certification/lines-address";
import { lineRows, linesCsv } from "@/papers/tables/lines-csv";
import { asking } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";
import { workbookReply } from "@/wiring/web/table-file";

export const GET = route<{ round: string }>("read-rounds", async (account, request, params) => {
  const { as, ...query } = Object.fromEntries(new URL(request.url).searchParams);
  const [id, asked] = [Number(params.round), linesOfAddress(query)];
  if (!asked) return refuse("Something in this address cannot be understood.", 400);
  const exported = Number.isInteger(id) ? await asking.exportLines(account, id, asked.filter) : undefined;
  if (!exported) return refuse("There is no such round.", 404);
  if (as === "xlsx") return workbookReply(`lines-of-round-${id}`, "Lines", lineRows(exported.lines, exported.timeZone));
  return new Response(linesCsv(exported.lines, exported.timeZone), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="lines-of-round-${id}.csv"` },
  });
});
