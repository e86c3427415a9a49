import { createHash } from "node:crypto";
import * as backups from "@/data/backup";
import { migrateAsOwner } from "@/data/migrate";
import { checkStamp } from "@/data/time-stamp-token";
import * as pinKeys from "@/data/pin-key";
import { AlteredSnapshot } from "@/operations/ports/snapshots";
import { databaseSettings, dataFolder } from "./environment";

/** What the command line does with the installation as a whole, bound to the one that the environment names. */
const installation = (): backups.Installation => ({ database: databaseSettings(), dataFolder: dataFolder() });

export const backUp = (out: string, at: string): Promise<void> => backups.backUp(installation(), out, at);
export const restoreBackup = (file: string, replace: boolean): Promise<{ readonly at: string }> => backups.restoreBackup(installation(), file, replace);
export const savedPinKey = (): string => pinKeys.savedPinKey(dataFolder());
export const restorePinKey = (text: string, replace: boolean): void => pinKeys.restorePinKey(dataFolder(), text, replace);
export const migrateDatabase = (): Promise<void> => migrateAsOwner(databaseSettings());

export { BackupError } from "@/data/backup";
export { PinKeyError } from "@/data/pin-key";
export { addDemoAccounts, demoSignIns } from "@/operations/administration/demo-accounts";
export { addDemoPlans } from "@/operations/administration/demo-plans";
export { addDemoTrials } from "@/operations/administration/demo-trials";
export { addDemoHouseRules } from "@/operations/administration/demo-house-rules";
export { addDemoRound, demoRounds } from "@/operations/administration/demo-rounds";
export { previewFile, storeFile } from "@/operations/intake/intake-file";
export { takeBackSnapshot } from "@/operations/intake/take-back";
export { trySource } from "@/operations/intake/try-profile";
export { takeEventsBack } from "@/operations/events/withdraw-events";
export { keepSettings } from "@/operations/findings/rule-settings";
export { judgeSnapshot } from "@/operations/findings/judge-snapshot";
export { linkFor, sitesRefusal } from "@/operations/administration/accounts";
export { packRound } from "@/operations/evidence/export-round";
export { verifyAll } from "@/operations/evidence/verify-all";
export { ArchiveError, filesOfArchive } from "@/papers/evidence/archive";
export { packCheckWords } from "@/papers/evidence/pack-words";

/** What is wrong with a snapshot whose bytes do not fit its hash, in words; undefined for any other error. */
export const alteredWords = (error: unknown): string | undefined => (error instanceof AlteredSnapshot ? error.message : undefined);

/** When an authority stamped a text, by the certificates that are trusted; undefined where the stamp does not hold. */
export async function stampedAt(response: Uint8Array, text: string, certificates: string): Promise<string | undefined> {
  const checked = await checkStamp(response, text, certificates);
  return checked.ok ? checked.at : undefined;
}

/** SHA-256 in hexadecimal. */
export const digests = {
  text: (text: string): string => createHash("sha256").update(text).digest("hex"),
  bytes: (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex"),
};
