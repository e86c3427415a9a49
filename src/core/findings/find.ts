import { compareCodePoints } from "../kernel/compare";
import { asIfLive, ordinary } from "../paths/paths";
import type { Horizon } from "../table/horizon";
import { catalogue } from "./catalogue";
import type { AnyRule, CannotTell, Finding, FindingContext, FindingRule, Findings, RuleKey } from "./finding";
import type { LastUses } from "./use";
import { Scale } from "./weigh";

function findingsOfRule<K extends RuleKey>(rule: FindingRule<K>, context: FindingContext, scale: Scale, findings: Finding[], cannotTell: CannotTell[]): void {
  const observed = rule.observe(context);
  for (const observation of observed.observations) findings.push(scale.weigh(rule, observation));
  if (observed.cannotTell) cannotTell.push({ rule: rule.key, ...observed.cannotTell });
}

/** Every finding of the rules in a register. Cost: the doors of each row that a rule looks at, and of each combination of rows whose findings are weighed. */
export function findAll(horizon: Horizon, use: LastUses, rules: readonly AnyRule[] = catalogue): Findings {
  const context: FindingContext = { compiled: horizon.compiled, asOf: horizon.asOf, use, ahead: horizon.table(ordinary) };
  const scale = new Scale(context, horizon.week(asIfLive));
  const findings: Finding[] = [];
  const cannotTell: CannotTell[] = [];
  for (const rule of rules) findingsOfRule(rule as FindingRule, context, scale, findings, cannotTell);
  findings.sort((a, b) => b.risk - a.risk || compareCodePoints(a.fingerprint, b.fingerprint));
  return { findings, cannotTell };
}
