import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

interface Params {
  readonly params: Promise<{ task: string }>;
}

const gone = (): Response => Response.json({ error: "There is no such work going on." }, { status: 404 });

/** How far a piece of work is. */
export async function GET(_request: Request, { params }: Params): Promise<Response> {
  const account = await accountForRoute("take-in");
  if (account instanceof Response) return account;
  const progress = nomade.progressOf(account, (await params).task);
  return progress ? Response.json(progress) : gone();
}

/** Stops it. */
export async function DELETE(_request: Request, { params }: Params): Promise<Response> {
  const account = await accountForRoute("take-in");
  if (account instanceof Response) return account;
  return nomade.stopTask(account, (await params).task) ? new Response(null, { status: 204 }) : gone();
}
