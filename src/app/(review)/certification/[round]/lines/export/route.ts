import { linesOfAddress } from "@/features/certification/lines-address";
import { linesCsv } from "@/papers/tables/lines-csv";
import { asking } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

export const GET = route<{ round: string }>("read-rounds", async (account, request, params) => {
  const [id, asked] = [Number(params.round), linesOfAddress(Object.fromEntries(new URL(request.url).searchParams))];
  if (!asked) return refuse("Something in this address cannot be understood.", 400);
  const exported = Number.isInteger(id) ? await asking.exportLines(account, id, asked.filter) : undefined;
  if (!exported) return refuse("There is no such round.", 404);
  return new Response(linesCsv(exported.lines, exported.timeZone), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="lines-of-round-${id}.csv"` },
  });
});
