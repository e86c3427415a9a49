import { asking } from "@/wiring/nomade";
import { orderRows, ordersCsv } from "@/papers/tables/orders-csv";
import { route } from "@/wiring/web/route";
import { workbookReply } from "@/wiring/web/table-file";

/** The orders of a round as CSV, or as a workbook where that is asked for. */
export const GET = route<{ round: string }>("read-rounds", async (account, request, params) => {
  const id = Number(params.round);
  const orders = Number.isInteger(id) ? await asking.exportOrders(account, id) : undefined;
  if (!orders) return Response.json({ error: "There is no such round." }, { status: 404 });
  if (new URL(request.url).searchParams.get("as") === "xlsx") return workbookReply(`orders-of-round-${id}`, "Orders", orderRows(orders));
  return new Response(ordersCsv(orders), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="orders-of-round-${id}.csv"` },
  });
});
