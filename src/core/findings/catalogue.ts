import { allDoors } from "./rules/all-doors";
import { aroundTheClock } from "./rules/around-the-clock";
import { byException } from "./rules/by-exception";
import { calendarRunsOut } from "./rules/calendar-runs-out";
import { deadCardTried } from "./rules/dead-card-tried";
import { doorOnlyFree } from "./rules/door-only-free";
import { doorWithoutGrants } from "./rules/door-without-grants";
import { dutiesConflict } from "./rules/duties-conflict";
import { endsSoon } from "./rules/ends-soon";
import { expiredActive } from "./rules/expired-active";
import { hiddenPath } from "./rules/hidden-path";
import { holderOfNothing } from "./rules/holder-of-nothing";
import { holidayMissing } from "./rules/holiday-missing";
import { holidayOpen } from "./rules/holiday-open";
import { holidayTie } from "./rules/holiday-tie";
import { houseRule } from "./rules/house-rule";
import { leaverLive } from "./rules/leaver-live";
import { letIn } from "./rules/let-in";
import { levelLimit } from "./rules/level-limit";
import { levelTooWide } from "./rules/level-too-wide";
import { lostInUse } from "./rules/lost-in-use";
import { manyCredentials } from "./rules/many-credentials";
import { moverKept } from "./rules/mover-kept";
import { neverUsed } from "./rules/never-used";
import { noCertifier } from "./rules/no-certifier";
import { noDepartment } from "./rules/no-department";
import { noEndDate } from "./rules/no-end-date";
import { noSponsor } from "./rules/no-sponsor";
import { notAuthorised } from "./rules/not-authorised";
import { notCertified } from "./rules/not-certified";
import { nothingBehind } from "./rules/nothing-behind";
import { notAtDoor } from "./rules/not-at-door";
import { numberOutOfFormat } from "./rules/number-out-of-format";
import { openedAgainstRecord } from "./rules/opened-against-record";
import { outOfHours } from "./rules/out-of-hours";
import { outlivesHolder } from "./rules/outlives-holder";
import { pinMissing } from "./rules/pin-missing";
import { printedDiffers } from "./rules/printed-differs";
import { privilege } from "./rules/privilege";
import { refusedAgainstRecord } from "./rules/refused-against-record";
import { removedLate } from "./rules/removed-late";
import { requirementOver } from "./rules/requirement-over";
import { rightUnused } from "./rules/right-unused";
import { sameNumber } from "./rules/same-number";
import { samePerson } from "./rules/same-person";
import { samePin } from "./rules/same-pin";
import { scheduleOdd } from "./rules/schedule-odd";
import { singleFactor } from "./rules/single-factor";
import { sleepingAccess } from "./rules/sleeping-access";
import { spareOutstanding } from "./rules/spare-outstanding";
import { standingOverride } from "./rules/standing-override";
import { stockActive } from "./rules/stock-active";
import { strandedRight } from "./rules/stranded-right";
import { tooManyHolders } from "./rules/too-many-holders";
import { triedAgain } from "./rules/tried-again";
import { twiceGiven } from "./rules/twice-given";
import { twoPlaces } from "./rules/two-places";
import { unknownTried } from "./rules/unknown-tried";
import { unknownToSource } from "./rules/unknown-to-source";
import { unlikePeers } from "./rules/unlike-peers";
import { unused } from "./rules/unused";
import { viaMissing } from "./rules/via-missing";
import { visitorSensitive } from "./rules/visitor-sensitive";
import { waking } from "./rules/waking";
import type { Found } from "./flag";
import type { Judged } from "./judged";
import type { RuleKey } from "./proofs";
import type { Parameters, Rule } from "./rule";

/** Every rule, in the order in which they are told. Adding one means adding its file, a line here, and its words. */
export const catalogue = [
  leaverLive,
  removedLate,
  moverKept,
  notCertified,
  notAuthorised,
  requirementOver,
  noSponsor,
  expiredActive,
  endsSoon,
  noEndDate,
  outlivesHolder,
  spareOutstanding,
  unused,
  neverUsed,
  stockActive,
  lostInUse,
  deadCardTried,
  sleepingAccess,
  waking,
  holderOfNothing,
  sameNumber,
  numberOutOfFormat,
  printedDiffers,
  samePin,
  pinMissing,
  viaMissing,
  manyCredentials,
  samePerson,
  noDepartment,
  noCertifier,
  unknownToSource,
  houseRule,
  standingOverride,
  privilege,
  aroundTheClock,
  outOfHours,
  unlikePeers,
  rightUnused,
  byException,
  hiddenPath,
  twiceGiven,
  dutiesConflict,
  visitorSensitive,
  tooManyHolders,
  levelLimit,
  levelTooWide,
  allDoors,
  strandedRight,
  nothingBehind,
  doorWithoutGrants,
  doorOnlyFree,
  singleFactor,
  calendarRunsOut,
  holidayMissing,
  holidayTie,
  holidayOpen,
  scheduleOdd,
  notAtDoor,
  openedAgainstRecord,
  refusedAgainstRecord,
  triedAgain,
  unknownTried,
  twoPlaces,
  letIn,
] as const;

/** A rule whose parameters and proof are looked at as numbers and facts by name. */
export interface AnyRule extends Omit<Rule, "parameters" | "find"> {
  readonly parameters: Parameters;
  readonly find: (judged: Judged, parameters: Parameters) => Found;
}

/** Every rule of which there is a proof is here, and no other. */
export const allRules = catalogue as readonly Rule<(typeof catalogue)[number]["key"], Parameters>[] as readonly AnyRule[];

const byKey = new Map<string, AnyRule>(allRules.map((rule) => [rule.key, rule]));

export const isRuleKey = (key: string): key is RuleKey => byKey.has(key);

export const ruleOf = (key: string): AnyRule | undefined => byKey.get(key);
