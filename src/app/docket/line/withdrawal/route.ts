import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

const gone = (): Response => Response.json({ error: "There is no such line here." }, { status: 404 });

/** What withdrawing a line (`?line=`) would come to. */
export const GET = route("see-dockets", async (account, request) => {
  const line = Number(new URL(request.url).searchParams.get("line"));
  const withdrawal = Number.isSafeInteger(line) ? await asking.showWithdrawal(account, line) : undefined;
  return withdrawal ? Response.json(withdrawal) : gone();
});
