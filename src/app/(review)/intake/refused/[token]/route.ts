import { readFile } from "node:fs/promises";
import { refusedRowsFile } from "@/wiring/intake-bundle";
import { waitingFile } from "@/wiring/uploads";
import { accountForRoute } from "@/wiring/web-session";

/** The rows of an uploaded bundle that are refused, as CSV to be sent back. */
export async function GET(_request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const account = await accountForRoute("take-in");
  if (account instanceof Response) return account;
  const file = await waitingFile((await params).token);
  const csv = file && (await readFile(refusedRowsFile(file.path)).catch(() => undefined));
  if (!csv) return Response.json({ error: "There are no refused rows of such a file any more." }, { status: 404 });
  return new Response(new Uint8Array(csv), { headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="nomade-refused-rows.csv"' } });
}
