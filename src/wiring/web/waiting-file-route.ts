import type Joi from "joi";
import type { Account } from "@/operations/ports/accounts";
import type { WaitingFile } from "@/operations/ports/source-files";
import { Stopped, waitingUploads, watchedWork } from "@/wiring/nomade";
import type { WatchedOperations } from "@/wiring/nomade";
import { checkInput } from "./check-input";
import { route } from "./route";

/** A route handler that does something with a file that waits, as long work that can be stopped; what it gives is answered beside the file's token. */
export const waitingFileRoute = <Asked extends { readonly task: string }>(
  schema: Joi.ObjectSchema<Asked>,
  use: (work: WatchedOperations, account: Account, file: WaitingFile, asked: Asked) => Promise<object>,
) =>
  route<{ token: string }>("take-in", async (account, request, params) => {
    const file = await waitingUploads().find(params.token);
    if (!file) return Response.json({ error: "The uploaded file is no longer there. Drop it again." }, { status: 404 });
    const asked = checkInput(schema.required(), await request.json().catch(() => undefined));
    if (!asked.ok) return Response.json({ error: asked.error }, { status: 400 });
    try {
      const found = await watchedWork(account, asked.value.task, (work) => use(work, account, file, asked.value), request.signal);
      return Response.json({ token: file.token, ...found });
    } catch (error) {
      if (error instanceof Stopped) return Response.json({ error: "Stopped; nothing was stored." }, { status: 409 });
      console.error(`${file.name} could not be read:`, error);
      return Response.json({ error: `${file.name} could not be read; nothing was stored. The server’s messages say more.` }, { status: 500 });
    }
  });
