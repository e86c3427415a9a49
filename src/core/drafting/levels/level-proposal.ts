import type { FacilityChange } from "../../facility/facility-change";
import type { Facility } from "../../facility/facility";

/** How levels could be put right. Those that say "equal" leave everybody just what they open. */
export type ProposalKind =
  /** Levels that open the same are one. Equal. */
  | "merge-equal"
  /** A level that recurs as single exceptions of several people is given instead of them. Equal. */
  | "exceptions-to-level"
  /** What is given twice, or to nobody, goes. Equal. */
  | "drop-needless"
  /** Doors of a level that none of its holders used go. Less. */
  | "drop-unused"
  /** Groups that use different doors of a level get one each with what they use. Less. */
  | "split-by-use";

export interface LevelProposal {
  readonly kind: ProposalKind;
  /** Ids of the levels that it is about. */
  readonly levels: readonly string[];
  /** Ids of people, of doors that go, or of groups, by its kind. */
  readonly about: readonly string[];
  readonly changes: readonly FacilityChange[];
}

/** Proposals after which everybody opens just what they did. */
export const equalKinds: ReadonlySet<ProposalKind> = new Set<ProposalKind>(["merge-equal", "exceptions-to-level", "drop-needless"]);

/** How many levels there are, and how many exceptions: allows of a door, door group or area straight to a person or a card. */
export interface LevelCounts {
  readonly levels: number;
  readonly exceptions: number;
  readonly grants: number;
}

export function levelCounts({ levels, grants }: Pick<Facility, "levels" | "grants">): LevelCounts {
  const isException = ({ to, open, effect }: Facility["grants"][number]): boolean =>
    effect !== "block" && to.group === undefined && open.level === undefined && open.bundle === undefined;
  return { levels: levels.length, exceptions: grants.filter(isException).length, grants: grants.length };
}
