import Joi from "joi";
import { checkInput } from "@/wiring/check-input";
import type { BundleMapping } from "@/wiring/mapping-schema";
import { mappingSchema } from "@/wiring/mapping-schema";
import { nomade } from "@/wiring/nomade";
import { Stopped } from "@/wiring/tasks";
import { waitingFile } from "@/wiring/uploads";
import { route } from "@/wiring/route";

const schema = Joi.object<{ task: string; source: string; mapping: BundleMapping | undefined }>({ task: Joi.string().max(64).required(), source: Joi.string().max(255).allow("").required(), mapping: mappingSchema });

/** Reads an uploaded bundle once more with a mapping of its headers. */
export const POST = route<{ token: string }>("take-in", async (account, request, params) => {
  const file = await waitingFile(params.token);
  if (!file) return Response.json({ error: "The uploaded file is no longer there. Drop it again." }, { status: 404 });
  const asked = checkInput(schema, await request.json().catch(() => undefined));
  if (!asked.ok) return Response.json({ error: asked.error }, { status: 400 });
  try {
    const preview = await nomade.previewIntake(account, asked.value.task, { path: file.path, name: file.name, source: asked.value.source, mapping: asked.value.mapping }, request.signal);
    return Response.json({ token: file.token, preview });
  } catch (error) {
    if (error instanceof Stopped) return Response.json({ error: "Stopped; nothing was stored." }, { status: 409 });
    console.error(`${file.name} could not be read:`, error);
    return Response.json({ error: `${file.name} could not be read; nothing was stored. The server’s messages say more.` }, { status: 500 });
  }
});
