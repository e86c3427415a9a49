import type { EpochMinute } from "../time/instant";
import type { UnitMemory } from "./unit-memory";

/** What a unit told that it holds, and when it was last heard. */
export interface UnitReport {
  readonly unit: string;
  readonly at: EpochMinute;
  readonly memory: UnitMemory;
}
