import { waitingUploads } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** The rows of an uploaded bundle that are refused, as CSV to be sent back. */
export const GET = route<{ token: string }>("take-in", async (_account, _request, params) => {
  const file = await waitingUploads().find(params.token);
  const csv = file && (await waitingUploads().refusedRows(file));
  if (csv === undefined) return Response.json({ error: "There are no refused rows of such a file any more." }, { status: 404 });
  return new Response(csv, { headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="nomade-refused-rows.csv"' } });
});
