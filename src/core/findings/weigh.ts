import { totalMinutes, union } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import { minutesAWeek } from "../paths/timeframe";
import { minutesADay } from "../time/civil-day";
import { outOfHours } from "./business-hours";
import type { Finding, FindingContext, FindingRule, Observation, RiskPart } from "./finding";
import { doorSensitivity } from "./reach";

/** Most points of each term beside the base of the rule; they add up with it to at most 100. */
const most = { sensitivity: 24, outOfHours: 10, weeklyHours: 8, standing: 12 };
const longStandingDays = 365;

/** The finding of an observation: its risk as an open sum of base, sensitivity, hours outside business, weekly hours and standing. */
export function weigh(context: FindingContext, rule: FindingRule, observation: Observation): Finding {
  const { credentials, since, distinct, ...shown } = observation;
  const reach = context.wakenedWeek(credentials);
  let sensitivity = 0;
  let week: IntervalSet = [];
  for (const [door, open] of reach) {
    sensitivity = Math.max(sensitivity, doorSensitivity(context.compiled, door));
    week = union(week, open);
  }
  const minutes = totalMinutes(week);
  const odd = totalMinutes(outOfHours(week));
  const days = since === undefined ? 0 : Math.max(0, (context.asOf - since) / minutesADay);
  const parts: RiskPart[] = [
    { what: "the rule itself", points: rule.base },
    { what: `most sensitive area reached: ${sensitivity} of 3`, points: Math.round((sensitivity / 3) * most.sensitivity) },
    { what: `out of hours ${minutes === 0 ? 0 : Math.round((100 * odd) / minutes)} %`, points: minutes === 0 ? 0 : Math.round((odd / minutes) * most.outOfHours) },
    { what: `${Math.round(minutes / 60)} h a week`, points: Math.round((minutes / minutesAWeek) * most.weeklyHours) },
    { what: `standing for ${Math.floor(days)} days`, points: Math.round(Math.min(1, days / longStandingDays) * most.standing) },
  ];
  return {
    ...shown,
    rule: rule.key,
    fingerprint: [rule.key, shown.subject.kind, shown.subject.id, ...(distinct === undefined ? [] : [distinct])].join("|"),
    risk: Math.min(100, parts.reduce((sum, part) => sum + part.points, 0)),
    parts: parts.filter(({ points }) => points > 0),
    ...(since !== undefined && Number.isFinite(since) && { since }),
  };
}
