import { nomade } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** How far the effect of a draft is worked out, or the effect; `again` begins once more after it was stopped. */
export const GET = route<{ draft: string }>("read-whole", async (account, request, params) => {
  const state = await nomade.showDraftEffect(account, Number(params.draft) || 0, new URL(request.url).searchParams.has("again"));
  return state ? Response.json(state) : Response.json({ error: "There is no such draft." }, { status: 404 });
});

export const DELETE = route<{ draft: string }>("edit-drafts", async (account, _request, params) => {
  await nomade.stopDraftEffect(account, Number(params.draft) || 0);
  return new Response(null, { status: 204 });
});
