import { asking } from "@/wiring/nomade";
import { readAnswerable, registerOf } from "@/wiring/web/asked-question";
import { refuse, route } from "@/wiring/web/route";

/** Why somebody opens a door, or does not. */
export const GET = route("ask", async (account, request) => {
  const asked = await readAnswerable(account, Object.fromEntries(new URL(request.url).searchParams));
  if (asked instanceof Response) return asked;
  const trace = await asking.traceInquiry(account, registerOf(asked.inquiry), asked.inquiry);
  return trace ? Response.json(trace) : refuse("There is no such pair of holder and door in the register.", 404);
});
