import { asking, draftOrderRows, draftOrdersCsv } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";
import { workbookReply } from "@/wiring/web/table-file";

/** The orders of a closed draft as CSV, or as JSON or a workbook where that is asked for. */
export const GET = route<{ draft: string }>("read-whole", async (account, request, params) => {
  const id = Number(params.draft) || 0;
  const orders = await asking.exportDraftOrders(account, id);
  if (!orders) return Response.json({ error: "There is no such draft." }, { status: 404 });
  const form = new URL(request.url).searchParams.get("form");
  if (form === "xlsx") return workbookReply(`draft-${id}-orders`, "Orders", draftOrderRows(orders));
  const isJson = form === "json";
  return new Response(isJson ? `${JSON.stringify(orders, null, 2)}\n` : draftOrdersCsv(orders), {
    headers: {
      "content-type": isJson ? "application/json" : "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="draft-${id}-orders.${isJson ? "json" : "csv"}"`,
    },
  });
});
