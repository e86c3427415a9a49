import { askSecondFactor } from "@/operations/administration/accounts";
import { changePassword, endSession, showOwnAccount } from "@/operations/administration/own-account";
import { confirmSecondFactor, dropSecondFactor, offerSecondFactor } from "@/operations/administration/second-factor";
import { dropQuestion, watchQuestion } from "@/operations/inquiry/kept-questions";
import { noteExport } from "@/operations/evidence/note-export";
import { listLookUps, noteLookUp } from "@/operations/administration/look-ups";
import { whatWaits } from "@/operations/administration/what-waits";
import { disturbDoor, presentAtUnit, treatUnit } from "@/operations/units/at-the-doors";
import { dropUnit, keepUnit, sendAgain, setUnitLockdown } from "@/operations/units/keep-units";
import { awaitsChecking, visitUnits } from "@/operations/units/visit-units";
import { signIn, signOut, whoIs } from "@/operations/administration/sign-in";
import { signInByLink, whoseLink } from "@/operations/administration/sign-in-link";
import { readOutbox } from "@/operations/mail/read-outbox";
import { runClock } from "@/operations/administration/run-clock";
import { listOccasions, setOccasion } from "@/operations/certification/occasions";
import { answerOrders } from "@/operations/certification/answer-orders";
import { decideLine, keepUnremarkable, passOnLine, undoDecision } from "@/operations/certification/decide-line";
import { addSubstitute, askToClose, commentLine, correctDocket, releaseDockets } from "@/operations/certification/run-round";
import { myDockets } from "@/operations/certification/show-docket";
import { exportDocument } from "@/operations/evidence/export-snapshot";
import { handOutTemplates } from "@/operations/intake/hand-out-templates";
import { setRetention, showRetention } from "@/operations/administration/retention";
import { awaitsEffects } from "@/operations/certification/withdrawals";
import { beginSignOn, finishSignOn, signOnName } from "@/operations/administration/sign-on";
import { peopleOfRecord, readRecord } from "@/operations/evidence/read-record";
import { showFindingHistory, waitingWaivers } from "@/operations/findings/list-findings";
import { assignees, assignFinding, confirmWaiver, endWaiver, noteFinding, secondPersonFrom, waiveFinding } from "@/operations/findings/triage";
import { datesOfEvents, listEventFiles } from "@/operations/events/list-events";
import { dropPlan } from "@/operations/register/plans/keep-plans";
import { planPicture } from "@/operations/register/plans/show-plans";
import { addTrial, dropTrial } from "@/operations/inquiry/trials";
import { askEndOfHouseRule } from "@/operations/findings/house-rules";
import { dropRuleSettings, rulesInForce, settingsInForce } from "@/operations/findings/rule-settings";
import { countFindings, snapshotWithFindings } from "@/operations/findings/show-findings";
import { answerFeed, sourceOfToken } from "@/operations/feed/answer-feed";
import { listFeeds, makeFeedToken, revokeFeedToken } from "@/operations/feed/feed-tokens";
import { collectPushed, listArrivals, lookForArrivals, settleArrival } from "@/operations/intake/look-for-arrivals";
import { listSources, setOrdersTo, setOwnership, setRhythm, sourceNames } from "@/operations/intake/list-sources";
import { beginDraft, dropDraft, listDrafts, shareDraft } from "@/operations/register/drafts/open-draft";
import { showDraftEffect, stopDraftEffect } from "@/operations/register/drafts/show-draft-effect";
import { latestSnapshot, listSnapshots, snapshotChoices } from "@/operations/register/list-snapshots";

/** Operations that only read and write a few rows: the server's own thread has time for them. */
export const ownOperations = {
  handOutTemplates,
  signIn,
  signOut,
  whoIs,
  whoseLink,
  signInByLink,
  showOwnAccount,
  changePassword,
  endSession,
  offerSecondFactor,
  confirmSecondFactor,
  dropSecondFactor,
  askSecondFactor,
  whatWaits,
  dropQuestion,
  watchQuestion,
  noteExport,
  noteLookUp,
  listLookUps,
  dropRuleSettings,
  askEndOfHouseRule,
  addTrial,
  dropPlan,
  planPicture,
  dropTrial,
  runClock,
  awaitsEffects,
  readOutbox,
  latestSnapshot,
  listSnapshots,
  snapshotChoices,
  exportDocument,
  snapshotWithFindings,
  countFindings,
  settingsInForce,
  rulesInForce,
  datesOfEvents,
  listEventFiles,
  showFindingHistory,
  waitingWaivers,
  assignees,
  assignFinding,
  confirmWaiver,
  endWaiver,
  noteFinding,
  secondPersonFrom,
  waiveFinding,
  answerFeed,
  sourceOfToken,
  listFeeds,
  collectPushed,
  listArrivals,
  lookForArrivals,
  settleArrival,
  makeFeedToken,
  revokeFeedToken,
  listSources,
  sourceNames,
  setOwnership,
  setRhythm,
  setOrdersTo,
  listDrafts,
  beginDraft,
  shareDraft,
  dropDraft,
  showDraftEffect,
  stopDraftEffect,
  myDockets,
  decideLine,
  undoDecision,
  passOnLine,
  keepUnremarkable,
  commentLine,
  releaseDockets,
  addSubstitute,
  correctDocket,
  askToClose,
  answerOrders,
  listOccasions,
  setOccasion,
  showRetention,
  setRetention,
  beginSignOn,
  finishSignOn,
  signOnName,
  readRecord,
  peopleOfRecord,
  keepUnit,
  dropUnit,
  setUnitLockdown,
  sendAgain,
  presentAtUnit,
  disturbDoor,
  treatUnit,
  visitUnits,
  awaitsChecking,
};
