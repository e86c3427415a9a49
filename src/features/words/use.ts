import type { EpochMinute } from "@/core/time/instant";
import { agoText } from "./times";

/** How a door was used: when last, or never, or that the events do not say. */
export function wordsOfUse(use: { readonly count: number; readonly last: EpochMinute | undefined; readonly covered: boolean }, now: EpochMinute): string {
  if (use.last !== undefined) return agoText(use.last, now);
  return use.covered ? "never" : "cannot tell";
}
