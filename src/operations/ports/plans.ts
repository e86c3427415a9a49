import type { Picture, PlacedDoor, PlanHead } from "@/core/plans/plan";
import type { Actor } from "./record";

export interface Plan extends PlanHead, Omit<Picture, "bytes"> {
  readonly id: number;
  /** Counts its changes, so that nobody changes what somebody else changed meanwhile. */
  readonly version: number;
  readonly doors: readonly PlacedDoor[];
  readonly changedBy: string;
  readonly changedAt: string;
}

/** What of a plan is changed. */
export interface PlanChange {
  readonly head?: PlanHead | undefined;
  readonly picture?: Picture | undefined;
  readonly doors?: readonly PlacedDoor[] | undefined;
}

export interface PlanStore {
  /** All plans, by number. */
  readonly all: () => Promise<readonly Plan[]>;
  readonly byId: (id: number) => Promise<Plan | undefined>;
  /** The picture of a plan, if it is still the one with that hash. */
  readonly picture: (id: number, sha256: string) => Promise<Pick<Picture, "mediaType" | "bytes"> | undefined>;
  readonly add: (head: PlanHead, picture: Picture, doors: readonly PlacedDoor[], who: Actor, at: string) => Promise<number>;
  /** Changes a plan that stands as it did at `version`. */
  readonly change: (id: number, version: number, change: PlanChange, who: Actor, at: string) => Promise<"changed" | "outdated" | "gone">;
  readonly drop: (id: number, who: Actor, at: string) => Promise<boolean>;
}
