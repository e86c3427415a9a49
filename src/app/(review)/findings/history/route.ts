import { nomade } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

/** What was said and done about a finding. */
export const GET = route("read-findings", async (account, request) => {
  const { searchParams } = new URL(request.url);
  const fingerprint = searchParams.get("finding");
  const snapshot = Number(searchParams.get("snapshot"));
  if (fingerprint === null || fingerprint === "" || !Number.isSafeInteger(snapshot)) return refuse("No finding of a snapshot is named.", 400);
  return Response.json(await nomade.showFindingHistory(account, snapshot, fingerprint));
});
