"use server";

import Joi from "joi";
import { revalidatePath } from "next/cache";
import { checkInput } from "@/wiring/check-input";
import type { BundleMapping } from "@/wiring/mapping-schema";
import { mappingSchema } from "@/wiring/mapping-schema";
import { nomade } from "@/wiring/nomade";
import { Stopped } from "@/wiring/tasks";
import { dropUpload, waitingFile } from "@/wiring/uploads";
import { accountWith } from "@/wiring/web-session";

const schema = Joi.object<{ token: string; source: string; previewedFor: string; task: string; leaveOut: number; mapping: BundleMapping | undefined; on: number | null }>({
  token: Joi.string().required(),
  source: Joi.string().max(255).allow("").required(),
  previewedFor: Joi.string().max(255).allow("").required(),
  task: Joi.string().max(64).required(),
  leaveOut: Joi.number().integer().min(0).required(),
  mapping: mappingSchema.optional(),
  on: Joi.number().integer().allow(null).required(),
});

/** Stores a file that was shown; `leaveOut` rows of it may be left out, as it was shown how many would be, and `on` is the snapshot that it was shown against. */
export async function storeIntake(token: string, source: string, previewedFor: string, task: string, leaveOut: number, mapping: BundleMapping | undefined, on: number | null) {
  const account = await accountWith("take-in");
  const asked = checkInput(schema, { token, source, previewedFor, task, leaveOut, mapping, on });
  const file = asked.ok ? await waitingFile(asked.value.token) : undefined;
  if (!asked.ok || !file) return { outcome: "gone" as const };
  try {
    const outcome = await nomade.storeIntake(account, asked.value.task, { path: file.path, name: file.name, source: asked.value.source.trim(), previewedFor: asked.value.previewedFor, leaveOut: asked.value.leaveOut, mapping: asked.value.mapping, on: asked.value.on });
    // Nothing was stored: it can be read once more, as another source.
    if (outcome.outcome !== "refused") await dropUpload(file);
    revalidatePath("/", "layout");
    return outcome;
  } catch (error) {
    if (error instanceof Stopped) return { outcome: "stopped" as const };
    throw error;
  }
}
