import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { ordinary } from "@/core/resolve/paths";
import { reasonAt } from "@/core/resolve/verdict";
import type { EpochMinute } from "@/core/time/instant";

/** A verdict worked out point by point from the paths, without a timetable: the quickest plain way to one answer. */
export function pointVerdict(compiled: CompiledFacility, credentialId: string, doorId: string, at: EpochMinute): boolean {
  const credential = compiled.credentials.at(compiled.credentialById.get(credentialId) ?? -1);
  const door = compiled.doorById.get(doorId);
  return credential !== undefined && door !== undefined && reasonAt(compiled, credential, door, at, ordinary) === "open";
}
