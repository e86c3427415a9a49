import { asking } from "@/wiring/nomade";
import { notUnderstood, readAsked } from "@/wiring/web/asked-question";
import { route } from "@/wiring/web/route";

/** Further rows of an answer, from `offset` on. */
export const GET = route("ask", async (account, request) => {
  const { offset = "0", ...parts } = Object.fromEntries(new URL(request.url).searchParams);
  if (!/^[0-9]{1,9}$/.test(offset)) return Response.json({ error: "The offset is a whole number from 0 on." }, { status: 400 });
  const read = await readAsked(account, parts);
  if (read && !read.ok) return notUnderstood(read.error);
  const answer = read?.value.isThere ? await asking.answerInquiry(account, read.value.inquiry.snapshot, read.value.inquiry, Number(offset)) : undefined;
  return answer ? Response.json(answer) : Response.json({ error: "The register does not hold who or where." }, { status: 404 });
});
