import { BundleError } from "@/intake/formats/tables/bundle-error";
import { readFile, writeFile } from "node:fs/promises";
import { alteredWords, ArchiveError, BackupError } from "@/wiring/command-line";
import { openServices } from "@/wiring/services";
import type { Services } from "@/operations/services";
import { Refusal, UsageError } from "./output";

/** Who the record says did what commands do. */
export const commandLine = { signIn: "command line" };

/** Opens the services for as long as they are used. */
export async function withServices<T>(use: (services: Services) => Promise<T>): Promise<T> {
  const services = openServices();
  try {
    return await use(services);
  } finally {
    await services.close();
  }
}

/** The number that an option takes. */
export const wholeNumber = (option: string, text: string): number => {
  if (!/^\d{1,9}$/.test(text)) throw new UsageError(`--${option} takes a whole number, not ${text}.`);
  return Number(text);
};

/** The snapshot of a number as it was typed, or the latest. */
export async function snapshotAsked(services: Services, id: string | undefined) {
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(wholeNumber("snapshot", id));
  if (!snapshot) throw new UsageError(id === undefined ? "There is no snapshot yet." : `There is no snapshot ${id}.`);
  return snapshot;
}

/** The bytes of a file that was named on the command line. */
export const bytesOf = (file: string): Promise<Buffer> =>
  readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`The file ${file} cannot be read: ${error.code ?? error.message}.`);
  });

/** Writes a file that was named on the command line. */
export const writeTo = (file: string, content: string | Uint8Array): Promise<void> =>
  writeFile(file, content).catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`The file ${file} cannot be written: ${error.code ?? error.message}.`);
  });

/** What fails because of the files or the data at hand, as a refusal in words; anything else as it is. */
export async function asRefusal<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const words = error instanceof BackupError || error instanceof ArchiveError || error instanceof BundleError ? error.message : alteredWords(error);
    throw words === undefined ? error : new Refusal(words);
  }
}
