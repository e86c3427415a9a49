import { describe, expect, it } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import { answerInquiry } from "./inquiry/answer-inquiry";
import { addBox, changeDraft, movePeople, settleClash, takeBack, takeBackAll } from "./register/drafts/change-draft";
import { closeDraft } from "./register/drafts/close-draft";
import { decideLine, keepUnremarkable } from "./certification/decide-line";
import { effectOfDraft } from "./register/drafts/draft-effect";
import { editObject, peopleBoard, suggestInDraft } from "./register/drafts/edit-object";
import type { AnswerableInquiry } from "./inquiry/inquiry";
import { listSources, setOwnership } from "./intake/list-sources";
import { beginDraft, dropDraft, listDrafts, shareDraft } from "./register/drafts/open-draft";
import type { OpenRegister } from "./register/open-register";
import { openRound, previewRound } from "./certification/open-round";
import type { Account, Role } from "./ports/accounts";
import { unwatched } from "./ports/progress";
import { readInquiry, readTimes } from "./inquiry/read-question";
import { NotAllowed } from "./rights";
import type { Services } from "./services";
import { myDockets } from "./certification/show-docket";
import { ordersOfDraft, showDraft } from "./register/drafts/show-draft";
import { listOrders, listRounds, showRound } from "./certification/show-rounds";
import { signDocket } from "./certification/sign-docket";
import { traceInquiry } from "./inquiry/trace-inquiry";
import { showWithdrawal } from "./certification/withdrawals";

const roles = ["administrator", "reviewer", "auditor", "manager", "owner"] as const satisfies readonly Role[];
const account = (role: Role): Account => ({ id: 1, signIn: role, name: role, role, cardholder: "iris" });

class Touched extends Error {}

/** Services that nobody may touch before it is known that they may: the first touch ends the operation. */
const untouchable = new Proxy({} as Services, {
  get: (_, name) => {
    throw new Touched(String(name));
  },
});

const register = { snapshot: { id: 1 }, compiled: compiledFrom() } as unknown as OpenRegister;
const inquiry: AnswerableInquiry = { who: { kind: "cardholder", id: "iris" }, where: { kind: "door", id: "gate" }, when: { kind: "now" }, lockdown: false };
const change = { list: "doors", key: "gate", seen: 0 } as const;
const box = {} as Parameters<typeof addBox>[3];

/** What each role gets from an operation: whether it may begin at all. */
async function whoMay(operation: (by: Account) => Promise<unknown>): Promise<Role[]> {
  const allowed: Role[] = [];
  for (const role of roles) {
    const end: unknown = await operation(account(role)).then(
      () => "done",
      (error: unknown) => error,
    );
    if (end instanceof NotAllowed) continue;
    // It got as far as something outside, or ended without.
    expect(end === "done" || end instanceof Touched ? role : end).toBe(role);
    allowed.push(role);
  }
  return allowed;
}

/** Who reads the register and the rounds; who works on them; who certifies. From the roles as the project names them. */
const reading = ["administrator", "reviewer", "auditor"];
const working = ["administrator", "reviewer"];
const certifying = ["administrator", "reviewer", "manager", "owner"];

const operations: Readonly<Record<string, readonly [mayBegin: readonly string[], operation: (by: Account) => Promise<unknown>]>> = {
  answerInquiry: [reading, (by) => answerInquiry(untouchable, by, register, inquiry)],
  traceInquiry: [reading, (by) => traceInquiry(untouchable, by, register, inquiry)],
  readInquiry: [reading, (by) => Promise.resolve().then(() => readInquiry(untouchable, by, register, { when: "tomorrow" }))],
  readTimes: [reading, (by) => Promise.resolve().then(() => readTimes(untouchable, by, register, "tomorrow"))],
  listSources: [reading, (by) => listSources(untouchable, by)],
  setOwnership: [working, (by) => setOwnership(untouchable, by, "controller", {})],
  listRounds: [reading, (by) => listRounds(untouchable, by)],
  showRound: [reading, (by) => showRound(untouchable, by, 1)],
  listOrders: [reading, (by) => listOrders(untouchable, by, 1)],
  previewRound: [working, (by) => previewRound(untouchable, by, unwatched)],
  openRound: [working, (by) => openRound(untouchable, by, { name: "r", due: "2026-04-01", snapshot: 1 }, unwatched)],
  myDockets: [certifying, (by) => myDockets(untouchable, by)],
  showWithdrawal: [["administrator", "auditor", "manager", "owner", "reviewer"], (by) => showWithdrawal(untouchable, by, 1)],
  decideLine: [certifying, (by) => decideLine(untouchable, by, 1, { decision: "keep", reason: "" })],
  keepUnremarkable: [certifying, (by) => keepUnremarkable(untouchable, by, 1, { kind: "cardholder", id: "iris" })],
  signDocket: [certifying, (by) => signDocket(untouchable, by, 1)],
  listDrafts: [reading, (by) => listDrafts(untouchable, by)],
  showDraft: [reading, (by) => showDraft(untouchable, by, 1)],
  ordersOfDraft: [reading, (by) => ordersOfDraft(untouchable, by, 1)],
  effectOfDraft: [reading, (by) => effectOfDraft(untouchable, by, 1, unwatched)],
  beginDraft: [working, (by) => beginDraft(untouchable, by, "a draft")],
  shareDraft: [working, (by) => shareDraft(untouchable, by, 1, 2)],
  dropDraft: [working, (by) => dropDraft(untouchable, by, 1)],
  closeDraft: [working, (by) => closeDraft(untouchable, by, 1, { revision: 0, snapshot: 1 }, unwatched)],
  changeDraft: [working, (by) => changeDraft(untouchable, by, 1, [], false)],
  takeBack: [working, (by) => takeBack(untouchable, by, 1, change)],
  takeBackAll: [working, (by) => takeBackAll(untouchable, by, 1, "doors", 0)],
  settleClash: [working, (by) => settleClash(untouchable, by, 1, change, "draft")],
  addBox: [working, (by) => addBox(untouchable, by, 1, box)],
  movePeople: [working, (by) => movePeople(untouchable, by, 1, [], "press")],
  editObject: [reading, (by) => editObject(untouchable, by, 1, "doors", "gate")],
  suggestInDraft: [reading, (by) => suggestInDraft(untouchable, by, 1, ["door"], "g", 5)],
  peopleBoard: [reading, (by) => peopleBoard(untouchable, by, 1, [], "")],
};

describe("an operation", () => {
  it.each(Object.entries(operations))("%s begins only for those who may, and touches nothing before that is known", async (_, [mayBegin, operation]) => {
    expect((await whoMay(operation)).sort()).toEqual([...mayBegin].sort());
  });
});
