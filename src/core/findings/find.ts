import { compareCodePoints, First, greatest } from "../kernel/compare";
import { minutesAWeek } from "../paths/timeframe";
import { minutesADay } from "../time/civil-day";
import type { AnyRule } from "./catalogue";
import { allRules } from "./catalogue";
import type { CannotTell, Finding, Findings, RiskTerm, RuleKey } from "./finding";
import type { Flag, Found } from "./flag";
import { daysAsked, fingerprintHead, fingerprintOf, parametersOf } from "./judge";
import type { Judged } from "./judged";
import type { Weighed } from "./risk";
import { RiskScale } from "./risk";

/** Nobody looks through more findings of one rule; what is beyond is counted. */
export const mostOfARule = 20_000;

/** What is told beside a proof, so that people can be told in full. */
function besideProof(judged: Judged, rule: AnyRule, { subject }: Flag): Readonly<Record<string, unknown>> {
  const { compiled, lives } = judged;
  switch (rule.key) {
    case "leaver-live": {
      const cardholder = compiled.cardholderById.get(subject.id) ?? -1;
      const left = lives.leftAt(cardholder);
      if (left === undefined) return {};
      return { leftBy: lives.hasStatusLeft(cardholder) && lives.statusSince(cardholder) === left ? "status" : "end" };
    }
    case "unused": {
      const { days = 0 } = parametersOf(judged, rule);
      const credential = compiled.credentialById.get(subject.id) ?? -1;
      const sites = judged.sitesOfRow(judged.liveRow(credential));
      return { coveredDays: Math.min(days, ...sites.map((site) => judged.coveredDates(site, days))) };
    }
    case "around-the-clock":
      return { override: subject.kind === "cardholder" && !!lives.cardholder(compiled.cardholderById.get(subject.id) ?? -1).override };
    default:
      return {};
  }
}

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

/** The cardholder concerned: the subject, or whose credential it is. */
function cardholderOf({ facility, compiled }: Judged, { kind, id }: Flag["subject"]): string | undefined {
  if (kind === "cardholder") return id;
  return kind === "credential" ? facility.credentials[compiled.credentialById.get(id) ?? -1]?.cardholder : undefined;
}

interface WeighedFlag {
  readonly flag: Flag;
  readonly fingerprint: string;
  readonly weighed: Weighed;
}

const byRisk = (a: WeighedFlag, b: WeighedFlag): number => b.weighed.risk.sum - a.weighed.risk.sum || compareCodePoints(a.fingerprint, b.fingerprint);

/** A rule proves what is said of its key: see `rule`. */
function findingOf(judged: Judged, rule: AnyRule, { flag, fingerprint, weighed }: WeighedFlag): Finding {
  const { subject, distinct = [], proof, since } = flag;
  const cardholder = cardholderOf(judged, subject);
  return {
    rule: rule.key,
    subject: { kind: subject.kind, id: subject.id },
    ...(cardholder !== undefined && { cardholder }),
    distinct,
    proof: Object.fromEntries(Object.entries({ ...proof, ...besideProof(judged, rule, flag) }).filter(([, value]) => value !== undefined)),
    ...(since !== undefined && Number.isFinite(since) && { since }),
    fingerprint,
    risk: weighed.risk.sum,
    terms: termsOf(weighed),
  } as unknown as Finding;
}

/** Of which subjects a rule cannot tell, and how many dates events cover where they cover least. */
function cannotTellOf(judged: Judged, rule: RuleKey, { untold = [], without }: Found): CannotTell | undefined {
  if (without) return { rule, concerned: 0, covered: 0, days: 0, without, sites: [], subjects: [] };
  if (untold.length === 0) return undefined;
  const asked = daysAsked(untold);
  const days = greatest(asked.values(), 0);
  const sites = [...asked.keys()].sort(compareCodePoints);
  const covered = Math.min(days, ...sites.map((site) => judged.coveredDates(site, days)));
  const subjects = [...new Set(untold.map(({ id }) => id))];
  return { rule, concerned: subjects.length, covered, days, sites, subjects };
}

/** The first of what a rule flags, by risk, and how much it flags. Cost: of the millions that a rule may flag, most are passed over by their subject alone. */
function riskiest(rule: AnyRule, flags: Iterable<Flag>, scale: RiskScale): { readonly kept: readonly WeighedFlag[]; readonly total: number } {
  const kept = new First(mostOfARule, byRisk);
  let total = 0;
  let [subject, against, isBehind]: [Flag["subject"] | undefined, WeighedFlag | undefined, boolean] = [undefined, undefined, false];
  for (const flag of flags) {
    total++;
    const weighed = scale.weigh(rule, flag);
    const last = kept.bound;
    if (last && weighed.risk.sum < last.weighed.risk.sum) continue;
    if (last?.weighed.risk.sum === weighed.risk.sum) {
      if (flag.subject !== subject || last !== against) {
        [subject, against] = [flag.subject, last];
        isBehind = compareCodePoints(fingerprintHead(rule.key, subject), last.fingerprint) > 0;
      }
      if (isBehind) continue;
    }
    kept.offer({ flag, fingerprint: fingerprintOf(rule.key, flag.subject, flag.distinct), weighed });
  }
  return { kept: kept.items(), total };
}

/** Every finding of some rules in a register, with its risk. Cost: that of each rule, and of weighing what it finds. */
export function findAll(judged: Judged, rules: readonly RuleKey[] = allRules.map(({ key }) => key)): Findings {
  const scale = new RiskScale(judged);
  const findings: Finding[] = [];
  const cannotTell: CannotTell[] = [];
  const totals = new Map<RuleKey, number>();
  for (const rule of allRules) {
    if (!rules.includes(rule.key)) continue;
    const found = rule.find(judged, parametersOf(judged, rule));
    const { kept, total } = riskiest(rule, found.flags, scale);
    totals.set(rule.key, total);
    for (const one of kept) findings.push(findingOf(judged, rule, one));
    const cannot = cannotTellOf(judged, rule.key, found);
    if (cannot) cannotTell.push(cannot);
  }
  findings.sort((a, b) => b.risk - a.risk || compareCodePoints(a.fingerprint, b.fingerprint));
  return { findings, cannotTell, totals };
}
