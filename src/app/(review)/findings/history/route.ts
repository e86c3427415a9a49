import { aboutOfAddress } from "@/features/certification/round-address";
import { nomade } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

/** What was said and done about a finding. */
export const GET = route("read-findings", async (account, request) => {
  const { searchParams } = new URL(request.url);
  const fingerprint = searchParams.get("finding");
  const about = aboutOfAddress({ about: searchParams.get("about") ?? undefined });
  if (fingerprint === null || fingerprint === "") return refuse("No finding is named.", 400);
  if (about === null) return refuse("Whom it is about could not be read: cardholder: or credential: and an id were expected.", 400);
  return Response.json(await nomade.showFindingHistory(account, fingerprint, about));
});
