import type { CompiledFacility } from "../compile/compiled-facility";
import { fieldChanges } from "../drafting/change";
import { canonicalJson } from "../facility/canonical-json";
import type { Facility } from "../facility/facility";
import type { FacilityChange } from "../facility/facility-change";
import { keyOfChange } from "../facility/facility-change";
import type { Plain } from "../facility/object-key";
import { keyOf } from "../facility/object-key";
import { unreachable } from "../kernel/invariant";

/** What a source may write as it likes without doing otherwise than it was asked: names of its own, remarks, who authorised it. */
const ofNoAccount = new Set(["id", "name", "note", "authorised"]);

const objectsOf = (facility: Facility, change: FacilityChange): readonly Plain[] => facility[change.list] as unknown as readonly Plain[];

/** Whether changes that were ordered stand in a register as they were ordered. Cost: a walk of the lists concerned for each change. */
export function carriedOut(before: CompiledFacility, after: CompiledFacility, ordered: readonly FacilityChange[]): boolean {
  const schedules = new Map<string, Plain>();
  for (const { id, ...schedule } of after.facility.schedules) schedules.set(id, schedule);
  const orderedSchedules = new Map(
    ordered.flatMap((change) => (change.do === "add" && change.list === "schedules" ? [[change.id, change.object] as const] : [])),
  );
  /** What an object says, with a schedule that was ordered along with it written out: the source gives it an id of its own. */
  const said = (object: Plain, scheduleOf: (id: string) => Plain | undefined): string => {
    const plain = Object.entries(object).filter(([key]) => !ofNoAccount.has(key));
    const written = plain.map(([key, value]): readonly [string, unknown] => {
      const schedule = key === "schedule" && typeof value === "string" ? scheduleOf(value) : undefined;
      return [key, schedule ? Object.fromEntries(Object.entries(schedule).filter(([name]) => !ofNoAccount.has(name))) : value];
    });
    return canonicalJson(Object.fromEntries(written));
  };
  const isOrdered = (id: string): boolean => orderedSchedules.has(id);
  return ordered.every((change) => {
    const objects = objectsOf(after.facility, change);
    switch (change.do) {
      case "remove":
        return !objects.some((object) => keyOf(change.list, object) === keyOfChange(change));
      case "add": {
        const speaksOfOrdered = typeof change.object.schedule === "string" && isOrdered(change.object.schedule);
        const wanted = said(change.object, (id) => orderedSchedules.get(id));
        return objects.some((object) => said(object, (id) => (speaksOfOrdered ? schedules.get(id) : undefined)) === wanted);
      }
      case "alter": {
        // A membership is told by what it says: altered, it is another.
        const key = change.list === "memberships" ? keyOf("memberships", change.object) : change.id;
        const was = objectsOf(before.facility, change).find((object) => keyOf(change.list, object) === keyOfChange(change));
        const is = objects.find((object) => keyOf(change.list, object) === key);
        if (!is || (change.list === "memberships" && objects.some((object) => keyOf(change.list, object) === keyOfChange(change)))) return false;
        return fieldChanges(was, change.object).every(({ field, after: wanted }) => canonicalJson([is[field]]) === canonicalJson([wanted]));
      }
      default:
        return unreachable(change);
    }
  });
}
