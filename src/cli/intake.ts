import { access } from "node:fs/promises";
import path from "node:path";
import { parseArgs } from "node:util";
import type { UnknownInEvents } from "@/operations/services";
import { previewFile, storeFile } from "@/wiring/command-line";
import { checkInput } from "@/wiring/web/check-input";
import { intakeMoment, profileSchema } from "@/wiring/web/profile-input";
import type { SourceProfile } from "@/wiring/web/profile-input";
import { textOfFile } from "./facility-file";
import { exitRefused, printLine, say, UsageError } from "./output";
import { commandLine, wholeNumber, withServices } from "./with-database";

/** A source profile as it is written in a file. */
export async function profileFile(file: string): Promise<SourceProfile> {
  const text = await textOfFile(file);
  try {
    const checked = checkInput(profileSchema, JSON.parse(text));
    if (checked.ok) return checked.value;
    throw new UsageError(`${file}: ${checked.error}`);
  } catch (error) {
    if (error instanceof SyntaxError) throw new UsageError(`${file} is no JSON: ${error.message}.`);
    throw error;
  }
}

/** `nomade intake`: takes files in, one after another; stops at the first that is refused. */
export async function intake(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      source: { type: "string" },
      "dry-run": { type: "boolean" },
      "leave-out": { type: "string" },
      profile: { type: "string" },
      "as-of": { type: "string" },
    },
  });
  if (positionals.length === 0) throw new UsageError("intake takes one or more files.");
  for (const file of positionals)
    await access(file).catch(() => {
      throw new UsageError(`The file ${file} cannot be read.`);
    });
  const leaveOut = values["leave-out"] === undefined ? 0 : wholeNumber("leave-out", values["leave-out"]);
  const stated = values.profile === undefined ? undefined : await profileFile(values.profile);
  const asOf = values["as-of"];
  if (asOf !== undefined && !checkInput(intakeMoment, asOf).ok) throw new UsageError(`--as-of is ${asOf}; expected an instant such as 2026-03-02T08:00:00Z.`);
  return withServices(async (services) => {
    const readAs = {
      profile: stated ?? (values.source === undefined ? undefined : await services.sources.profile(values.source)),
      owns: values.source === undefined ? {} : await services.sources.owns(values.source),
      ...(asOf !== undefined && { asOf }),
    };
    for (const file of positionals) {
      const name = path.basename(file);
      if (values["dry-run"]) {
        const preview = await previewFile(services, file, name, readAs);
        await printLine(preview);
        if (preview.kind === "refused") return exitRefused;
        continue;
      }
      const taken = await storeFile(services, file, name, values.source ?? "", commandLine, { leaveOut, readAs });
      if (taken.outcome === "refused") {
        for (const error of taken.errors) say(JSON.stringify(error));
        if (readAs.profile === undefined && taken.errors.some(({ code }) => code === "refused-row"))
          say(`${name}: if another system wrote it, nomade profile shows how it seems to be written, and --profile takes it in so.`);
        if (taken.errorCount > taken.errors.length) say(`… and ${taken.errorCount - taken.errors.length} more errors; nomade check lists them all.`);
        return exitRefused;
      }
      await printLine(taken);
      if (taken.outcome === "stored" && taken.snapshot !== undefined && values.source === undefined)
        say(`${name}: no source was named (--source), so what it brought is no source's own.`);
      if (taken.outcome === "stored" && taken.unknown) for (const line of unknownWords(taken.unknown)) say(`${name}: ${line}`);
      say(
        taken.outcome === "unchanged"
          ? `${name}: nothing changed, the register stands just so already.`
          : `${name}: stored, ${taken.rows} rows${taken.snapshot === undefined ? "" : `, snapshot ${taken.snapshot}`}.`,
      );
    }
    return 0;
  });
}

/** What of events the register does not know; they are kept, and count for nothing until it does. */
function unknownWords({ doors, credentials, someDoors, someCredentials }: UnknownInEvents): string[] {
  const told = (count: number, one: string, some: readonly string[]): string[] =>
    count === 0
      ? []
      : [`the register knows nothing of ${count} ${one}${count === 1 ? "" : "s"} of these events: ${some.join(", ")}${count > some.length ? ", …" : ""}.`];
  return [...told(doors, "door", someDoors), ...told(credentials, "credential", someCredentials)];
}
