import type { Right } from "@/operations/rights";
import { refuse, route } from "./route";
import { progressOf, stopTask } from "../../jobs/watched-work";

const gone = (): Response => refuse("There is no such work going on.", 404);

/** Route handlers to look after one's own long work, for those with the right to begin it: GET says how far it is, DELETE stops it. */
export const taskRoutes = (right: Right) => ({
  GET: route<{ task: string }>(right, (account, _request, { task }) => {
    const progress = progressOf(account, task);
    return progress ? Response.json(progress) : gone();
  }),
  DELETE: route<{ task: string }>(right, (account, _request, { task }) => (stopTask(account, task) ? new Response(null, { status: 204 }) : gone())),
});
