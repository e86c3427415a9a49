import type { Position } from "../compile/position-index";
import { minutesAWeek } from "../paths/timeframe";
import type { AccessTable } from "../table/access-table";
import { never } from "../table/timelines";
import type { TimelineNumber } from "../table/timelines";
import { minutesADay } from "../time/civil-day";
import { totalMinutes } from "../time/intervals";
import { outOfHours } from "./business-hours";
import type { Finding, FindingContext, FindingRule, Observation, RiskTerm, RuleKey } from "./finding";
import { doorSensitivity } from "./reach";

/** Most points of each term beside the base of the rule; they add up with it to at most 100. */
const most = { sensitivity: 24, outOfHours: 10, weeklyHours: 8, standing: 12 };
const longStandingDays = 365;

/** What some credentials open in an ordinary week, were they live: the most sensitive door, and minutes of the week. */
interface WeeklyReach {
  readonly sensitivity: number;
  readonly minutes: number;
  readonly outOfHours: number;
}

/** The rule and what it observed as a finding of its kind. */
const findingOf = <K extends RuleKey>(
  rule: K,
  { credentials: _, ...observed }: Observation<K>,
  weight: Pick<Finding, "fingerprint" | "risk" | "terms">,
): Finding => ({ ...observed, rule, ...weight }) as unknown as Finding;

/** Weighs what rules observe: an open sum of base, sensitivity, hours outside business, weekly hours and standing. */
export class Scale {
  private readonly sensitivityOfDoor: Uint8Array;
  /** By the rows of credentials: many findings are about people who open the same. */
  private readonly reaches = new Map<string, WeeklyReach>();

  /** `week` is who opens what in an ordinary week, were everybody live. */
  constructor(
    private readonly context: FindingContext,
    private readonly week: AccessTable,
  ) {
    this.sensitivityOfDoor = Uint8Array.from(context.compiled.doors, ({ position }) => doorSensitivity(context.compiled, position));
  }

  weigh<K extends RuleKey>(rule: FindingRule<K>, observation: Observation<K>): Finding {
    const { sensitivity, minutes, outOfHours: unusual } = this.reachOf(observation.credentials);
    const { since, subject, distinct } = observation;
    const days = since === undefined ? 0 : Math.max(0, (this.context.asOf - since) / minutesADay);
    const terms: RiskTerm[] = [
      { term: "base", points: rule.base, of: rule.base },
      { term: "sensitivity", points: Math.round((sensitivity / 3) * most.sensitivity), of: sensitivity },
      {
        term: "outOfHours",
        points: minutes === 0 ? 0 : Math.round((unusual / minutes) * most.outOfHours),
        of: minutes === 0 ? 0 : Math.round((100 * unusual) / minutes),
      },
      { term: "weeklyHours", points: Math.round((minutes / minutesAWeek) * most.weeklyHours), of: Math.round(minutes / 60) },
      { term: "standing", points: Math.round(Math.min(1, days / longStandingDays) * most.standing), of: Math.floor(days) },
    ];
    return findingOf(rule.key, observation, {
      fingerprint: JSON.stringify([rule.key, subject.kind, subject.id, ...distinct]),
      risk: Math.min(
        100,
        terms.reduce((sum, { points }) => sum + points, 0),
      ),
      terms: terms.filter(({ points }) => points > 0),
    });
  }

  private reachOf(credentials: ArrayLike<Position>): WeeklyReach {
    const rows = [...new Set(Array.from(credentials, (credential) => this.week.rowOfCredential[credential] as number))].sort((a, b) => a - b);
    const key = rows.join();
    let reach = this.reaches.get(key);
    if (!reach) this.reaches.set(key, (reach = this.workOut(rows)));
    return reach;
  }

  private workOut(rows: readonly number[]): WeeklyReach {
    const { rows: entries, timelines } = this.week;
    let sensitivity = 0;
    let week: TimelineNumber = never;
    for (const row of rows)
      for (let i = entries.start(row), end = entries.end(row); i < end; i++) {
        sensitivity = Math.max(sensitivity, this.sensitivityOfDoor[entries.doors[i] as number] as number);
        week = timelines.union(week, entries.times[i] as TimelineNumber);
      }
    const open = timelines.set(week);
    return { sensitivity, minutes: totalMinutes(open), outOfHours: totalMinutes(outOfHours(open)) };
  }
}
