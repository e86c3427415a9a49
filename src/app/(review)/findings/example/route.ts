import { isRuleKey } from "@/core/findings/catalogue";
import { asking } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

/** The riskiest finding of a rule in the present register; null where it has none. */
export const GET = route("read-findings", async (account, request) => {
  const rule = new URL(request.url).searchParams.get("rule") ?? "";
  if (!isRuleKey(rule)) return refuse("There is no such rule.", 404);
  return Response.json((await asking.exampleFinding(account, undefined, rule)) ?? null);
});
