import { compileFacility } from "@/core/compile/compile-facility";
import { businessLines } from "@/core/findings/business-hours";
import { invariant } from "@/core/kernel/invariant";
import { pairBlocks, summaries } from "@/core/table/pair-summaries";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { tableOf } from "./institute";

/** Reads, checks, compiles and lays out everything, and gives the peak; `withPairs`, the summary of every pair is written out as well. */
export function peakMemory(text: string, withPairs: boolean): { readonly peakBytes: number; readonly fileBytes: number; readonly pairs: number } {
  const read = readFacility(text);
  invariant(read.ok, "the demo is in order");
  const table = tableOf(compileFacility(read.value.facility));
  let pairs = 0;
  if (withPairs) {
    const kept: Int32Array[] = [];
    for (const { length, cardholders, doors, minutes, outOfHoursMinutes, first, last } of pairBlocks(
      table,
      summaries(table, businessLines(table, table.compiled)),
    )) {
      for (const column of [cardholders, doors, minutes, outOfHoursMinutes, first, last]) kept.push(column.slice(0, length));
      pairs += length;
    }
  }
  return { peakBytes: process.resourceUsage().maxRSS * 1024, fileBytes: Buffer.byteLength(text), pairs };
}
