import { asking } from "@/wiring/nomade";
import { ordersCsv } from "@/papers/tables/orders-csv";
import { route } from "@/wiring/web/route";

export const GET = route<{ round: string }>("read-rounds", async (account, _request, params) => {
  const id = Number(params.round);
  const orders = Number.isInteger(id) ? await asking.exportOrders(account, id) : undefined;
  if (!orders) return Response.json({ error: "There is no such round." }, { status: 404 });
  return new Response(ordersCsv(orders), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="orders-of-round-${id}.csv"` },
  });
});
