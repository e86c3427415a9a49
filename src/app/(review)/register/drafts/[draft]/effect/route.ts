import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

interface Params {
  readonly params: Promise<{ draft: string }>;
}

/** How far the effect of a draft is worked out, or the effect; `again` begins once more after it was stopped. */
export async function GET(request: Request, { params }: Params): Promise<Response> {
  const account = await accountForRoute("read-register");
  if (account instanceof Response) return account;
  const state = await nomade.draftEffect(account, Number((await params).draft) || 0, new URL(request.url).searchParams.has("again"));
  return state ? Response.json(state) : Response.json({ error: "There is no such draft." }, { status: 404 });
}

export async function DELETE(_request: Request, { params }: Params): Promise<Response> {
  const account = await accountForRoute("edit-drafts");
  if (account instanceof Response) return account;
  await nomade.stopDraftEffect(account, Number((await params).draft) || 0);
  return new Response(null, { status: 204 });
}
