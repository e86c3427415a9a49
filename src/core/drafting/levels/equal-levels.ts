import { canonicalJson } from "../../facility/canonical-json";
import type { Grant, Level, LevelRow } from "../../facility/document";
import type { Facility } from "../../facility/facility";
import type { FacilityChange } from "../../facility/facility-change";
import { normalObject } from "../../facility/normal-form";
import type { Plain } from "../../facility/object-key";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { compareCodePoints, groupBy } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import type { LevelProposal } from "./level-proposal";

export const grantAsObject = (grant: Grant): Plain => normalObject(grant as unknown as Plain, "grants");
export const levelAsObject = (level: Level): Plain => normalObject(level as unknown as Plain, "levels");

/** The doors that a row of a level covers. */
export function doorsOfLevelRow({ cover }: CompiledFacility, row: LevelRow): ReturnType<CompiledFacility["cover"]> {
  if (row.door !== undefined) return cover({ door: row.door });
  return cover(row.doorGroup !== undefined ? { doorGroup: row.doorGroup } : { area: row.area });
}

/** What a level opens, as a text that equal ones have in common: each door with its schedules and actions. */
export function contentOfLevel(compiled: CompiledFacility, level: Level): string {
  const doors = new Map<string, Set<string>>();
  for (const row of level.rows ?? [])
    for (const door of doorsOfLevelRow(compiled, row).keys()) {
      const id = required(compiled.facility.doors[door], "positions are valid").id;
      doors.set(id, (doors.get(id) ?? new Set<string>()).add(canonicalJson([row.schedule, [...(row.actions ?? [])].sort(compareCodePoints)])));
    }
  return canonicalJson([...doors].sort(([a], [b]) => compareCodePoints(a, b)).map(([id, ways]) => [id, [...ways].sort(compareCodePoints)]));
}

/** The changes by which one level stands in the place of another wherever that is given, and the other goes. */
function inPlaceOf(facility: Facility, gone: ReadonlySet<string>, kept: string): FacilityChange[] {
  const grants = facility.grants.flatMap((grant): FacilityChange[] =>
    grant.open.level !== undefined && gone.has(grant.open.level)
      ? [{ do: "alter", list: "grants", id: grant.id, object: grantAsObject({ ...grant, open: { level: kept } }) }]
      : [],
  );
  const bundles = facility.bundles.flatMap((bundle): FacilityChange[] => {
    const levels = bundle.levels ?? [];
    if (!levels.some((level) => gone.has(level))) return [];
    const renamed = [...new Set(levels.map((level) => (gone.has(level) ? kept : level)))];
    return [{ do: "alter", list: "bundles", id: bundle.id, object: normalObject({ ...bundle, levels: renamed }, "bundles") }];
  });
  const levels = [...gone].map((id): FacilityChange => ({ do: "remove", list: "levels", id }));
  return [...grants, ...bundles, ...levels];
}

/** Levels that open the same doors by the same schedules, with the same actions, made one: the first by id stays. */
export function mergeEqualLevels(compiled: CompiledFacility): LevelProposal[] {
  const { facility } = compiled;
  const opening = facility.levels.map((level) => ({ level, content: contentOfLevel(compiled, level) })).filter(({ content }) => content !== "[]");
  return [...groupBy(opening, ({ content }) => content).values()].flatMap((equal): LevelProposal[] => {
    const ids = equal.map(({ level }) => level.id).sort(compareCodePoints);
    const [kept, ...others] = ids;
    if (kept === undefined || others.length === 0) return [];
    return [{ kind: "merge-equal", levels: ids, about: [], changes: inPlaceOf(facility, new Set(others), kept) }];
  });
}

/** Grants of a level that the same receiver has by another grant as wide, and levels that nobody is given, taken out in one. */
export function dropNeedless({ facility }: CompiledFacility): LevelProposal[] {
  const receiver = ({ to }: Grant): string => canonicalJson(to);
  const isSame = (a: Grant, b: Grant): boolean =>
    a.schedule === b.schedule && a.from === b.from && a.until === b.until && (a.inLockdown ?? false) === (b.inLockdown ?? false);
  const needless: Grant[] = [];
  for (const own of groupBy(
    facility.grants.filter(({ effect, open }) => effect !== "block" && open.level !== undefined),
    (grant) => canonicalJson([receiver(grant), grant.open]),
  ).values()) {
    const kept: Grant[] = [];
    for (const grant of own) (kept.some((one) => isSame(one, grant)) ? needless : kept).push(grant);
  }
  const given = new Set([...facility.grants.flatMap(({ open }) => open.level ?? []), ...facility.bundles.flatMap(({ levels }) => levels ?? [])]);
  const toNobody = facility.levels.filter(({ id }) => !given.has(id));
  if (needless.length + toNobody.length === 0) return [];
  return [
    {
      kind: "drop-needless",
      levels: toNobody.map(({ id }) => id),
      about: needless.map(({ id }) => id),
      changes: [
        ...needless.map(({ id }): FacilityChange => ({ do: "remove", list: "grants", id })),
        ...toNobody.map(({ id }): FacilityChange => ({ do: "remove", list: "levels", id })),
      ],
    },
  ];
}
