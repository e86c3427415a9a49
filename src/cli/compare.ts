import { parseArgs } from "node:util";
import { causesOf } from "@/core/compare/causes";
import { compareAccess } from "@/core/compare/compare-access";
import { accessTable } from "@/core/table/access-table";
import { exactTimeframe } from "@/core/paths/timeframe";
import { AccessWorld } from "@/core/table/access-world";
import { minuteUp } from "@/core/time/instant";
import { compiledFile, instantArgument, minuteArgument } from "./facility-file";
import { linePrinter, UsageError } from "./output";

/** `nomade compare`: what changed in access from one document to another, a line for each cardholder and door, with the causes. */
export async function compare(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { from: { type: "string" }, to: { type: "string" }, lockdown: { type: "boolean" }, "as-if-live": { type: "boolean" } },
  });
  const [before, after, ...more] = positionals;
  if (before === undefined || after === undefined || more.length > 0) throw new UsageError("compare takes two facility documents.");
  const [from, to] = [minuteArgument("from", values.from), minuteUp(instantArgument("to", values.to))];
  if (from >= to) throw new UsageError("--from must be before --to.");
  const mode = { lockdown: !!values.lockdown, asIfLive: !!values["as-if-live"] };
  const [a, b] = [await compiledFile(before), await compiledFile(after)];
  const world = new AccessWorld();
  const [was, is] = [accessTable(a, exactTimeframe(a, from, to, mode), world), accessTable(b, exactTimeframe(b, from, to, mode), world)];
  const printer = linePrinter();
  for (const { kind, id, changes } of compareAccess(was, is))
    for (const { door, change, minutesMore, minutesLess } of kind === "cardholder" ? changes : [])
      await printer.print(JSON.stringify({ cardholder: id, door, change, minutesMore, minutesLess, causes: causesOf(a, b, { kind, id }, door) }));
  await printer.flush();
  return 0;
}
