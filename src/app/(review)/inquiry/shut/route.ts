import { asking } from "@/wiring/nomade";
import { notUnderstood, readAsked } from "@/wiring/web/asked-question";
import { route } from "@/wiring/web/route";

/** What must go before the door of a question no longer opens for its holder. */
export const GET = route("read-whole", async (account, request) => {
  const read = await readAsked(account, Object.fromEntries(new URL(request.url).searchParams));
  if (read && !read.ok) return notUnderstood(read.error);
  const plan = read && (await asking.shutInquiry(account, read.value.inquiry.snapshot, read.value.inquiry));
  return plan ? Response.json(plan) : Response.json({ error: "There is no such pair of holder and door in the register." }, { status: 404 });
});
