import { asking } from "@/wiring/nomade";
import { notUnderstood, readAsked } from "@/wiring/web/asked-question";
import { route } from "@/wiring/web/route";

export const GET = route("ask", async (account, request) => {
  const read = await readAsked(account, Object.fromEntries(new URL(request.url).searchParams));
  if (read && !read.ok) return notUnderstood(read.error);
  const trace = read && (await asking.traceInquiry(account, read.value.inquiry.snapshot, read.value.inquiry));
  return trace ? Response.json(trace) : Response.json({ error: "There is no such pair of holder and door in the register." }, { status: 404 });
});
