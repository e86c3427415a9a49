"use server";

import Joi from "joi";
import { parseCivilDay } from "@/core/time/civil-day";
import type { Replayed } from "@/features/events/replay-view";
import { checkInput } from "@/wiring/web/check-input";
import { Stopped, watchedWork } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const date = Joi.string().max(32).required();
const task = Joi.string().max(64).required();
const replaySchema = Joi.object<{ from: string; to: string; task: string }>({ from: date, to: date, task });

/** Holds the events from one date to another, that included, against the record of their time. */
export async function replayEvents(from: string, to: string, number: string): Promise<Replayed> {
  const account = await accountWith("read-whole");
  const asked = checkInput(replaySchema, { from, to, task: number });
  const [first, last] = [parseCivilDay(from), parseCivilDay(to)];
  if (!asked.ok || first === undefined || last === undefined) return { outcome: "refused", why: "Give both dates." };
  if (last < first) return { outcome: "refused", why: "The second date is before the first." };
  try {
    const replay = await watchedWork(account, asked.value.task, (work) => work.replayEvents(account, { from: first, to: last }));
    return replay ? { outcome: "replayed", replay } : { outcome: "refused", why: "There is no register yet." };
  } catch (error) {
    if (error instanceof Stopped) return { outcome: "refused", why: "Stopped." };
    throw error;
  }
}

const withdrawalSchema = Joi.object<{ file: number; task: string }>({ file: Joi.number().integer().min(1).required(), task });

/** Takes a file of events back; false where there is none, or it was stopped before. */
export async function withdrawEvents(file: number, number: string): Promise<boolean> {
  const account = await accountWith("take-in");
  const asked = checkInput(withdrawalSchema, { file, task: number });
  if (!asked.ok) return false;
  try {
    return await watchedWork(account, asked.value.task, (work) => work.withdrawEvents(account, asked.value.file));
  } catch (error) {
    if (error instanceof Stopped) return false;
    throw error;
  }
}
