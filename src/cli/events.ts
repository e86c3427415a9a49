import { parseArgs } from "node:util";
import { takeEventsBack } from "@/wiring/command-line";
import { printLine, Refusal, say, UsageError } from "./output";
import { commandLine, withServices } from "./with-database";

/** A second since 1970 as it is printed; undefined stays so. */
const instant = (second: number | undefined): string | undefined =>
  second === undefined ? undefined : new Date(second * 1000).toISOString().replace(".000Z", "Z");

/** `nomade events`: the files of events that were taken in, the latest first; with `--take-back ID` one of them is taken back. */
export async function events(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { "take-back": { type: "string" } } });
  if (positionals.length > 0) throw new UsageError("events takes no arguments; a file is taken back with --take-back ID.");
  const asked = values["take-back"];
  if (asked !== undefined && !/^\d{1,9}$/.test(asked)) throw new UsageError(`--take-back takes the number of a file of events, not ${asked}.`);
  return withServices(async (services) => {
    if (asked === undefined) {
      for (const { id, name, source, rows, repeated, from, to, takenAt } of await services.events.files())
        await printLine({ id, name, source, rows, repeated, from: instant(from), to: instant(to), takenAt });
      return 0;
    }
    if (!(await takeEventsBack(services, commandLine, Number(asked)))) throw new Refusal(`There is no file of events with the number ${asked}.`);
    say("Taken back, with all that was counted from it; the findings of the present register were looked for anew.");
    return 0;
  });
}
