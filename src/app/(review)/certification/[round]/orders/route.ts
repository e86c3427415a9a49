import { nomade } from "@/wiring/nomade";
import { ordersCsv } from "@/features/certification/orders-csv";
import { route } from "@/wiring/route";

export const GET = route<{ round: string }>("read-rounds", async (account, _request, params) => {
  const id = Number(params.round);
  if (!Number.isInteger(id) || !(await nomade.round(account, id))) return Response.json({ error: "There is no such round." }, { status: 404 });
  const csv = ordersCsv(await nomade.orders(account, id));
  await nomade.noteOrdersExport(account, id);
  return new Response(csv, { headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="orders-of-round-${id}.csv"` } });
});
