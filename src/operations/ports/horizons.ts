import type { FrozenHorizon } from "@/core/table/horizon";

/** Horizons of registers that were laid out before, by the hash of their snapshot. What another program kept, or what was altered since, is not there. */
export interface HorizonStore {
  readonly get: (hash: string) => Promise<FrozenHorizon | undefined>;
  readonly put: (hash: string, horizon: FrozenHorizon) => Promise<void>;
}
