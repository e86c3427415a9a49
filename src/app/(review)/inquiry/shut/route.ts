import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** What must go before the door of a question no longer opens for its holder. */
export const GET = route("read-whole", async (account, request) => {
  const read = await asking.readInquiry(account, undefined, Object.fromEntries(new URL(request.url).searchParams));
  if (read && !read.ok) return Response.json({ error: `Not understood: ${read.error.map(({ key, text }) => `${key}=${text}`).join(", ")}.` }, { status: 400 });
  const plan = read && (await asking.shutInquiry(account, read.value.snapshot, read.value));
  return plan ? Response.json(plan) : Response.json({ error: "There is no such pair of holder and door in the register." }, { status: 404 });
});
