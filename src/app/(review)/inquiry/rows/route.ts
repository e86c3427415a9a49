import { asking } from "@/wiring/nomade";
import { readAnswerable, registerOf } from "@/wiring/web/asked-question";
import { refuse, route } from "@/wiring/web/route";

/** Further rows of an answer, from `offset` on. */
export const GET = route("ask", async (account, request) => {
  const { offset = "0", ...parts } = Object.fromEntries(new URL(request.url).searchParams);
  if (!/^[0-9]{1,9}$/.test(offset)) return refuse("The offset is a whole number from 0 on.", 400);
  const asked = await readAnswerable(account, parts);
  if (asked instanceof Response) return asked;
  const answer = await asking.answerInquiry(account, registerOf(asked.inquiry), asked.inquiry, Number(offset));
  return answer ? Response.json(answer) : refuse("There is no such snapshot.", 404);
});
