import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityChange } from "@/core/facility/facility-change";
import type { GrantTarget } from "@/core/facility/document";
import { directoryOf } from "@/core/register/directory";

/** Names by kind and id, such as `door d1`. */
export type Names = Readonly<Record<string, string>>;

/** Names of all that changes speak of, and of some doors. */
export function namesInChanges(compiled: CompiledFacility, changes: readonly FacilityChange[], doors: readonly string[] = []): Names {
  const directory = directoryOf(compiled);
  const names = new Map<string, string>();
  const add = (kind: "door" | "schedule" | "group" | "level" | "bundle" | "doorGroup" | "area" | "site" | "cardholder", id: string | undefined): void => {
    if (id !== undefined) names.set(`${kind} ${id}`, directory.name(kind, id));
  };
  for (const door of doors) add("door", door);
  for (const change of changes) {
    const object = change.do === "remove" ? undefined : change.object;
    if (change.list === "memberships") {
      add("group", change.membership.group);
      add("cardholder", change.membership.cardholder);
      continue;
    }
    if (change.list === "credentials") names.set(`credential ${change.id}`, directory.credentialName(change.id));
    if (change.list === "cardholders") {
      add("cardholder", change.id);
      for (const site of Array.isArray(object?.override) ? (object.override as string[]) : []) add("site", site);
    }
    if (change.list === "schedules" && change.do === "add") names.set(`schedule ${change.id}`, String(object?.name));
    if (change.list !== "grants") continue;
    const position = compiled.indexes.of("grants").get(change.id);
    const before = position === undefined ? undefined : compiled.facility.grants[position];
    if (before) names.set(`grant ${change.id}`, directory.target(before));
    const open = object?.open as GrantTarget | undefined;
    for (const kind of ["door", "level", "bundle", "doorGroup", "area"] as const) add(kind, open?.[kind]);
    const schedule = object?.schedule as string | undefined;
    if (schedule !== undefined && !names.has(`schedule ${schedule}`)) add("schedule", schedule);
  }
  return Object.fromEntries(names);
}
