import { scheduleRows, schedulesNamed } from "../schedule-rows";

import { rule, standards } from "../rule";
import type { FlagOf, SubjectKind } from "../flag";
import type { Judged } from "../judged";

/** How many cardholders are in each group or a group below it: through memberships that are not over, and their department. */
function memberCounts({ facility, compiled, lives }: Judged): ReadonlyMap<string, number> {
  const groupsOf = new Map<string, Set<string>>();
  const add = (cardholder: string, group: string): void => {
    const known = groupsOf.get(cardholder) ?? new Set<string>();
    groupsOf.set(cardholder, known);
    for (const above of compiled.chainOf(compiled.groupById.get(group) ?? -1)) known.add(facility.groups[above]?.id ?? "");
  };
  for (const { id, department } of facility.cardholders) if (department !== undefined) add(id, department);
  for (const membership of facility.memberships) if (!lives.isOver(lives.windowOfMembership(membership))) add(membership.cardholder, membership.group);
  const counts = new Map<string, number>();
  for (const groups of groupsOf.values()) for (const group of groups) counts.set(group, (counts.get(group) ?? 0) + 1);
  return counts;
}

/** Definitions that nothing uses, or that do nothing. */
export const nothingBehind = rule({
  key: "nothing-behind",
  base: 4,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { facility, compiled, lives } = judged;
    const flags: FlagOf<"nothing-behind">[] = [];
    const observe = (kind: SubjectKind, id: string, whys: Readonly<Record<string, boolean>>): void => {
      for (const [why, holds] of Object.entries(whys)) if (holds) flags.push({ subject: { kind, id }, distinct: [why], proof: {} });
    };
    const standing = facility.grants.filter((grant) => !lives.isOver(lives.windowOfGrant(grant)));
    const bundles = new Set(standing.flatMap(({ open }) => open.bundle ?? []));
    const levels = new Set([
      ...standing.flatMap(({ open }) => open.level ?? []),
      ...facility.bundles.flatMap(({ id, levels: own = [] }) => (bundles.has(id) ? own : [])),
    ]);
    for (const { id } of facility.levels) observe("level", id, { unused: !levels.has(id), "opens-nothing": compiled.cover({ level: id }).size === 0 });
    for (const { id } of facility.bundles) observe("bundle", id, { unused: !bundles.has(id), "opens-nothing": compiled.cover({ bundle: id }).size === 0 });

    const members = memberCounts(judged);
    const departments = new Set(facility.cardholders.map(({ department }) => department));
    const given = new Set(standing.flatMap(({ to, effect }) => (effect === "block" ? [] : (to.group ?? []))));
    facility.groups.forEach(({ id, kind }, position) => {
      const count = members.get(id) ?? 0;
      const isDepartment = kind === "department" || departments.has(id);
      observe("group", id, {
        unused: count === 0,
        "one-member": !isDepartment && count === 1,
        "opens-nothing": !isDepartment && !compiled.chainOf(position).some((above) => given.has(facility.groups[above]?.id ?? "")),
      });
    });

    const named = schedulesNamed(facility);
    for (const schedule of facility.schedules)
      observe("schedule", schedule.id, {
        unused: !named.has(schedule.id),
        "opens-nothing": !schedule.always && scheduleRows(schedule).every(({ intervals }) => intervals.every(([start, end]) => start === end)),
      });

    const calendars = new Set([...facility.sites, ...facility.cardholders].map(({ calendar }) => calendar));
    for (const { id, days = [] } of facility.calendars) observe("calendar", id, { unused: !calendars.has(id), "opens-nothing": days.length === 0 });
    return { flags };
  },
});
