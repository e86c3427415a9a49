import { rm } from "node:fs/promises";
import type { MessagePort } from "node:worker_threads";
import { closeDraft } from "@/operations/register/drafts/close-draft";
import { effectOfDraft } from "@/operations/register/drafts/draft-effect";
import { openRound, previewRound } from "@/operations/certification/open-round";
import type { Account } from "@/operations/ports/accounts";
import type { Progress, Report } from "@/operations/ports/progress";
import { unwatched } from "@/operations/ports/progress";
import type { LongWork, Services } from "@/operations/services";
import { lookForFindings } from "@/operations/intake/store-intake";
import { bundleZip } from "./bundle-zip";
import { calendarFile } from "./calendar-file";
import { isBundle } from "./intake-bundle";
import { previewFile, storeFile } from "./intake-file";
import { takeOutPins } from "./without-pins";
import { openServices } from "./services";

/** Entry file of a worker: long work, by the names that the pool calls. Connections are opened with the first task and kept. */
let opened: Services | undefined;
const services = (): Services => (opened ??= openServices());

async function accountOf(id: number): Promise<Account> {
  const account = (await services().accounts.all()).find((one) => one.id === id);
  if (!account) throw new Error(`There is no account ${id}.`);
  return account;
}

type Watched<K extends keyof LongWork> = Parameters<LongWork[K]>[0] & { readonly port?: MessagePort };

/** A new step is told at once; within one, this often is enough. */
const reportEveryMs = 150;

function reporter(port: MessagePort | undefined): Report {
  if (!port) return unwatched;
  let told: { at: number; step: Progress["step"] } | undefined;
  return (progress) => {
    const at = performance.now();
    if (told?.step === progress.step && at - told.at < reportEveryMs) return;
    told = { at, step: progress.step };
    port.postMessage(progress);
  };
}

export async function previewIntake({ path, name, readAs, port }: Watched<"previewIntake">) {
  const preview = await previewFile(services(), path, name, reporter(port), readAs);
  // What waits to be stored waits without PINs; a table that is no CSV does not wait at all.
  if (await isBundle(path, name)) await takeOutPins(path, readAs.mapping, services().tagOfPin).catch(() => rm(path, { force: true }));
  return preview;
}
export const storeIntake = ({ path, name, source, who, leaveOut, readAs, on, port }: Watched<"storeIntake">) => storeFile(services(), path, name, source, who, { leaveOut, readAs, on }, reporter(port));
export async function tables({ snapshot }: Watched<"writeTables">) {
  const found = await services().snapshots.byId(snapshot);
  if (!found) throw new Error(`There is no snapshot ${snapshot}.`);
  return bundleZip(await services().snapshots.frozen(snapshot), found.takenAt);
}
export const calendar = async ({ snapshot, calendar: id }: Watched<"writeCalendar">) => calendarFile(await services().snapshots.frozen(snapshot), id);
export const findFindings = ({ snapshot }: Watched<"lookForFindings">) => lookForFindings(services(), snapshot);
export const planRound = async ({ account, port }: Watched<"previewRound">) => previewRound(services(), await accountOf(account), reporter(port));
export const startRound = async ({ account, port, ...asked }: Watched<"openRound">) => openRound(services(), await accountOf(account), asked, reporter(port));

export const draftEffect = async ({ account, draft: of, port }: Watched<"effectOfDraft">) => effectOfDraft(services(), await accountOf(account), of, reporter(port));
export const endDraft = async ({ account, draft: of, seen, port }: Watched<"closeDraft">) => closeDraft(services(), await accountOf(account), of, seen, reporter(port));
