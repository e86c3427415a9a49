import type { Narrowing } from "@/core/certification/decide-line";
import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

const gone = (): Response => Response.json({ error: "There is no such line here." }, { status: 404 });

/** How a line would be narrowed, as an address says it; undefined where it would be withdrawn whole. */
function narrowingOf(asked: URLSearchParams): Narrowing | undefined {
  const shut = asked.getAll("shut");
  if (shut.length > 0) return { kind: "doors", shut };
  const [schedule, until] = [asked.get("schedule"), asked.get("until")];
  return schedule === null && until === null ? undefined : { kind: "hours", ...(schedule !== null && { schedule }), ...(until !== null && { until }) };
}

/** What withdrawing a line (`?line=`) would come to, or narrowing it (`&schedule=`, `&until=` or `&shut=`). */
export const GET = route("see-dockets", async (account, request) => {
  const asked = new URL(request.url).searchParams;
  const line = Number(asked.get("line"));
  const withdrawal = Number.isSafeInteger(line) ? await asking.showWithdrawal(account, line, narrowingOf(asked)) : undefined;
  return withdrawal ? Response.json(withdrawal) : gone();
});
