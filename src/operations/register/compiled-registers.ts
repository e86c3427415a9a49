import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { limitToSites } from "@/core/facility/limit-to-sites";
import { withAllLists } from "@/core/facility/facility";
import type { SnapshotStore } from "../ports/snapshots";
import type { Services } from "../services";

const registersKept = 3;
const limitedKept = 4;

/** Compiled registers by the hash of their snapshot, the last few of them; two requests for one share the work. `opening` is told while one is opened. */
export function compiledRegisters(snapshots: SnapshotStore, opening: <T>(work: () => Promise<T>) => Promise<T>): Services["compiled"] {
  const kept = new LastUsed(registersKept);
  return ({ id, hash }, normal) => {
    const read = async () => normal ?? withAllLists(JSON.parse(await snapshots.frozen(id)) as FacilityDocument);
    return kept.get(hash, () => opening(async () => compileFacility(await read())));
  };
}

/** The same as who is limited to some sites sees them. */
export function limitedRegisters(compiled: Services["compiled"], opening: <T>(work: () => Promise<T>) => Promise<T>): Services["limited"] {
  const kept = new LastUsed(limitedKept);
  return (snapshot, sites) =>
    kept.get(JSON.stringify([snapshot.hash, ...[...sites].sort()]), async () => {
      const { facility } = await compiled(snapshot);
      return opening(() => Promise.resolve(compileFacility(limitToSites(facility, new Set(sites)))));
    });
}

/** The last few registers that were asked for. */
class LastUsed {
  private readonly kept = new Map<string, Promise<CompiledFacility>>();

  constructor(private readonly most: number) {}

  get(key: string, make: () => Promise<CompiledFacility>): Promise<CompiledFacility> {
    const compiled = this.kept.get(key) ?? make();
    // Last used goes last; the one at the front is let go.
    this.kept.delete(key);
    this.kept.set(key, compiled);
    compiled.catch(() => this.kept.delete(key));
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= this.most) break;
      this.kept.delete(oldest);
    }
    return compiled;
  }
}
