import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import type { SnapshotStore } from "../ports/snapshots";
import type { Services } from "../services";

const registersKept = 3;

/** Compiled registers by the hash of their snapshot, the last few of them; two requests for one share the work. `opening` is told while one is opened. */
export function compiledRegisters(snapshots: SnapshotStore, opening: <T>(work: () => Promise<T>) => Promise<T>): Services["compiled"] {
  const kept = new Map<string, Promise<CompiledFacility>>();
  return ({ id, hash }, normal) => {
    const known = kept.get(hash);
    const read = async () => normal ?? withAllLists(JSON.parse(await snapshots.frozen(id)) as FacilityDocument);
    const compiled = known ?? opening(async () => compileFacility(await read()));
    // Last used goes last; the one at the front is let go.
    kept.delete(hash);
    kept.set(hash, compiled);
    compiled.catch(() => kept.delete(hash));
    for (const oldest of kept.keys()) {
      if (kept.size <= registersKept) break;
      kept.delete(oldest);
    }
    return compiled;
  };
}
