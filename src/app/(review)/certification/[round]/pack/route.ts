import { Stopped, watchedWork } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

const taskForm = /^[0-9a-f-]{1,64}$/;

/** The evidence pack of a round; `task` is the number under which the page looks after it. */
export const GET = route<{ round: string }>("read-whole", async (account, request, params) => {
  const id = Number(params.round);
  const task = new URL(request.url).searchParams.get("task") ?? crypto.randomUUID();
  if (!taskForm.test(task)) return refuse("The number of the task cannot be understood.", 400);
  try {
    const pack = Number.isSafeInteger(id) ? await watchedWork(account, task, (work) => work.exportRound(account, id), request.signal) : undefined;
    if (!pack) return refuse("There is no such round.", 404);
    return new Response(new Uint8Array(pack.bytes), {
      headers: { "content-type": "application/zip", "content-disposition": `attachment; filename="nomade-round-${id}.zip"`, "x-pack-hash": pack.packHash },
    });
  } catch (error) {
    if (error instanceof Stopped) return refuse("It was stopped; nothing was made.", 409);
    throw error;
  }
});
