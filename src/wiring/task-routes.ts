import type { Right } from "@/operations/rights";
import { progressOf, stopTask } from "./tasks";
import { accountForRoute } from "./web-session";

interface Params {
  readonly params: Promise<{ task: string }>;
}

const gone = (): Response => Response.json({ error: "There is no such work going on." }, { status: 404 });

/** Route handlers to look after one's own long work, for those with the right to begin it: GET says how far it is, DELETE stops it. */
export const taskRoutes = (right: Right) => ({
  GET: async (_request: Request, { params }: Params): Promise<Response> => {
    const account = await accountForRoute(right);
    if (account instanceof Response) return account;
    const progress = progressOf(account, (await params).task);
    return progress ? Response.json(progress) : gone();
  },
  DELETE: async (_request: Request, { params }: Params): Promise<Response> => {
    const account = await accountForRoute(right);
    if (account instanceof Response) return account;
    return stopTask(account, (await params).task) ? new Response(null, { status: 204 }) : gone();
  },
});
