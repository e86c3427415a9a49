import { nomade } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

/** What was said and done about a finding. */
export const GET = route("read-findings", async (account, request) => {
  const fingerprint = new URL(request.url).searchParams.get("finding");
  if (fingerprint === null || fingerprint === "") return refuse("No finding is named.", 400);
  return Response.json(await nomade.showFindingHistory(account, fingerprint));
});
