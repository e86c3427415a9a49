import { asking } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

/** How many reach doors of each sensitivity in a snapshot. */
export const GET = route("ask", async (account, request) => {
  const snapshot = new URL(request.url).searchParams.get("snapshot") ?? "";
  if (!/^[1-9][0-9]{0,8}$/.test(snapshot)) return refuse("A snapshot is told by its number, such as snapshot=3.", 400);
  const reach = await asking.sensitivityOfReach(account, Number(snapshot));
  return reach ? Response.json(reach) : refuse("There is no such snapshot.", 404);
});
