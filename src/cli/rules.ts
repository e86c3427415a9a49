import { parseArgs } from "node:util";
import { keepSettings } from "@/wiring/command-line";
import { textOfFile } from "./facility-file";
import { exitRefused, printLine, Refusal, say, UsageError } from "./output";
import { commandLine, withServices } from "./with-database";

/** `nomade rules`: how the rules judge here; with `--keep FILE` they judge as that says from then on, and look anew. */
export async function rules(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { keep: { type: "string" } } });
  if (positionals.length > 0) throw new UsageError("rules takes no arguments; settings are kept with --keep FILE.");
  return withServices(async (services) => {
    if (values.keep === undefined) {
      await printLine((await services.ruleSettings.current()).settings);
      return 0;
    }
    const kept = await keepSettings(services, commandLine, await textOfFile(values.keep));
    if (kept === undefined) throw new Refusal("There is no register yet that settings could speak of. Take a facility in first.");
    if (kept.outcome === "kept") say("Kept; the findings of the present register were looked for anew.");
    else if (kept.outcome === "refused") throw new Refusal(kept.errors.join("\n"));
    return kept.outcome === "kept" ? 0 : exitRefused;
  });
}
