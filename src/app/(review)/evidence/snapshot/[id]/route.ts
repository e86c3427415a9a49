import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const account = await accountForRoute("read-register");
  if (account instanceof Response) return account;
  const id = Number((await params).id);
  const frozen = Number.isInteger(id) ? await nomade.frozenSnapshot(account, id) : undefined;
  if (!frozen) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
  return new Response(frozen.text, {
    headers: { "content-type": "application/json; charset=utf-8", "content-disposition": `attachment; filename="nomade-snapshot-${id}.json"` },
  });
}
