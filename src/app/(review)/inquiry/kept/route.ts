import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** How the answer to a kept question changed with the last intake. */
export const GET = route("ask", async (account, request) => {
  const id = new URL(request.url).searchParams.get("id") ?? "";
  const change = /^[1-9][0-9]{0,8}$/.test(id) ? await asking.changeOfQuestion(account, Number(id)) : undefined;
  return change ? Response.json(change) : Response.json({ error: "You keep no such question." }, { status: 404 });
});
