import { compareCodePoints } from "../kernel/compare";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { accessTable } from "../table/access-table";
import { ordinary } from "../paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "../paths/timeframe";
import { catalogue } from "./catalogue";
import type { CannotTell, Finding, FindingContext, FindingRule, Findings } from "./finding";
import { aheadOf } from "../facility/ahead";
import { reachOf } from "./reach";
import type { UseRecord } from "./use";
import { weigh } from "./weigh";

/** Every finding of the rules in a facility. Cost: two access tables, and the doors of each row that a rule looks at. */
export function findAll(compiled: CompiledFacility, use: UseRecord, rules: readonly FindingRule[] = catalogue): Findings {
  const { from: asOf, to } = aheadOf(compiled.facility);
  const ahead = accessTable(compiled, exactTimeframe(compiled, asOf, to, ordinary));
  const wakened = accessTable(compiled, ordinaryWeekTimeframe(compiled, asOf, { lockdown: false, asIfLive: true }));
  const positions = (credentials: readonly CompiledCredential[]) => credentials.map(({ position }) => position);
  const context: FindingContext = {
    compiled,
    asOf,
    use,
    ahead,
    wakenedWeek: (credentials) => reachOf(wakened, positions(credentials)),
  };
  const findings: Finding[] = [];
  const cannotTell: CannotTell[] = [];
  for (const rule of rules) {
    const observed = rule.observe(context);
    findings.push(...observed.observations.map((observation) => weigh(context, rule, observation)));
    if (observed.cannotTell) cannotTell.push({ rule: rule.key, ...observed.cannotTell });
  }
  findings.sort((a, b) => b.risk - a.risk || compareCodePoints(a.fingerprint, b.fingerprint));
  return { findings, cannotTell };
}
