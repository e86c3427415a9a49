import { applyOwnOrders } from "@/operations/certification/apply-orders";
import { openRound } from "@/operations/certification/open-round";
import { previewRound } from "@/operations/certification/preview-round";
import { fillEffects } from "@/operations/certification/withdrawals";
import { exportRound } from "@/operations/evidence/export-round";
import { exportCalendar, exportTables, exportWorkbook } from "@/operations/evidence/export-snapshot";
import { replayEvents } from "@/operations/events/replay-events";
import { withdrawEvents } from "@/operations/events/withdraw-events";
import { confirmRuleSettings, keepRuleSettings, previewRuleSettings } from "@/operations/findings/rule-settings";
import { endHouseRule, writeHouseRule } from "@/operations/findings/house-rules";
import { lookForFindings } from "@/operations/findings/look-for-findings";
import { previewIntake } from "@/operations/intake/preview-intake";
import { storeIntake } from "@/operations/intake/store-intake";
import { takeByItself } from "@/operations/intake/take-by-itself";
import { takeBackIntake } from "@/operations/intake/take-back";
import { tryProfile } from "@/operations/intake/try-profile";
import { checkUnits } from "@/operations/units/check-units";
import { draftLevels, proposeLevels } from "@/operations/register/put-levels-right";
import { closeDraft } from "@/operations/register/drafts/close-draft";
import { effectOfDraft } from "@/operations/register/drafts/draft-effect";

/** Operations that take too long for the request thread. */
export const longOperations = {
  previewIntake,
  storeIntake,
  takeBackIntake,
  takeByItself,
  tryProfile,
  lookForFindings,
  exportTables,
  exportWorkbook,
  exportRound,
  exportCalendar,
  previewRound,
  openRound,
  fillEffects,
  applyOwnOrders,
  effectOfDraft,
  closeDraft,
  previewRuleSettings,
  keepRuleSettings,
  confirmRuleSettings,
  replayEvents,
  withdrawEvents,
  writeHouseRule,
  proposeLevels,
  draftLevels,
  endHouseRule,
  checkUnits,
};

export type LongOperations = typeof longOperations;
