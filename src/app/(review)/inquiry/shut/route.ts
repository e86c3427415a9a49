import { asking } from "@/wiring/nomade";
import { readAnswerable, registerOf } from "@/wiring/web/asked-question";
import { refuse, route } from "@/wiring/web/route";

/** What must go before the door of a question no longer opens for its holder. */
export const GET = route("read-whole", async (account, request) => {
  const asked = await readAnswerable(account, Object.fromEntries(new URL(request.url).searchParams));
  if (asked instanceof Response) return asked;
  const plan = await asking.shutInquiry(account, registerOf(asked.inquiry), asked.inquiry);
  return plan ? Response.json(plan) : refuse("There is no such pair of holder and door in the register.", 404);
});
