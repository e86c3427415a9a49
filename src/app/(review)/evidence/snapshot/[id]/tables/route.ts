import { bundleZip } from "@/wiring/bundle-zip";
import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

/** A snapshot as a ZIP of CSV tables; taking it in again gives the same hash. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const account = await accountForRoute("read-register");
  if (account instanceof Response) return account;
  const id = Number((await params).id);
  const frozen = Number.isInteger(id) ? await nomade.frozenSnapshot(account, id) : undefined;
  if (!frozen) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
  return new Response(new Uint8Array(bundleZip(frozen.text, frozen.snapshot.takenAt)), {
    headers: { "content-type": "application/zip", "content-disposition": `attachment; filename="nomade-snapshot-${id}.zip"` },
  });
}
