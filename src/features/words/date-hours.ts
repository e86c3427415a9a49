import { formatClock, minutesADay } from "@/core/time/civil-day";
import type { IntervalSet } from "@/core/time/intervals";
import { totalMinutes } from "@/core/time/intervals";

/** The hours of one date: "08:00–18:00", "all day", "stays shut". */
export function hoursOfDate(open: IntervalSet): string {
  if (open.length === 0) return "stays shut";
  if (totalMinutes(open) === minutesADay) return "all day";
  const parts: string[] = [];
  for (let i = 0; i < open.length; i += 2) parts.push(`${formatClock(open[i] ?? 0)}–${formatClock(open[i + 1] ?? 0)}`);
  return parts.join(", ");
}
