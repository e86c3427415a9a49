import { registerKinds } from "@/core/register/kinds";
import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

const offered = 30;

/** Objects of some kinds that a draft can refer to, by any part of any field. */
export const GET = route<{ draft: string }>("edit-drafts", async (account, request, params) => {
  const query = new URL(request.url).searchParams;
  const kinds = registerKinds.filter((kind) => query.getAll("kind").includes(kind));
  return Response.json({ items: await asking.suggestInDraft(account, Number(params.draft) || 0, kinds, (query.get("text") ?? "").slice(0, 200), offered) });
});
