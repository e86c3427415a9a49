import { stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { parseArgs } from "node:util";
import { backUp, PinKeyError, restoreBackup, restorePinKey, savedPinKey } from "@/wiring/command-line";
import { textOfFile } from "./facility-file";
import { exitRefused, printLine, Refusal, say, UsageError } from "./output";
import { asRefusal, commandLine, withServices } from "./with-database";

/** `nomade backup`: everything into one file, of one moment. */
export async function backup(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { out: { type: "string" } } });
  const { out } = values;
  if (out === undefined) throw new UsageError("backup needs --out.");
  return withServices(async (services) => {
    await services.record.append(commandLine, services.now(), { what: "backup.made", on: path.basename(out) });
    await asRefusal(() => backUp(out, services.now()));
    await printLine({ out, bytes: (await stat(out)).size });
    return 0;
  });
}

/** `nomade restore`: puts a backup in the place of the register; the record goes on from where the backup's ends. */
export async function restore(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { replace: { type: "boolean" } } });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new UsageError("restore takes one file.");
  const { at } = await asRefusal(() => restoreBackup(file, !!values.replace));
  return withServices(async (services) => {
    await services.record.append(commandLine, services.now(), { what: "backup.restored", on: path.basename(file), after: { madeAt: at } });
    const found = await services.record.verify();
    await printLine({ restored: file, madeAt: at, snapshots: (await services.snapshots.list()).length, recordIsSound: found.sound });
    return found.sound ? 0 : exitRefused;
  });
}

/** `nomade pin-key`: saves the key of the PINs' tags to a file, or puts a saved one in place. It is in no backup. */
export async function pinKey(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { out: { type: "string" }, restore: { type: "string" }, replace: { type: "boolean" } } });
  if ((values.out === undefined) === (values.restore === undefined)) throw new UsageError("pin-key takes either --out FILE or --restore FILE.");
  if (values.out !== undefined) {
    await writeFile(values.out, savedPinKey(), { mode: 0o600 });
    say(`${values.out}: the key of the PIN tags. Keep it apart from the backups.`);
    return 0;
  }
  const file = values.restore ?? "";
  const text = await textOfFile(file);
  try {
    restorePinKey(text, values.replace ?? false);
  } catch (error) {
    if (error instanceof PinKeyError) throw new Refusal(error.message);
    throw error;
  }
  say("The key of the PIN tags is in place.");
  return 0;
}
