import type { Level, LevelRow } from "../../facility/document";
import type { FacilityChange } from "../../facility/facility-change";
import type { Position } from "../../compile/position-index";
import type { Judged } from "../../findings/judged";
import { compareCodePoints } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import { grantAsObject, levelAsObject } from "./equal-levels";
import { freshIds } from "./exceptions";
import type { LevelProposal } from "./level-proposal";
import { coverOf, doorsOfLevel, holdersOfLevels, isUseTold, usedDoors } from "./use-of-levels";

/** The rows of a level for some of its doors: a row of which all stay is as it was, one of which some go names those that stay. */
function rowsFor(judged: Judged, { rows = [] }: Level, stays: (door: Position) => boolean): LevelRow[] {
  return rows.flatMap((row): LevelRow[] => {
    const covered = coverOf(judged, row);
    const kept = covered.filter(stays);
    if (kept.length === covered.length) return [row];
    const { door: _door, doorGroup: _group, area: _area, ...rest } = row;
    return kept.map((door) => ({ ...rest, door: required(judged.facility.doors[door], "positions are valid").id }));
  });
}

/** Doors that none of a level's holders used, taken out of it; and a level of which groups use different doors, one for each group. */
export function levelsByUse(judged: Judged): LevelProposal[] {
  const { facility, compiled } = judged;
  const usedBy = usedDoors(judged);
  const holdersOf = holdersOfLevels(judged);
  const freshId = freshIds(compiled, "level-by-use");
  const idOf = (door: Position): string => required(facility.doors[door], "positions are valid").id;
  const isFloor = (door: Position): boolean => facility.doors[door]?.kind === "floor";
  const found: LevelProposal[] = [];
  for (const [position, level] of facility.levels.entries()) {
    const holders = holdersOf.get(position) ?? [];
    const covered = doorsOfLevel(judged, position);
    if (holders.length === 0 || covered.length < 2 || !isUseTold(judged, covered)) continue;
    const isUsed = new Set(holders.flatMap((holder) => [...usedBy(holder)]));
    const unused = covered.filter((door) => !isUsed.has(door));
    if (unused.length > 0 && unused.length < covered.length) {
      const goes = new Set(unused);
      const object = levelAsObject({ ...level, rows: rowsFor(judged, level, (door) => !goes.has(door)) });
      found.push({
        kind: "drop-unused",
        levels: [level.id],
        about: unused.map(idOf).sort(compareCodePoints),
        changes: [{ do: "alter", list: "levels", id: level.id, object }],
      });
    }
    const toGroups = facility.grants.filter(({ open, to, effect }) => effect !== "block" && open.level === level.id && to.group !== undefined);
    const isGivenOtherwise = facility.grants.some(({ open, to }) => open.level === level.id && to.group === undefined);
    const groups = [...new Set(toGroups.map(({ to }) => to.group ?? ""))].sort(compareCodePoints);
    const isInBundle = facility.bundles.some(({ levels = [] }) => levels.includes(level.id));
    if (groups.length < 2 || isGivenOtherwise || isInBundle) continue;
    const usesOf = new Map(
      groups.map((group) => {
        const members = compiled.cardholdersIn(compiled.groupById.get(group) ?? -1);
        const used = new Set(holders.filter(({ cardholder }) => cardholder !== undefined && members.has(cardholder)).flatMap((holder) => [...usedBy(holder)]));
        return [group, covered.filter((door) => used.has(door))] as const;
      }),
    );
    const doorsUsed = [...usesOf.values()];
    const areDifferent = new Set(doorsUsed.map((doors) => doors.join(" "))).size > 1;
    if (!areDifferent || doorsUsed.some((doors) => doors.length === 0 || doors.length === covered.length)) continue;
    const changes: FacilityChange[] = [];
    for (const group of groups) {
      const stays = new Set(usesOf.get(group));
      const id = freshId();
      const name = `${level.name} for ${facility.groups[compiled.groupById.get(group) ?? -1]?.name ?? group}`;
      const rows = rowsFor(judged, level, (door) => stays.has(door) || isFloor(door));
      changes.push({ do: "add", list: "levels", id, object: levelAsObject({ id, name: name.slice(0, 200), rows }) });
      for (const grant of toGroups.filter(({ to }) => to.group === group))
        changes.push({ do: "alter", list: "grants", id: grant.id, object: grantAsObject({ ...grant, open: { level: id } }) });
    }
    changes.push({ do: "remove", list: "levels", id: level.id });
    found.push({ kind: "split-by-use", levels: [level.id], about: groups, changes });
  }
  // What takes most away comes first.
  return found.sort((a, b) => b.about.length - a.about.length || compareCodePoints(a.levels.join(" "), b.levels.join(" ")));
}
