import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** In what ways a line (`?line=`) can be narrowed. */
export const GET = route("see-dockets", async (account, request) => {
  const line = Number(new URL(request.url).searchParams.get("line"));
  const choices = Number.isSafeInteger(line) ? await asking.showNarrowings(account, line) : undefined;
  return choices ? Response.json(choices) : Response.json({ error: "There is no such line here, or it is about a card." }, { status: 404 });
});
