import { registerKinds } from "@/core/register/kinds";
import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

const offered = 30;

/** Objects of some kinds that a draft can refer to, by any part of any field. */
export async function GET(request: Request, { params }: { readonly params: Promise<{ draft: string }> }): Promise<Response> {
  const account = await accountForRoute("edit-drafts");
  if (account instanceof Response) return account;
  const query = new URL(request.url).searchParams;
  const kinds = registerKinds.filter((kind) => query.getAll("kind").includes(kind));
  return Response.json({ items: await nomade.suggestInDraft(account, Number((await params).draft) || 0, kinds, (query.get("text") ?? "").slice(0, 200), offered) });
}
