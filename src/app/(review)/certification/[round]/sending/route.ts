import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** What sending the orders of a round would come to, planned anew on the present register. */
export const GET = route<{ round: string }>("run-rounds", async (account, _request, params) => {
  const id = Number(params.round);
  const preview = Number.isInteger(id) ? await asking.previewSending(account, id) : undefined;
  return preview ? Response.json(preview) : Response.json({ error: "There is no such round." }, { status: 404 });
});
