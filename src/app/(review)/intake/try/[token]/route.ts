import Joi from "joi";
import { checkInput } from "@/wiring/web/check-input";
import { profileSchema } from "@/wiring/web/profile-input";
import type { SourceProfile } from "@/wiring/web/profile-input";
import { Stopped, waitingUploads, watchedWork } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

const schema = Joi.object<{ task: string; source: string; profile: SourceProfile | undefined }>({
  task: Joi.string().max(64).required(),
  source: Joi.string().max(255).allow("").required(),
  profile: profileSchema,
});

/** Shows what a file that waits holds, and what its first rows make by a profile; stores nothing. */
export const POST = route<{ token: string }>("take-in", async (account, request, params) => {
  const file = await waitingUploads().find(params.token);
  if (!file) return Response.json({ error: "The uploaded file is no longer there. Drop it again." }, { status: 404 });
  const asked = checkInput(schema, await request.json().catch(() => undefined));
  if (!asked.ok) return Response.json({ error: asked.error }, { status: 400 });
  try {
    const tried = await watchedWork(
      account,
      asked.value.task,
      (work) => work.tryProfile(account, { path: file.path, name: file.name, source: asked.value.source, profile: asked.value.profile }),
      request.signal,
    );
    return Response.json({ token: file.token, tried });
  } catch (error) {
    if (error instanceof Stopped) return Response.json({ error: "Stopped; nothing was stored." }, { status: 409 });
    console.error(`${file.name} could not be read:`, error);
    return Response.json({ error: `${file.name} could not be read; nothing was stored. The server’s messages say more.` }, { status: 500 });
  }
});
