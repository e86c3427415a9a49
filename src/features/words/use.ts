import { coversPeriod } from "@/core/events/coverage";
import { daysOfUse } from "@/core/findings/use";
import type { DoorUse } from "@/core/findings/use";
import type { EpochMinute } from "@/core/time/instant";
import { agoText } from "./times";

/** How a door was used: when last, or that it was not in a stated time, or that the events do not say. */
export function wordsOfUse({ last, coveredDays }: DoorUse, now: EpochMinute): string {
  if (last !== undefined) return agoText(last, now);
  return coversPeriod(coveredDays, daysOfUse) ? `not in ${daysOfUse} days` : "cannot tell";
}
