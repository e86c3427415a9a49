import { addAccount, changeAccount, endAccount, listAccounts, makeCertifierAccounts, resetAccount } from "@/operations/administration/accounts";
import { closeRound } from "@/operations/certification/close-round";
import { exportLines, listLines } from "@/operations/certification/list-lines";
import { narrowLine, showNarrowings } from "@/operations/certification/narrow-line";
import { giveDocket } from "@/operations/certification/run-round";
import { previewSending, sendOrders } from "@/operations/certification/send-orders";
import { listOrders, exportOrders, listRounds, showRound } from "@/operations/certification/show-rounds";
import { showDocket } from "@/operations/certification/show-docket";
import { signDocket } from "@/operations/certification/sign-docket";
import { showWithdrawal } from "@/operations/certification/withdrawals";
import { listHouseRules, tryHouseRule } from "@/operations/findings/house-rules";
import { exampleFinding, listFindings } from "@/operations/findings/list-findings";
import { exportFindings, printFindings } from "@/operations/findings/export-findings";
import { findingTrends } from "@/operations/findings/finding-trends";
import { listEvents } from "@/operations/events/list-events";
import { showRuleSettings } from "@/operations/findings/rule-settings";
import { verifyRecord } from "@/operations/evidence/read-record";
import { firstSteps } from "@/operations/inquiry/first-steps";
import { answerPast, timesOfInquiry } from "@/operations/inquiry/past-inquiry";
import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import { exampleQuestions } from "@/operations/inquiry/example-questions";
import { changeOfQuestion, keepQuestion, listKeptQuestions } from "@/operations/inquiry/kept-questions";
import { readInquiry, readTimes } from "@/operations/inquiry/read-question";
import { showForecast } from "@/operations/inquiry/show-forecast";
import { shutInquiry } from "@/operations/inquiry/shut-inquiry";
import { traceInquiry } from "@/operations/inquiry/trace-inquiry";
import { chartInquiry, sensitivityOfReach } from "@/operations/inquiry/chart-inquiry";
import { yearOfPair } from "@/operations/inquiry/year-of-pair";
import { compareSnapshots } from "@/operations/register/compare-snapshots";
import { addBox, changeDraft, movePeople, settleClash, takeBack, takeBackAll } from "@/operations/register/drafts/change-draft";
import { draftWithdrawal, offerWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { editObject, peopleBoard, suggestInDraft } from "@/operations/register/drafts/edit-object";
import { draftToAsk } from "@/operations/register/drafts/open-with-draft";
import { exportDraftOrders, showDraft } from "@/operations/register/drafts/show-draft";
import { listRegister, suggest } from "@/operations/register/list-register";
import { findRoutes } from "@/operations/inquiry/find-routes";
import { runTrials } from "@/operations/inquiry/trials";
import { answerOnPlan } from "@/operations/inquiry/answer-on-plan";
import { addPlan, changePlan } from "@/operations/register/plans/keep-plans";
import { doorsToPlace, listPlans, showPlan } from "@/operations/register/plans/show-plans";
import { layOutSheet } from "@/operations/inquiry/lay-out-sheet";
import { layOutAhead, layOutWeekAhead, listAhead } from "@/operations/register/open-ahead";
import { onUsedHorizon } from "@/operations/register/later-uses";
import { onHorizon, onRegister } from "@/operations/register/on-register";
import { showDepartments } from "@/operations/register/show-departments";
import { listUnits, showUnit } from "@/operations/units/show-units";
import { showObject } from "@/operations/register/show-object";

/** Operations that need a compiled register, and so are asked of the threads that hold one. */
export const askedOperations = {
  layOutAhead,
  layOutWeekAhead,
  listAhead,
  answerInquiry: onUsedHorizon(answerInquiry),
  layOutSheet: onUsedHorizon(layOutSheet),
  traceInquiry: onUsedHorizon(traceInquiry),
  chartInquiry: onUsedHorizon(chartInquiry),
  sensitivityOfReach: onHorizon(sensitivityOfReach),
  answerOnPlan: onUsedHorizon(answerOnPlan),
  listPlans: onRegister(listPlans),
  showPlan: onRegister(showPlan),
  doorsToPlace: onRegister(doorsToPlace),
  addPlan: onRegister(addPlan),
  changePlan: onRegister(changePlan),
  runTrials: onRegister(runTrials),
  listUnits: onRegister(listUnits),
  showUnit: onHorizon(showUnit),
  findRoutes: onUsedHorizon(findRoutes),
  showForecast: onUsedHorizon(showForecast),
  yearOfPair: onUsedHorizon(yearOfPair),
  shutInquiry: onUsedHorizon(shutInquiry),
  readInquiry: onRegister(readInquiry),
  readTimes: onRegister(readTimes),
  exampleQuestions: onRegister(exampleQuestions),
  keepQuestion: onRegister(keepQuestion),
  listKeptQuestions: onRegister(listKeptQuestions),
  changeOfQuestion,
  timesOfInquiry: onRegister(timesOfInquiry),
  answerPast,
  firstSteps: onHorizon(firstSteps),
  suggest: onRegister(suggest),
  listRegister: onRegister(listRegister),
  showDepartments: onRegister(showDepartments),
  showObject: onHorizon(showObject),
  listFindings: onRegister(listFindings),
  listHouseRules: onHorizon(listHouseRules),
  tryHouseRule: onHorizon(tryHouseRule),
  exampleFinding: onRegister(exampleFinding),
  showRuleSettings: onRegister(showRuleSettings),
  findingTrends: onRegister(findingTrends),
  exportFindings: onRegister(exportFindings),
  printFindings: onRegister(printFindings),
  listEvents: onRegister(listEvents),
  compareSnapshots,
  verifyRecord,
  listAccounts,
  addAccount,
  changeAccount,
  endAccount,
  resetAccount,
  makeCertifierAccounts,
  listRounds,
  showRound,
  listOrders,
  listLines,
  exportLines,
  exportOrders,
  showDocket,
  showWithdrawal,
  showNarrowings,
  narrowLine,
  signDocket,
  closeRound,
  giveDocket,
  previewSending,
  sendOrders,
  draftToAsk,
  showDraft,
  exportDraftOrders,
  changeDraft,
  offerWithdrawal,
  draftWithdrawal,
  takeBack,
  takeBackAll,
  settleClash,
  addBox,
  movePeople,
  editObject,
  suggestInDraft,
  peopleBoard,
};

export type AskedOperations = typeof askedOperations;
