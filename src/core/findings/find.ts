import { compareCodePoints } from "../kernel/compare";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { instantOf } from "../facility/time-rules";
import { accessTable } from "../resolve/access-table";
import { ordinary } from "../resolve/paths";
import { exactReading, ordinaryWeekReading } from "../resolve/reading";
import { minuteDown } from "../time/instant";
import { catalogue } from "./catalogue";
import type { CannotTell, Finding, FindingContext, FindingRule, Findings } from "./finding";
import { monthsAhead } from "../time/horizon";
import { reachOf } from "./reach";
import type { UseRecord } from "./use";
import { weigh } from "./weigh";

/** Every finding of the rules in a facility. Cost: two access tables, and the doors of each row that a rule looks at. */
export function findAll(compiled: CompiledFacility, use: UseRecord, rules: readonly FindingRule[] = catalogue): Findings {
  const asOf = minuteDown(instantOf(compiled.facility.asOf));
  const ahead = accessTable(compiled, exactReading(compiled, asOf, monthsAhead(asOf), ordinary));
  const wakened = accessTable(compiled, ordinaryWeekReading(compiled, asOf, { lockdown: false, asIfLive: true }));
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
