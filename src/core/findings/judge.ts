import { compareCodePoints } from "../kernel/compare";
import type { AnyRule } from "./catalogue";
import { allRules } from "./catalogue";
import type { Judged } from "./judged";
import type { Risk } from "./risk";
import { RiskScale } from "./risk";
import type { Flag, Found, Subject, Untold } from "./flag";
import type { Parameters } from "./rule";
import { own } from "./settings";

/** The parameters of a rule: what the settings say, else its own. */
export function parametersOf(judged: Pick<Judged, "settings">, rule: AnyRule): Parameters {
  const said = own(judged.settings.parameters, rule.key);
  return Object.fromEntries(Object.entries(rule.parameters).map(([name, usual]) => [name, own(said, name) ?? usual]));
}

/** The same finding bears the same one in every snapshot. */
export const fingerprintOf = (rule: string, { kind, id }: Subject, distinct: readonly string[] = []): string => JSON.stringify([rule, kind, id, ...distinct]);

/** What the fingerprints of all findings of a rule on one subject begin with; no other fingerprint does. */
export const fingerprintHead = (rule: string, { kind, id }: Subject): string => JSON.stringify([rule, kind, id]).slice(0, -1);

/** A finding as it is printed; lists of a proof are sorted, each item once. */
export interface PrintedFinding {
  readonly rule: string;
  readonly subject: Subject;
  readonly distinct?: readonly string[];
  readonly proof: Flag["proof"];
  readonly risk?: Risk;
}

/** What a rule cannot tell: of which subjects, and how many dates events cover of those that would be needed, by site. */
export interface PrintedUntold {
  readonly rule: string;
  readonly cannotTell: readonly string[];
  readonly covered: ReadonlyMap<string, number | readonly [covered: number, days: number]>;
}

const sortedOnce = (texts: readonly string[]): string[] => [...new Set(texts)].sort(compareCodePoints);

const proofOf = (proof: Flag["proof"]): Flag["proof"] =>
  Object.fromEntries(
    Object.entries(proof).flatMap(([name, value]) => (value === undefined ? [] : [[name, typeof value === "object" ? sortedOnce(value) : value]])),
  );

function compareLists(a: readonly string[], b: readonly string[]): number {
  for (let i = 0; i < Math.min(a.length, b.length); i++) {
    const order = compareCodePoints(a[i] as string, b[i] as string);
    if (order !== 0) return order;
  }
  return a.length - b.length;
}

/** By site, the most days that are asked of it. Many subjects want the same of the same sites, and share the list. */
export function daysAsked(untold: readonly Untold[]): Map<string, number> {
  const days = new Map<string, number>();
  for (const sites of new Set(untold.map((one) => one.sites))) for (const [site, asked] of sites ?? []) days.set(site, Math.max(asked, days.get(site) ?? 0));
  return days;
}

function coveredAt(judged: Judged, untold: readonly Untold[]): Map<string, readonly [number, number]> {
  const days = daysAsked(untold);
  return new Map([...days].sort(([a], [b]) => compareCodePoints(a, b)).map(([site, asked]) => [site, [judged.coveredDates(site, asked), asked] as const]));
}

const compareFlags = (a: Flag, b: Flag): number =>
  compareCodePoints(a.subject.kind, b.subject.kind) || compareCodePoints(a.subject.id, b.subject.id) || compareLists(a.distinct ?? [], b.distinct ?? []);

/** Flags as they are printed, one after the other: of a large register there are millions. */
function* printed(rule: AnyRule, flags: readonly Flag[], scale: RiskScale | undefined): Generator<PrintedFinding> {
  for (const flag of flags) {
    const { subject, distinct = [], proof } = flag;
    yield {
      rule: rule.key,
      subject: { kind: subject.kind, id: subject.id },
      ...(distinct.length > 0 && { distinct }),
      proof: proofOf(proof),
      ...(scale && { risk: scale.weigh(rule, flag).risk }),
    };
  }
}

function untoldOf(judged: Judged, rule: AnyRule, { untold = [], without }: Found): PrintedUntold | undefined {
  if (without) return { rule: rule.key, cannotTell: [], covered: new Map([[without, 0]]) };
  return untold.length === 0 ? undefined : { rule: rule.key, cannotTell: sortedOnce(untold.map(({ id }) => id)), covered: coveredAt(judged, untold) };
}

/** What a rule finds in a register, in the order in which it is printed, to be gone through once; and what it cannot tell. */
export function judgeBy(
  judged: Judged,
  rule: AnyRule,
  scale?: RiskScale,
): { readonly findings: Iterable<PrintedFinding>; readonly untold: PrintedUntold | undefined } {
  const found = rule.find(judged, parametersOf(judged, rule));
  return { findings: printed(rule, [...found.flags].sort(compareFlags), scale), untold: untoldOf(judged, rule, found) };
}

/** What the rules find, rule by rule in the order of their keys. */
export function* judgeAll(judged: Judged, keys: readonly string[] | undefined, withRisk: boolean): Generator<PrintedFinding | PrintedUntold> {
  const rules = allRules.filter(({ key }) => keys === undefined || keys.includes(key)).sort((a, b) => compareCodePoints(a.key, b.key));
  const scale = withRisk ? new RiskScale(judged) : undefined;
  for (const rule of rules) {
    const { findings, untold } = judgeBy(judged, rule, scale);
    yield* findings;
    if (untold) yield untold;
  }
}
