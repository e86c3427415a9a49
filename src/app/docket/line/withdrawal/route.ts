import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

const gone = (): Response => Response.json({ error: "There is no such line here." }, { status: 404 });

/** What withdrawing a line (`?line=`) would come to. */
export async function GET(request: Request): Promise<Response> {
  const account = await accountForRoute("see-dockets");
  if (account instanceof Response) return account;
  const line = Number(new URL(request.url).searchParams.get("line"));
  const withdrawal = Number.isSafeInteger(line) ? await nomade.withdrawal(account, line) : undefined;
  return withdrawal ? Response.json(withdrawal) : gone();
}
