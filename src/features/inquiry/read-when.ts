import { parse } from "chrono-node/en";
import { civilDay } from "@/core/time/civil-day";
import type { When } from "@/operations/inquiry";
import { momentText } from "../words/times";

export interface WhenChoice {
  readonly label: string;
  readonly when: When;
}

const standing: readonly WhenChoice[] = [
  { label: "now", when: { kind: "now" } },
  { label: "at any time", when: { kind: "any" } },
  { label: "at night (20–06)", when: { kind: "band", band: "nights" } },
  { label: "at weekends", when: { kind: "band", band: "weekends" } },
  { label: "out of hours", when: { kind: "band", band: "out-of-hours" } },
];

/** How a filled part of the question line reads. */
export function whenText(when: When): string {
  if (when.kind === "moment") return momentText(when.date, when.minuteOfDay);
  return standing.find((choice) => choice.when.kind === when.kind && (when.kind !== "band" || (choice.when as { band?: string }).band === when.band))?.label ?? "";
}

/** What a typed text may mean: moments that it names ("next friday 22:00"), and standing choices that it is part of. */
export function readWhen(text: string, today: Date): WhenChoice[] {
  const wanted = text.trim().toLowerCase();
  const moments = wanted === "" ? [] : parse(text, today, { forwardDate: true }).map(({ start }): WhenChoice => {
    const date = civilDay(start.get("year") ?? 1970, start.get("month") ?? 1, start.get("day") ?? 1);
    // A day named without a clock time is looked at when it is half over.
    const minuteOfDay = start.isCertain("hour") ? (start.get("hour") ?? 0) * 60 + (start.get("minute") ?? 0) : 12 * 60;
    return { label: momentText(date, minuteOfDay), when: { kind: "moment", date, minuteOfDay } };
  });
  return [...moments, ...standing.filter(({ label }) => label.includes(wanted))];
}
