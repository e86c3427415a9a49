import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import type { Snapshot } from "../ports/snapshots";
import type { Services } from "../services";

export interface OpenRegister {
  readonly snapshot: Snapshot;
  readonly compiled: CompiledFacility;
  /** The sites that it is limited to; undefined for the whole. */
  readonly sites?: readonly string[] | undefined;
  /** Whether a draft's changes are made in it: then it is no register that was taken in. */
  readonly isDraft?: true | undefined;
  /** The credentials that last longer by uses since its export, where these are laid over it. */
  readonly prolonged?: ReadonlySet<Position>;
}

/** A snapshot, the latest unless another is asked for, with its compiled register; undefined where there is none yet. */
export async function openRegister(services: Pick<Services, "snapshots" | "compiled">, id?: number): Promise<OpenRegister | undefined> {
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(id);
  return snapshot && { snapshot, compiled: await services.compiled(snapshot) };
}
