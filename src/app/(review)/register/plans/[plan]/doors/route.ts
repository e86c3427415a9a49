import { asking } from "@/wiring/nomade";
import { numberInPath } from "@/wiring/web/number-in-path";
import { refuse, route } from "@/wiring/web/route";

/** Doors that could be set on a plan, by a part of their name, id or area. */
export const GET = route<{ plan: string }>("keep-plans", async (account, request, { plan }) => {
  const id = numberInPath(plan);
  const text = new URL(request.url).searchParams.get("text") ?? "";
  const found = id === undefined || text.length > 200 ? undefined : await asking.doorsToPlace(account, undefined, id, text);
  return found ? Response.json(found) : refuse("There is no such plan.", 404);
});
