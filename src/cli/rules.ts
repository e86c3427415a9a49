import { readFile } from "node:fs/promises";
import { parseArgs } from "node:util";
import { keepSettings } from "@/wiring/command-line";
import { openServices } from "@/wiring/services";
import { exitRefused, printLine, Refusal, say, UsageError } from "./output";

/** `nomade rules`: how the rules judge here; with `--keep FILE` they judge as that says from then on, and look anew. */
export async function rules(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { keep: { type: "string" } } });
  if (positionals.length > 0) throw new UsageError("rules takes no arguments; settings are kept with --keep FILE.");
  const services = openServices();
  try {
    if (values.keep === undefined) {
      await printLine((await services.ruleSettings.current()).settings);
      return 0;
    }
    const file = values.keep;
    const text = await readFile(file, "utf8").catch((error: NodeJS.ErrnoException) => {
      throw new UsageError(`The file ${file} cannot be read: ${error.code ?? error.message}.`);
    });
    const kept = await keepSettings(services, { signIn: "command line" }, text);
    if (kept === undefined) throw new Refusal("There is no register yet that settings could speak of. Take a facility in first.");
    if (kept.outcome === "kept") say("Kept; the findings of the present register were looked for anew.");
    else if (kept.outcome === "refused") throw new Refusal(kept.errors.join("\n"));
    return kept.outcome === "kept" ? 0 : exitRefused;
  } finally {
    await services.close();
  }
}
