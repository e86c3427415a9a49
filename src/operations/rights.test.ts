import { describe, expect, it } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import { answerInquiry } from "./inquiry/answer-inquiry";
import { addBox, changeDraft, movePeople, settleClash, takeBack, takeBackAll } from "./register/drafts/change-draft";
import { closeDraft } from "./register/drafts/close-draft";
import { decideLine, keepUnremarkable, passOnLine, undoDecision } from "./certification/decide-line";
import { effectOfDraft } from "./register/drafts/draft-effect";
import { editObject, peopleBoard, suggestInDraft } from "./register/drafts/edit-object";
import type { Inquiry } from "./inquiry/inquiry";
import { shutInquiry } from "./inquiry/shut-inquiry";
import { layOutSheet } from "./inquiry/lay-out-sheet";
import { exampleQuestions } from "./inquiry/example-questions";
import { exportCalendar, exportDocument, exportTables, exportWorkbook } from "./evidence/export-snapshot";
import { peopleOfRecord, readRecord, verifyRecord } from "./evidence/read-record";
import type { CivilDay } from "@/core/time/civil-day";
import { anyEvents } from "~/tests/asked-events";
import { datesOfEvents, listEventFiles, listEvents } from "./events/list-events";
import { replayEvents } from "./events/replay-events";
import { withdrawEvents } from "./events/withdraw-events";
import { changeOfQuestion, dropQuestion, keepQuestion, listKeptQuestions, watchQuestion } from "./inquiry/kept-questions";
import { answerPast, timesOfInquiry } from "./inquiry/past-inquiry";
import { firstSteps } from "./inquiry/first-steps";
import { noteExport } from "./evidence/note-export";
import { exportFindings, printFindings } from "./findings/export-findings";
import { findingTrends } from "./findings/finding-trends";
import { exampleFinding, listFindings, showFindingHistory, waitingWaivers } from "./findings/list-findings";
import {
  confirmRuleSettings,
  dropRuleSettings,
  keepRuleSettings,
  previewRuleSettings,
  rulesInForce,
  settingsInForce,
  showRuleSettings,
} from "./findings/rule-settings";
import { assignees, assignFinding, confirmWaiver, endWaiver, noteFinding, secondPersonFrom, waiveFinding } from "./findings/triage";
import { snapshotWithFindings } from "./findings/show-findings";
import { handOutTemplates } from "./intake/hand-out-templates";
import { previewIntake } from "./intake/preview-intake";
import { storeIntake } from "./intake/store-intake";
import { takeBackIntake } from "./intake/take-back";
import { tryProfile } from "./intake/try-profile";
import { compareSnapshots } from "./register/compare-snapshots";
import { draftWithdrawal, offerWithdrawal } from "./register/drafts/draft-withdrawal";
import type { AskedWithdrawal } from "./register/drafts/draft-withdrawal";
import { showDraftEffect, stopDraftEffect } from "./register/drafts/show-draft-effect";
import type { AskedList } from "./register/list-register";
import { listRegister, suggest } from "./register/list-register";
import { listSnapshots, snapshotChoices } from "./register/list-snapshots";
import { showObject } from "./register/show-object";
import { collectPushed, listArrivals, settleArrival } from "./intake/look-for-arrivals";
import { listFeeds, makeFeedToken, revokeFeedToken } from "./feed/feed-tokens";
import { listSources, setOrdersTo, setOwnership, setRhythm, sourceNames } from "./intake/list-sources";
import { beginDraft, dropDraft, listDrafts, shareDraft } from "./register/drafts/open-draft";
import type { OpenRegister } from "./register/open-register";
import { applyOwnOrders } from "./certification/apply-orders";
import { answerOrders } from "./certification/answer-orders";
import { listOccasions, setOccasion } from "./certification/occasions";
import { closeRound } from "./certification/close-round";
import { narrowLine, showNarrowings } from "./certification/narrow-line";
import { openRound } from "./certification/open-round";
import { previewRound } from "./certification/preview-round";
import { addSubstitute, askToClose, commentLine, correctDocket, giveDocket, releaseDockets } from "./certification/run-round";
import { previewSending, sendOrders } from "./certification/send-orders";
import { usualTerms } from "@/core/certification/round-terms";
import type { Account, Role } from "./ports/accounts";
import { unwatched } from "./ports/progress";
import { readInquiry, readTimes } from "./inquiry/read-question";
import { NotAllowed } from "./rights";
import type { ServerServices } from "./services";
import { myDockets, showDocket } from "./certification/show-docket";
import { showDepartments } from "./register/show-departments";
import { draftToAsk } from "./register/drafts/open-with-draft";
import { exportDraftOrders, ordersOfDraft, showDraft } from "./register/drafts/show-draft";
import { setRetention, showRetention } from "./administration/retention";
import { listLookUps } from "./administration/look-ups";
import { readOutbox } from "./mail/read-outbox";
import { addAccount, askSecondFactor, changeAccount, endAccount, listAccounts, makeCertifierAccounts, resetAccount } from "./administration/accounts";
import { exportRound } from "./evidence/export-round";
import { exportLines, listLines } from "./certification/list-lines";
import { exportOrders, listOrders, listRounds, showRound } from "./certification/show-rounds";
import { signDocket } from "./certification/sign-docket";
import { traceInquiry } from "./inquiry/trace-inquiry";
import { chartInquiry, sensitivityOfReach } from "./inquiry/chart-inquiry";
import { askEndOfHouseRule, endHouseRule, listHouseRules, tryHouseRule, writeHouseRule } from "./findings/house-rules";
import { showForecast } from "./inquiry/show-forecast";
import { answerOnPlan } from "./inquiry/answer-on-plan";
import { addPlan, changePlan, dropPlan } from "./register/plans/keep-plans";
import { doorsToPlace, listPlans, planPicture, showPlan } from "./register/plans/show-plans";
import { addTrial, dropTrial, runTrials } from "./inquiry/trials";
import { draftLevels, proposeLevels } from "./register/put-levels-right";
import { disturbDoor, presentAtUnit, treatUnit } from "./units/at-the-doors";
import { dropUnit, keepUnit, sendAgain, setUnitLockdown } from "./units/keep-units";
import { listUnits, showUnit } from "./units/show-units";
import { findRoutes } from "./inquiry/find-routes";
import { yearOfPair } from "./inquiry/year-of-pair";
import { showWithdrawal } from "./certification/withdrawals";

const roles = ["administrator", "reviewer", "auditor", "manager", "owner"] as const satisfies readonly Role[];
const account = (role: Role): Account => ({ id: 1, signIn: role, name: role, role, cardholder: "iris" });

class Touched extends Error {}

/** Services that nobody may touch before it is known that they may: the first touch ends the operation. */
const untouchable = new Proxy({} as ServerServices, {
  get: (_, name) => {
    throw new Touched(String(name));
  },
});

const register = { snapshot: { id: 1 }, compiled: compiledFrom() } as unknown as OpenRegister;
const inquiry: Inquiry = { who: { kind: "cardholder", id: "iris" }, where: { kind: "door", id: "gate" }, when: { kind: "now" }, lockdown: false };
const change = { list: "doors", key: "gate", seen: 0 } as const;
const file = { path: "/nowhere", name: "f.json", source: "", profile: undefined, asOf: undefined };
const list: AskedList = { kind: "door", of: undefined, columns: [], text: "", filters: {}, sort: "name", group: undefined };
const withdrawal = { kind: "return", credential: "c1" } as unknown as AskedWithdrawal;
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
const trial = { credential: "c", door: "d", at: "2026-03-01T10:00Z", lockdown: false, expected: "open", note: "" } as const;
const unit = { id: "u", address: "http://127.0.0.1:1/u", token: "t", isSentFromHere: true, erring: "less" } as const;
const planHead = { name: "p", site: "garden", storey: 0 };
const houseRule = { name: "a", must: "none", query: "" } as const;
const reading = ["administrator", "reviewer", "auditor"];
const administrating: readonly Role[] = ["administrator"];
const working = ["administrator", "reviewer"];
const certifying = ["administrator", "reviewer", "manager", "owner"];

const operations: Readonly<Record<string, readonly [mayBegin: readonly string[], operation: (by: Account) => Promise<unknown>]>> = {
  answerInquiry: [reading, (by) => answerInquiry(untouchable, by, register, inquiry)],
  chartInquiry: [reading, (by) => chartInquiry(untouchable, by, register, inquiry)],
  sensitivityOfReach: [reading, (by) => Promise.resolve().then(() => sensitivityOfReach(untouchable, by, register))],
  listHouseRules: [reading, (by) => listHouseRules(untouchable, by, register)],
  tryHouseRule: [reading, (by) => tryHouseRule(untouchable, by, register, houseRule)],
  writeHouseRule: [working, (by) => writeHouseRule(untouchable, by, houseRule, unwatched)],
  askEndOfHouseRule: [working, (by) => askEndOfHouseRule(untouchable, by, 1, true)],
  endHouseRule: [working, (by) => endHouseRule(untouchable, by, 1, unwatched)],
  showForecast: [reading, (by) => showForecast(untouchable, by, register)],
  proposeLevels: [working, (by) => proposeLevels(untouchable, by, unwatched)],
  draftLevels: [working, (by) => draftLevels(untouchable, by, "[]", unwatched)],
  answerOnPlan: [reading, (by) => answerOnPlan(untouchable, by, register, inquiry, undefined)],
  listPlans: [reading, (by) => listPlans(untouchable, by, register)],
  showPlan: [reading, (by) => showPlan(untouchable, by, register, 1)],
  planPicture: [reading, (by) => planPicture(untouchable, by, 1, "")],
  doorsToPlace: [working, (by) => doorsToPlace(untouchable, by, register, 1, "")],
  addPlan: [working, (by) => addPlan(untouchable, by, register, planHead, new Uint8Array())],
  changePlan: [working, (by) => changePlan(untouchable, by, register, 1, 1, {})],
  dropPlan: [working, (by) => dropPlan(untouchable, by, 1)],
  runTrials: [reading, (by) => runTrials(untouchable, by, register)],
  addTrial: [working, (by) => addTrial(untouchable, by, trial)],
  dropTrial: [working, (by) => dropTrial(untouchable, by, 1)],
  listUnits: [reading, (by) => listUnits(untouchable, by, register)],
  showUnit: [reading, (by) => showUnit(untouchable, by, register, "u")],
  keepUnit: [administrating, (by) => keepUnit(untouchable, by, unit)],
  dropUnit: [administrating, (by) => dropUnit(untouchable, by, "u")],
  setUnitLockdown: [working, (by) => setUnitLockdown(untouchable, by, "u", true)],
  sendAgain: [working, (by) => sendAgain(untouchable, by, "u")],
  presentAtUnit: [working, (by) => presentAtUnit(untouchable, by, "u", { door: "d", card: "c" })],
  disturbDoor: [working, (by) => disturbDoor(untouchable, by, "u", "d", "forced")],
  treatUnit: [working, (by) => treatUnit(untouchable, by, "u", {})],
  findRoutes: [reading, (by) => findRoutes(untouchable, by, register, inquiry)],
  yearOfPair: [reading, (by) => yearOfPair(untouchable, by, register, inquiry)],
  traceInquiry: [reading, (by) => traceInquiry(untouchable, by, register, inquiry)],
  shutInquiry: [reading, (by) => Promise.resolve().then(() => shutInquiry(untouchable, by, register, inquiry))],
  readInquiry: [reading, (by) => Promise.resolve().then(() => readInquiry(untouchable, by, register, { when: "tomorrow" }))],
  readTimes: [reading, (by) => Promise.resolve().then(() => readTimes(untouchable, by, register, "tomorrow"))],
  layOutSheet: [reading, (by) => Promise.resolve().then(() => layOutSheet(untouchable, by, register, inquiry, { row: 0, column: 0 }))],
  exampleQuestions: [reading, (by) => exampleQuestions(untouchable, by, register)],
  suggest: [reading, (by) => Promise.resolve().then(() => suggest(untouchable, by, register, ["door"], "g", 5))],
  listRegister: [reading, (by) => Promise.resolve().then(() => listRegister(untouchable, by, register, list, { offset: 0, limit: 1, withChoices: false }))],
  showObject: [reading, (by) => showObject(untouchable, by, register, { kind: "door", id: "gate" })],
  compareSnapshots: [reading, (by) => compareSnapshots(untouchable, by, 1, 2)],
  listSnapshots: [reading, (by) => listSnapshots(untouchable, by)],
  snapshotChoices: [reading, (by) => snapshotChoices(untouchable, by)],
  exportDocument: [reading, (by) => exportDocument(untouchable, by, 1)],
  exportTables: [reading, (by) => exportTables(untouchable, by, 1)],
  exportWorkbook: [reading, (by) => exportWorkbook(untouchable, by, 1)],
  handOutTemplates: [working, (by) => Promise.resolve().then(() => handOutTemplates(untouchable, by, "csv"))],
  exportCalendar: [reading, (by) => exportCalendar(untouchable, by, 1, "k")],
  listFindings: [reading, (by) => listFindings(untouchable, by, register, {})],
  exampleFinding: [reading, (by) => exampleFinding(untouchable, by, register, "unused")],
  timesOfInquiry: [reading, (by) => timesOfInquiry(untouchable, by, register, inquiry)],
  answerPast: [reading, (by) => answerPast(untouchable, by, inquiry, [])],
  firstSteps: [reading, (by) => firstSteps(untouchable, by, register)],
  keepQuestion: [reading, (by) => keepQuestion(untouchable, by, register, "who=everybody")],
  listKeptQuestions: [reading, (by) => listKeptQuestions(untouchable, by, register)],
  changeOfQuestion: [reading, (by) => changeOfQuestion(untouchable, by, 1)],
  watchQuestion: [reading, (by) => Promise.resolve().then(() => watchQuestion(untouchable, by, 1, true))],
  dropQuestion: [reading, (by) => Promise.resolve().then(() => dropQuestion(untouchable, by, 1))],
  noteExport: [reading, (by) => noteExport(untouchable, by, { what: "list", on: "snapshot 1", query: "" })],
  exportFindings: [reading, (by) => exportFindings(untouchable, by, register, {})],
  printFindings: [reading, (by) => printFindings(untouchable, by, register, {})],
  findingTrends: [reading, (by) => findingTrends(untouchable, by, register)],
  showFindingHistory: [reading, (by) => showFindingHistory(untouchable, by, "[]", undefined)],
  waitingWaivers: [reading, (by) => waitingWaivers(untouchable, by)],
  rulesInForce: [reading, (by) => rulesInForce(untouchable, by)],
  settingsInForce: [reading, (by) => settingsInForce(untouchable, by)],
  showRuleSettings: [reading, (by) => showRuleSettings(untouchable, by, register)],
  secondPersonFrom: [reading, (by) => secondPersonFrom(untouchable, by)],
  previewRuleSettings: [working, (by) => previewRuleSettings(untouchable, by, "{}", unwatched)],
  confirmRuleSettings: [working, (by) => confirmRuleSettings(untouchable, by, unwatched)],
  dropRuleSettings: [working, (by) => dropRuleSettings(untouchable, by)],
  keepRuleSettings: [working, (by) => keepRuleSettings(untouchable, by, { text: "{}", secondPersonFrom: 50, instead: 0 }, unwatched)],
  waiveFinding: [working, (by) => waiveFinding(untouchable, by, { snapshot: 1, fingerprint: "[]", reason: "long enough to be one", until: "2026-04-01" })],
  confirmWaiver: [working, (by) => confirmWaiver(untouchable, by, 1)],
  endWaiver: [working, (by) => endWaiver(untouchable, by, 1)],
  noteFinding: [working, (by) => noteFinding(untouchable, by, "[]", "a note")],
  assignFinding: [working, (by) => assignFinding(untouchable, by, "[]", undefined)],
  assignees: [working, (by) => assignees(untouchable, by)],
  listEvents: [reading, (by) => listEvents(untouchable, by, register, anyEvents)],
  listEventFiles: [reading, (by) => listEventFiles(untouchable, by)],
  datesOfEvents: [reading, (by) => datesOfEvents(untouchable, by)],
  replayEvents: [reading, (by) => replayEvents(untouchable, by, { from: 0 as CivilDay, to: 1 as CivilDay }, unwatched)],
  withdrawEvents: [working, (by) => withdrawEvents(untouchable, by, 1, unwatched)],
  snapshotWithFindings: [reading, (by) => snapshotWithFindings(untouchable, by, 1)],
  previewIntake: [working, (by) => previewIntake(untouchable, by, file, unwatched)],
  storeIntake: [working, (by) => storeIntake(untouchable, by, { ...file, source: "controller", previewedFor: "controller", leaveOut: 0, on: null }, unwatched)],
  takeBackIntake: [working, (by) => takeBackIntake(untouchable, by, 1, "a reason to take it back", unwatched)],
  tryProfile: [working, (by) => tryProfile(untouchable, by, file, unwatched)],
  sourceNames: [working, (by) => sourceNames(untouchable, by)],
  readRecord: [reading, (by) => readRecord(untouchable, by, {})],
  showRetention: [reading, (by) => showRetention(untouchable, by)],
  setRetention: [["administrator"], (by) => setRetention(untouchable, by, "values", 12)],
  peopleOfRecord: [reading, (by) => peopleOfRecord(untouchable, by)],
  verifyRecord: [reading, (by) => verifyRecord(untouchable, by)],
  exportOrders: [reading, (by) => exportOrders(untouchable, by, 1)],
  exportDraftOrders: [reading, (by) => exportDraftOrders(untouchable, by, 1)],
  showDraftEffect: [reading, (by) => showDraftEffect(untouchable, by, 1, false)],
  stopDraftEffect: [working, (by) => stopDraftEffect(untouchable, by, 1)],
  offerWithdrawal: [working, (by) => offerWithdrawal(untouchable, by, withdrawal)],
  draftWithdrawal: [working, (by) => draftWithdrawal(untouchable, by, withdrawal)],
  showDocket: [["administrator", "auditor", "manager", "owner", "reviewer"], (by) => showDocket(untouchable, by, 1)],
  listFeeds: [reading, (by) => listFeeds(untouchable, by)],
  makeFeedToken: [["administrator"], (by) => makeFeedToken(untouchable, by, "personnel")],
  revokeFeedToken: [["administrator"], (by) => revokeFeedToken(untouchable, by, 1)],
  listArrivals: [working, (by) => listArrivals(untouchable, by)],
  collectPushed: [working, (by) => collectPushed(untouchable, by, "personnel")],
  settleArrival: [working, (by) => settleArrival(untouchable, by, "token", false)],
  listSources: [reading, (by) => listSources(untouchable, by)],
  setOrdersTo: [working, (by) => setOrdersTo(untouchable, by, "controller", undefined)],
  setRhythm: [working, (by) => setRhythm(untouchable, by, "controller", {})],
  setOwnership: [working, (by) => setOwnership(untouchable, by, "controller", {})],
  listLookUps: [administrating, (by) => listLookUps(untouchable, by, "", undefined)],
  readOutbox: [administrating, (by) => readOutbox(untouchable, by)],
  listAccounts: [administrating, (by) => listAccounts(untouchable, by)],
  addAccount: [administrating, (by) => addAccount(untouchable, by, { signIn: "a", name: "A", role: "reviewer" })],
  changeAccount: [
    administrating,
    (by) => changeAccount(untouchable, by, 1, { name: "A", role: "reviewer", cardholder: undefined, email: undefined, language: "en" }),
  ],
  endAccount: [administrating, (by) => endAccount(untouchable, by, 2, true)],
  resetAccount: [administrating, (by) => resetAccount(untouchable, by, 2)],
  askSecondFactor: [administrating, (by) => askSecondFactor(untouchable, by, "reviewer", true)],
  makeCertifierAccounts: [administrating, (by) => makeCertifierAccounts(untouchable, by, 1)],
  listRounds: [reading, (by) => listRounds(untouchable, by)],
  showRound: [reading, (by) => showRound(untouchable, by, 1)],
  listLines: [reading, (by) => listLines(untouchable, by, 1, {}, 0)],
  exportRound: [reading, (by) => exportRound(untouchable, by, 1, unwatched)],
  exportLines: [reading, (by) => exportLines(untouchable, by, 1, {})],
  listOrders: [reading, (by) => listOrders(untouchable, by, 1)],
  previewRound: [working, (by) => previewRound(untouchable, by, usualTerms, unwatched)],
  openRound: [working, (by) => openRound(untouchable, by, { name: "r", due: "2026-04-01", snapshot: 1, terms: usualTerms }, unwatched)],
  myDockets: [certifying, (by) => myDockets(untouchable, by)],
  showWithdrawal: [["administrator", "auditor", "manager", "owner", "reviewer"], (by) => showWithdrawal(untouchable, by, 1)],
  showNarrowings: [["administrator", "auditor", "manager", "owner", "reviewer"], (by) => showNarrowings(untouchable, by, 1)],
  commentLine: [["administrator", "auditor", "manager", "owner", "reviewer"], (by) => commentLine(untouchable, by, 1, "words")],
  narrowLine: [certifying, (by) => narrowLine(untouchable, by, 1, { kind: "hours", until: "2026-04-01" }, "reason")],
  passOnLine: [certifying, (by) => passOnLine(untouchable, by, 1, 2, "")],
  undoDecision: [certifying, (by) => undoDecision(untouchable, by, 1)],
  closeRound: [working, (by) => closeRound(untouchable, by, 1)],
  askToClose: [working, (by) => askToClose(untouchable, by, 1, "reason")],
  releaseDockets: [working, (by) => releaseDockets(untouchable, by, 1)],
  giveDocket: [working, (by) => giveDocket(untouchable, by, 1, "iris")],
  addSubstitute: [working, (by) => addSubstitute(untouchable, by, 1, { certifier: "iris", account: 1, from: "2026-04-01", until: "2026-04-02" })],
  correctDocket: [working, (by) => correctDocket(untouchable, by, 1)],
  previewSending: [working, (by) => previewSending(untouchable, by, 1)],
  sendOrders: [working, (by) => sendOrders(untouchable, by, 1, 1)],
  applyOwnOrders: [working, (by) => applyOwnOrders(untouchable, by, 1, 1, unwatched)],
  listOccasions: [reading, (by) => listOccasions(untouchable, by)],
  setOccasion: [working, (by) => setOccasion(untouchable, by, "moved", 7)],
  answerOrders: [working, (by) => answerOrders(untouchable, by, 1, "order,answer")],
  decideLine: [certifying, (by) => decideLine(untouchable, by, 1, { decision: "keep", reason: "" })],
  keepUnremarkable: [certifying, (by) => keepUnremarkable(untouchable, by, 1, { kind: "cardholder", id: "iris" })],
  signDocket: [certifying, (by) => signDocket(untouchable, by, 1)],
  listDrafts: [reading, (by) => listDrafts(untouchable, by)],
  showDepartments: [reading, (by) => Promise.resolve().then(() => showDepartments(untouchable, by, register))],
  draftToAsk: [reading, (by) => draftToAsk(untouchable, by, 1)],
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

  it("is refused to who is limited to some sites, but for what is answered of these alone", async () => {
    const begun: string[] = [];
    for (const [name, [mayBegin, operation]] of Object.entries(operations)) {
      const byRole = await Promise.all(
        roles.map(async (role) => {
          const end: unknown = await operation({ ...account(role), sites: ["orchard"] }).then(
            () => "done",
            (error: unknown) => error,
          );
          return end instanceof NotAllowed ? undefined : role;
        }),
      );
      // Whoever may not in general may not with a limit either.
      for (const role of byRole) if (role !== undefined) expect(mayBegin).toContain(role);
      if (byRole.includes("auditor") || byRole.includes("reviewer")) begun.push(name);
    }
    expect(begun.sort()).toEqual([
      "answerInquiry",
      "answerOnPlan",
      "answerPast",
      "changeOfQuestion",
      "chartInquiry",
      "commentLine",
      "decideLine",
      "dropQuestion",
      "exampleQuestions",
      "exportLines",
      "exportOrders",
      "findRoutes",
      "firstSteps",
      "keepQuestion",
      "keepUnremarkable",
      "layOutSheet",
      "listKeptQuestions",
      "listLines",
      "listOrders",
      "listPlans",
      "listRegister",
      "listRounds",
      "listSnapshots",
      "myDockets",
      "narrowLine",
      "noteExport",
      "passOnLine",
      "planPicture",
      "readInquiry",
      "readTimes",
      "runTrials",
      "sensitivityOfReach",
      "showDepartments",
      "showDocket",
      "showForecast",
      "showNarrowings",
      "showObject",
      "showPlan",
      "showRound",
      "showWithdrawal",
      "signDocket",
      "snapshotChoices",
      "suggest",
      "timesOfInquiry",
      "traceInquiry",
      "undoDecision",
      "watchQuestion",
      "yearOfPair",
    ]);
  });
});
