import { readFile } from "node:fs/promises";
import { refusedRowsFile } from "@/wiring/intake-bundle";
import { waitingFile } from "@/wiring/uploads";
import { route } from "@/wiring/route";

/** The rows of an uploaded bundle that are refused, as CSV to be sent back. */
export const GET = route<{ token: string }>("take-in", async (account, _request, params) => {
  const file = await waitingFile(params.token);
  const csv = file && (await readFile(refusedRowsFile(file.path)).catch(() => undefined));
  if (!csv) return Response.json({ error: "There are no refused rows of such a file any more." }, { status: 404 });
  return new Response(new Uint8Array(csv), { headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="nomade-refused-rows.csv"' } });
});
