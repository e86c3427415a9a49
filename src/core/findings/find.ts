import { compareCodePoints } from "../kernel/compare";
import type { CompiledFacility } from "../compile/compiled-facility";
import { aheadOf } from "../facility/ahead";
import { ordinary } from "../paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "../paths/timeframe";
import { accessTable } from "../table/access-table";
import type { AccessTable } from "../table/access-table";
import { catalogue } from "./catalogue";
import type { AnyRule, CannotTell, Finding, FindingContext, FindingRule, Findings, RuleKey } from "./finding";
import type { UseRecord } from "./use";
import { Scale } from "./weigh";

/** The tables that rules ask: who opens what ahead, and in an ordinary week, were everybody live. */
export interface FindingTables {
  readonly ahead: AccessTable;
  readonly wakenedWeek: AccessTable;
}

/** The tables of a facility, where nobody has them already. */
export function findingTables(compiled: CompiledFacility): FindingTables {
  const { from, to } = aheadOf(compiled.facility);
  return { ahead: accessTable(compiled, exactTimeframe(compiled, from, to, ordinary)), wakenedWeek: accessTable(compiled, ordinaryWeekTimeframe(compiled, from, { lockdown: false, asIfLive: true })) };
}

function findingsOfRule<K extends RuleKey>(rule: FindingRule<K>, context: FindingContext, scale: Scale, findings: Finding[], cannotTell: CannotTell[]): void {
  const observed = rule.observe(context);
  for (const observation of observed.observations) findings.push(scale.weigh(rule, observation));
  if (observed.cannotTell) cannotTell.push({ rule: rule.key, ...observed.cannotTell });
}

/** Every finding of the rules in a facility. Cost: the doors of each row that a rule looks at, and of each combination of rows whose findings are weighed. */
export function findAll(compiled: CompiledFacility, use: UseRecord, rules: readonly AnyRule[] = catalogue, tables: FindingTables = findingTables(compiled)): Findings {
  const context: FindingContext = { compiled, asOf: aheadOf(compiled.facility).from, use, ahead: tables.ahead };
  const scale = new Scale(context, tables.wakenedWeek);
  const findings: Finding[] = [];
  const cannotTell: CannotTell[] = [];
  for (const rule of rules) findingsOfRule(rule as FindingRule, context, scale, findings, cannotTell);
  findings.sort((a, b) => b.risk - a.risk || compareCodePoints(a.fingerprint, b.fingerprint));
  return { findings, cannotTell };
}
