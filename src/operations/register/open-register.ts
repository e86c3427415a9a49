import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Services } from "../services";
import type { Snapshot } from "../ports/snapshots";

export interface OpenRegister {
  readonly snapshot: Snapshot;
  readonly compiled: CompiledFacility;
}

/** A snapshot, the latest unless another is asked for, with its compiled register; undefined where there is none yet. */
export async function openRegister(services: Services, id?: number): Promise<OpenRegister | undefined> {
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(id);
  return snapshot && { snapshot, compiled: await services.compiled(snapshot) };
}

