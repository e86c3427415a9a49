import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

export const GET = route("ask", async (account, request) => {
  const read = await asking.readInquiry(account, undefined, Object.fromEntries(new URL(request.url).searchParams));
  if (read && !read.ok) return Response.json({ error: `Not understood: ${read.error.map(({ key, text }) => `${key}=${text}`).join(", ")}.` }, { status: 400 });
  const trace = read && (await asking.traceInquiry(account, read.value.snapshot, read.value));
  return trace ? Response.json(trace) : Response.json({ error: "There is no such pair of holder and door in the register." }, { status: 404 });
});
