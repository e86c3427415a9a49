import { rm } from "node:fs/promises";
import type { MessagePort } from "node:worker_threads";
import { answerInquiry } from "@/operations/answer-inquiry";
import { exampleQuestions } from "@/operations/example-questions";
import { answerable } from "@/operations/inquiry";
import type { AskedAnswer, Inquiry } from "@/operations/inquiry";
import type { AddressParts } from "@/core/questions/question-address";
import { namesOfQuestion, readInquiry, readTimes } from "@/operations/read-question";
import type { CardBox } from "@/core/drafting/card-box";
import type { ListKey } from "@/core/facility/draft";
import type { Plain } from "@/core/facility/object-key";
import type { Move, WantedObject } from "@/operations/change-draft";
import { addBox, changeDraft, movePeople, settleClash, takeBack, takeBackAll } from "@/operations/change-draft";
import { closeDraft } from "@/operations/close-draft";
import { effectOfDraft } from "@/operations/draft-effect";
import { editObject, peopleBoard, suggestInDraft } from "@/operations/edit-object";
import { ordersOfDraft, showDraft } from "@/operations/show-draft";
import type { RegisterKind } from "@/core/register/kinds";
import type { Hook } from "@/core/register/related/ways";
import type { AskedList } from "@/operations/list-register";
import { listRegister, suggest } from "@/operations/list-register";
import { compareSnapshots } from "@/operations/compare-snapshots";
import { showObject } from "@/operations/show-object";
import { listFindings } from "@/operations/list-findings";
import { traceInquiry } from "@/operations/trace-inquiry";
import { openRegister } from "@/operations/open-register";
import { openRound, previewRound } from "@/operations/open-round";
import type { Account } from "@/operations/ports/accounts";
import type { Progress, Report } from "@/operations/ports/progress";
import { unwatched } from "@/operations/ports/progress";
import type { LongWork, Services } from "@/operations/services";
import { signDocket } from "@/operations/sign-docket";
import { showDocket } from "@/operations/show-docket";
import { listOrders, listRounds, showRound } from "@/operations/show-rounds";
import { lookForFindings } from "@/operations/store-intake";
import { showWithdrawal } from "@/operations/withdrawals";
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
export const storeIntake = ({ path, name, source, who, leaveOut, readAs, port }: Watched<"storeIntake">) => storeFile(services(), path, name, source, who, { leaveOut, readAs }, reporter(port));
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

export async function answer({ account, inquiry }: { readonly account: Account; readonly inquiry: Inquiry }): Promise<AskedAnswer | undefined> {
  const register = await openRegister(services(), inquiry.snapshot);
  if (!register) return undefined;
  const asked = answerable(inquiry);
  if (!asked) return { outcome: "not-answered-yet", words: namesOfQuestion(register, inquiry) };
  return { outcome: "answered", answerable: asked, answer: await answerInquiry(services(), account, register, asked) };
}

export async function trace({ account, inquiry }: { readonly account: Account; readonly inquiry: Inquiry }) {
  const register = await openRegister(services(), inquiry.snapshot);
  const asked = answerable(inquiry);
  return register && asked && traceInquiry(services(), account, register, asked);
}

export async function inquiryRead({ account, parts }: { readonly account: Account; readonly parts: AddressParts }) {
  const register = await openRegister(services());
  return register && readInquiry(services(), account, register, parts);
}

export async function timesRead({ account, text }: { readonly account: Account; readonly text: string }) {
  const register = await openRegister(services());
  return register && readTimes(services(), account, register, text);
}

/** Opens the register and its lists ahead of the first question. */
export async function warm() {
  const register = await openRegister(services());
  if (register) suggest(register, ["cardholder", "credential", "door", "area"], "", 0);
}

export async function examples() {
  const register = await openRegister(services());
  return register ? exampleQuestions(services(), register) : [];
}

export async function findings({ rule, snapshot }: { readonly rule: string | undefined; readonly snapshot: number }) {
  const register = await openRegister(services(), snapshot);
  return register && listFindings(services(), register, rule);
}

export const rounds = ({ account }: { readonly account: Account }) => listRounds(services(), account);
export const round = ({ account, id }: { readonly account: Account; readonly id: number }) => showRound(services(), account, id);
export const orders = ({ account, round: of }: { readonly account: Account; readonly round: number }) => listOrders(services(), account, of);
export const signed = ({ account, docket: of }: { readonly account: Account; readonly docket: number }) => signDocket(services(), account, of);
export const docket = ({ account, id }: { readonly account: Account; readonly id: number }) => showDocket(services(), account, id);

export const withdrawal = ({ account, line }: { readonly account: Account; readonly line: number }) => showWithdrawal(services(), account, line);

export async function suggested({ kinds, text, limit }: { readonly kinds: readonly RegisterKind[]; readonly text: string; readonly limit: number }) {
  const register = await openRegister(services());
  return register ? suggest(register, kinds, text, limit) : { items: [], total: 0 };
}

export async function listed({ asked, page }: { readonly asked: AskedList & { readonly snapshot: number | undefined }; readonly page: { readonly offset: number; readonly limit: number; readonly withChoices: boolean } }) {
  const register = await openRegister(services(), asked.snapshot);
  return register && listRegister(register, asked, page.offset, page.limit, page.withChoices);
}

export const snapshotsCompared = ({ before, after }: { readonly before: number; readonly after: number }) => compareSnapshots(services(), before, after);

export async function object({ hook, snapshot }: { readonly hook: Hook; readonly snapshot: number | undefined }) {
  const register = await openRegister(services(), snapshot);
  return register && showObject(services(), register, hook);
}

interface OfDraft {
  readonly account: Account;
  readonly draft: number;
}

export const draft = ({ account, draft: of, all }: OfDraft & { readonly all: boolean }) => showDraft(services(), account, of, all);
export const draftOrders = ({ account, draft: of }: OfDraft) => ordersOfDraft(services(), account, of);
export const draftChanged = ({ account, draft: of, objects }: OfDraft & { readonly objects: readonly WantedObject[] }) => changeDraft(services(), account, of, objects);
export const changeTakenBack = ({ account, draft: of, change }: OfDraft & { readonly change: Parameters<typeof takeBack>[3] }) => takeBack(services(), account, of, change);
export const allTakenBack = ({ account, draft: of, list, revision }: OfDraft & { readonly list: ListKey; readonly revision: number }) => takeBackAll(services(), account, of, list, revision);
export const clashSettled = ({ account, draft: of, change, take }: OfDraft & { readonly change: Parameters<typeof settleClash>[3]; readonly take: Parameters<typeof settleClash>[4] }) => settleClash(services(), account, of, change, take);
export const boxAdded = ({ account, draft: of, box }: OfDraft & { readonly box: CardBox }) => addBox(services(), account, of, box);
export const peopleMoved = ({ account, draft: of, moves, to }: OfDraft & { readonly moves: readonly Move[]; readonly to: string | undefined }) => movePeople(services(), account, of, moves, to);
export const objectEdited = ({ account, draft: of, list, key, given }: OfDraft & { readonly list: ListKey; readonly key: string | undefined; readonly given: Plain }) => editObject(services(), account, of, list, key, given);
export const suggestedInDraft = ({ account, draft: of, kinds, text, limit }: OfDraft & { readonly kinds: readonly RegisterKind[]; readonly text: string; readonly limit: number }) => suggestInDraft(services(), account, of, kinds, text, limit);
export const board = ({ account, draft: of, columns, text }: OfDraft & { readonly columns: readonly string[]; readonly text: string }) => peopleBoard(services(), account, of, columns, text);
