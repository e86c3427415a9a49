"use server";

import Joi from "joi";
import { revalidatePath } from "next/cache";
import { checkInput } from "@/wiring/web/check-input";
import type { SourceProfile } from "@/wiring/web/profile-input";
import { intakeMoment, profileSchema } from "@/wiring/web/profile-input";
import { nomade, Stopped, waitingUploads, watchedWork } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const takingBack = Joi.object<{ snapshot: number; reason: string; task: string }>({
  snapshot: Joi.number().integer().required(),
  reason: Joi.string().max(1000).allow("").required(),
  task: Joi.string().max(64).required(),
});

/** Takes the latest intake back as a whole; a sentence where that cannot be. */
export async function takeBackIntake(snapshot: number, reason: string, task: string): Promise<string | undefined> {
  const account = await accountWith("take-in");
  const asked = checkInput(takingBack, { snapshot, reason, task });
  if (!asked.ok) return asked.error;
  const outcome = await watchedWork(account, asked.value.task, (work) => work.takeBackIntake(account, asked.value.snapshot, asked.value.reason));
  revalidatePath("/", "layout");
  return outcome.outcome === "refused" ? outcome.errors.map(({ message }) => message).join(" ") : undefined;
}

/** Discards something that arrived, without storing it. */
export async function discard(token: string): Promise<void> {
  const account = await accountWith("take-in");
  const asked = checkInput(Joi.string().max(64).required(), token);
  if (asked.ok) await nomade.settleArrival(account, asked.value, false);
  revalidatePath("/intake");
}

const schema = Joi.object<{
  token: string;
  source: string;
  previewedFor: string;
  task: string;
  leaveOut: number;
  profile: SourceProfile | undefined;
  asOf: string | undefined;
  on: number | null;
}>({
  token: Joi.string().required(),
  source: Joi.string().max(255).allow("").required(),
  previewedFor: Joi.string().max(255).allow("").required(),
  task: Joi.string().max(64).required(),
  leaveOut: Joi.number().integer().min(0).required(),
  profile: profileSchema.optional(),
  asOf: intakeMoment.optional(),
  on: Joi.number().integer().allow(null).required(),
});

/**
 * Stores a file that was shown; `leaveOut` rows of it may be left out, as it was shown how many would be, and `on` is the snapshot that it was shown against.
 */
export async function storeIntake(
  token: string,
  source: string,
  previewedFor: string,
  task: string,
  leaveOut: number,
  profile: SourceProfile | undefined,
  asOf: string | undefined,
  on: number | null,
) {
  const account = await accountWith("take-in");
  const asked = checkInput(schema, { token, source, previewedFor, task, leaveOut, profile, asOf, on });
  const file = asked.ok ? await waitingUploads().find(asked.value.token) : undefined;
  if (!asked.ok || !file) return { outcome: "gone" as const };
  const { token: _token, task: number, ...given } = asked.value;
  try {
    const outcome = await watchedWork(account, number, (work) =>
      work.storeIntake(account, { ...given, path: file.path, name: file.name, source: given.source.trim() }),
    );
    // Nothing was stored: it can be read once more, as another source.
    if (outcome.outcome !== "refused") {
      await nomade.settleArrival(account, file.token, true);
      await waitingUploads().drop(file);
    }
    revalidatePath("/", "layout");
    return outcome;
  } catch (error) {
    if (error instanceof Stopped) return { outcome: "stopped" as const };
    throw error;
  }
}
