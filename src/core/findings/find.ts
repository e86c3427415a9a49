import { compareCodePoints, greatest } from "../kernel/compare";
import type { Evidence } from "../events/event-book";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Horizon } from "../table/horizon";
import { ruleOf } from "./catalogue";
import type { AnyRule } from "./catalogue";
import type { CannotTell, Finding, Findings, RiskTerm, RuleKey } from "./finding";
import { shownRules } from "./finding";
import { daysAsked, fingerprintOf, parametersOf } from "./judge";
import { Judged } from "./judged";
import { required } from "../kernel/invariant";
import { minutesAWeek } from "../paths/timeframe";
import { minutesADay } from "../time/civil-day";
import type { Weighed } from "./risk";
import { RiskScale } from "./risk";
import type { Flag, Untold } from "./flag";
import { usualSettings } from "./settings";
import type { LastUses } from "./use";

/** The last uses of credentials as evidence; of single events nothing is known. */
const evidenceOf = ({ facility }: CompiledFacility, use: LastUses): Evidence => ({
  events: [],
  of: () => [],
  lastGrantedOf: (credential) => use.lastUse(required(facility.credentials[credential], "positions are valid").id),
  datesAt: use.eventDates,
});

/** What is told beside a proof, so that people can be told in full. */
function besideProof(judged: Judged, rule: RuleKey, { subject }: Flag): Readonly<Record<string, unknown>> {
  const { compiled, lives } = judged;
  switch (rule) {
    case "leaver-live": {
      const cardholder = compiled.cardholderById.get(subject.id) ?? -1;
      const left = lives.leftAt(cardholder);
      if (left === undefined) return {};
      return { leftBy: lives.hasStatusLeft(cardholder) && lives.statusSince(cardholder) === left ? "status" : "end" };
    }
    case "unused": {
      const { days = 0 } = parametersOf(judged, ofKey(rule));
      const credential = compiled.credentialById.get(subject.id) ?? -1;
      const sites = judged.sitesOfRow(judged.liveRow(credential));
      return { coveredDays: Math.min(days, ...sites.map((site) => judged.coveredDates(site, days))) };
    }
    case "around-the-clock":
      return { override: subject.kind === "cardholder" && !!lives.cardholder(compiled.cardholderById.get(subject.id) ?? -1).override };
    case "expired-active":
      return {};
  }
}

const ofKey = (key: RuleKey): AnyRule => required(ruleOf(key), "the rules that are shown are in the catalogue");

function termsOf({ risk, of }: Weighed): RiskTerm[] {
  const terms: RiskTerm[] = [
    { term: "base", points: risk.base, of: risk.base },
    { term: "sensitivity", points: risk.sensitivity, of: of.sensitivity },
    { term: "outOfHours", points: risk.outOfHours, of: of.minutes === 0 ? 0 : Math.round((100 * of.outOfHours) / of.minutes) },
    { term: "weeklyHours", points: risk.weeklyHours, of: Math.round(Math.min(of.minutes, minutesAWeek) / 60) },
    { term: "standing", points: risk.standing, of: Math.floor(of.standing / minutesADay) },
  ];
  return terms.filter(({ points }) => points > 0);
}

function findingOf(judged: Judged, scale: RiskScale, rule: RuleKey, flag: Flag): Finding {
  const { subject, distinct = [], proof, since } = flag;
  const weighed = scale.weigh(ofKey(rule), flag);
  const told = Object.fromEntries(Object.entries({ ...proof, ...besideProof(judged, rule, flag) }).filter(([, value]) => value !== undefined));
  const cardholder = subject.kind === "cardholder" ? subject.id : judged.facility.credentials[judged.compiled.credentialById.get(subject.id) ?? -1]?.cardholder;
  return {
    rule,
    subject,
    ...(cardholder !== undefined && { cardholder }),
    distinct,
    proof: told,
    ...(since !== undefined && Number.isFinite(since) && { since }),
    fingerprint: fingerprintOf(rule, subject, distinct),
    risk: weighed.risk.sum,
    terms: termsOf(weighed),
  } as unknown as Finding;
}

/** Of how many subjects a rule cannot tell, and how many dates events cover where they cover least. */
function cannotTellOf(judged: Judged, rule: RuleKey, untold: readonly Untold[]): CannotTell | undefined {
  if (untold.length === 0) return undefined;
  const asked = daysAsked(untold);
  const days = greatest(asked.values(), 0);
  const least = Math.min(days, ...[...asked.keys()].map((site) => judged.coveredDates(site, days)));
  return { rule, concerned: untold.length, covered: least, days };
}

/**
 * Every finding of the rules that are shown, in a register. Cost: the doors of each row that a rule looks at, and of each combination of rows whose
 * findings are weighed.
 */
export function findAll(horizon: Horizon, use: LastUses, rules: readonly RuleKey[] = shownRules): Findings {
  const judged = new Judged({
    horizon,
    settings: usualSettings,
    events: evidenceOf(horizon.compiled, use),
    earlier: [],
    decisions: undefined,
    publicHolidays: () => [],
  });
  const scale = new RiskScale(judged);
  const findings: Finding[] = [];
  const cannotTell: CannotTell[] = [];
  for (const key of rules) {
    const rule = ofKey(key);
    const { flags, untold = [] } = rule.find(judged, parametersOf(judged, rule));
    for (const flag of flags) findings.push(findingOf(judged, scale, key, flag));
    const cannot = cannotTellOf(judged, key, untold);
    if (cannot) cannotTell.push(cannot);
  }
  findings.sort((a, b) => b.risk - a.risk || compareCodePoints(a.fingerprint, b.fingerprint));
  return { findings, cannotTell };
}
