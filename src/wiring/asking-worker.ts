import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import { exampleQuestions } from "@/operations/inquiry/example-questions";
import { answerable } from "@/operations/inquiry/inquiry";
import type { AskedAnswer, Inquiry } from "@/operations/inquiry/inquiry";
import type { AddressParts } from "@/core/questions/question-address";
import { namesOfQuestion, readInquiry, readTimes } from "@/operations/inquiry/read-question";
import type { CardBox } from "@/core/drafting/card-box";
import type { ListKey } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import type { Move, WantedObject } from "@/operations/register/drafts/change-draft";
import { addBox, changeDraft, movePeople, settleClash, takeBack, takeBackAll } from "@/operations/register/drafts/change-draft";
import { editObject, peopleBoard, suggestInDraft } from "@/operations/register/drafts/edit-object";
import { ordersOfDraft, showDraft } from "@/operations/register/drafts/show-draft";
import type { RegisterKind } from "@/core/register/kinds";
import type { ObjectRef } from "@/core/register/related/ways";
import type { AskedList } from "@/operations/register/list-register";
import { listRegister, suggest } from "@/operations/register/list-register";
import type { AskedWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { draftWithdrawal, offerWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { compareSnapshots } from "@/operations/compare-snapshots";
import { showObject } from "@/operations/register/show-object";
import { listFindings } from "@/operations/findings/list-findings";
import { traceInquiry } from "@/operations/inquiry/trace-inquiry";
import { openRegister } from "@/operations/register/open-register";
import type { Account } from "@/operations/ports/accounts";
import type { Services } from "@/operations/services";
import { signDocket } from "@/operations/certification/sign-docket";
import { showDocket } from "@/operations/certification/show-docket";
import { listOrders, listRounds, showRound } from "@/operations/certification/show-rounds";
import { showWithdrawal } from "@/operations/certification/withdrawals";
import { answerQuestions, whileOpening } from "@/jobs/answer-questions";
import { openServices } from "./services";

/** Entry file of the threads that answer questions. Connections are opened with the first question and kept. */
let opened: Services | undefined;
const services = (): Services => (opened ??= openServices({ opening: whileOpening }));

async function answer({ account, inquiry }: { readonly account: Account; readonly inquiry: Inquiry }): Promise<AskedAnswer | undefined> {
  const register = await openRegister(services(), inquiry.snapshot);
  if (!register) return undefined;
  const asked = answerable(inquiry);
  if (!asked) return { outcome: "not-answered-yet", words: namesOfQuestion(register, inquiry) };
  return { outcome: "answered", answerable: asked, answer: await answerInquiry(services(), account, register, asked) };
}

async function trace({ account, inquiry }: { readonly account: Account; readonly inquiry: Inquiry }) {
  const register = await openRegister(services(), inquiry.snapshot);
  const asked = answerable(inquiry);
  return register && asked && traceInquiry(services(), account, register, asked);
}

async function inquiryRead({ account, parts }: { readonly account: Account; readonly parts: AddressParts }) {
  const register = await openRegister(services());
  return register && readInquiry(services(), account, register, parts);
}

async function timesRead({ account, text }: { readonly account: Account; readonly text: string }) {
  const register = await openRegister(services());
  return register && readTimes(services(), account, register, text);
}

/** Opens the register and its lists ahead of the first question. */
async function warm(_: object) {
  const register = await openRegister(services());
  if (register) suggest(register, ["cardholder", "credential", "door", "area"], "", 0);
}

async function examples(_: object) {
  const register = await openRegister(services());
  return register ? exampleQuestions(services(), register) : [];
}

async function findings({ rule, snapshot }: { readonly rule: string | undefined; readonly snapshot: number }) {
  const register = await openRegister(services(), snapshot);
  return register && listFindings(services(), register, rule);
}

const rounds = ({ account }: { readonly account: Account }) => listRounds(services(), account);
const round = ({ account, id }: { readonly account: Account; readonly id: number }) => showRound(services(), account, id);
const orders = ({ account, round: of }: { readonly account: Account; readonly round: number }) => listOrders(services(), account, of);
const signed = ({ account, docket: of }: { readonly account: Account; readonly docket: number }) => signDocket(services(), account, of);
const docket = ({ account, id }: { readonly account: Account; readonly id: number }) => showDocket(services(), account, id);

const withdrawal = ({ account, line }: { readonly account: Account; readonly line: number }) => showWithdrawal(services(), account, line);

async function suggested({ kinds, text, limit }: { readonly kinds: readonly RegisterKind[]; readonly text: string; readonly limit: number }) {
  const register = await openRegister(services());
  return register ? suggest(register, kinds, text, limit) : { items: [], total: 0 };
}

async function listed({ asked, page }: { readonly asked: AskedList & { readonly snapshot: number | undefined }; readonly page: { readonly offset: number; readonly limit: number; readonly withChoices: boolean } }) {
  const register = await openRegister(services(), asked.snapshot);
  return register && listRegister(register, asked, page.offset, page.limit, page.withChoices);
}

const snapshotsCompared = ({ before, after }: { readonly before: number; readonly after: number }) => compareSnapshots(services(), before, after);

async function object({ hook, snapshot }: { readonly hook: ObjectRef; readonly snapshot: number | undefined }) {
  const register = await openRegister(services(), snapshot);
  return register && showObject(services(), register, hook);
}

interface OfDraft {
  readonly account: Account;
  readonly draft: number;
}

const draft = ({ account, draft: of, all }: OfDraft & { readonly all: boolean }) => showDraft(services(), account, of, all);
const draftOrders = ({ account, draft: of }: OfDraft) => ordersOfDraft(services(), account, of);
const draftChanged = ({ account, draft: of, objects, despite }: OfDraft & { readonly objects: readonly WantedObject[]; readonly despite: boolean }) => changeDraft(services(), account, of, objects, despite);
const withdrawalOffered = ({ account, asked }: { readonly account: Account; readonly asked: AskedWithdrawal }) => offerWithdrawal(services(), account, asked);
const withdrawalDrafted = ({ account, asked }: { readonly account: Account; readonly asked: AskedWithdrawal }) => draftWithdrawal(services(), account, asked);
const changeTakenBack = ({ account, draft: of, change }: OfDraft & { readonly change: Parameters<typeof takeBack>[3] }) => takeBack(services(), account, of, change);
const allTakenBack = ({ account, draft: of, list, revision }: OfDraft & { readonly list: ListKey; readonly revision: number }) => takeBackAll(services(), account, of, list, revision);
const clashSettled = ({ account, draft: of, change, take }: OfDraft & { readonly change: Parameters<typeof settleClash>[3]; readonly take: Parameters<typeof settleClash>[4] }) => settleClash(services(), account, of, change, take);
const boxAdded = ({ account, draft: of, box }: OfDraft & { readonly box: CardBox }) => addBox(services(), account, of, box);
const peopleMoved = ({ account, draft: of, moves, to }: OfDraft & { readonly moves: readonly Move[]; readonly to: string | undefined }) => movePeople(services(), account, of, moves, to);
const objectEdited = ({ account, draft: of, list, key, given }: OfDraft & { readonly list: ListKey; readonly key: string | undefined; readonly given: Plain }) => editObject(services(), account, of, list, key, given);
const suggestedInDraft = ({ account, draft: of, kinds, text, limit }: OfDraft & { readonly kinds: readonly RegisterKind[]; readonly text: string; readonly limit: number }) => suggestInDraft(services(), account, of, kinds, text, limit);
const board = ({ account, draft: of, columns, text }: OfDraft & { readonly columns: readonly string[]; readonly text: string }) => peopleBoard(services(), account, of, columns, text);

/** Questions by the names by which they are asked. */
export const questions = { answer, trace, inquiryRead, timesRead, warm, examples, findings, rounds, round, orders, signed, docket, withdrawal, suggested, listed, snapshotsCompared, object, draft, draftOrders, draftChanged, withdrawalOffered, withdrawalDrafted, changeTakenBack, allTakenBack, clashSettled, boxAdded, peopleMoved, objectEdited, suggestedInDraft, board };

/** Those that change something: they are never asked twice. */
export type ChangingQuestion = "signed" | "draftChanged" | "withdrawalDrafted" | "changeTakenBack" | "allTakenBack" | "clashSettled" | "boxAdded" | "peopleMoved";

export type AskedQuestions = typeof questions;

answerQuestions(questions);
