import { PairNumbers, TextNumbers } from "../kernel/pair-table";
import type { Grant, GrantTarget } from "../facility/document";
import type { Window } from "../time/window";
import { targetKey } from "./target-key";
import type { WrittenWindows } from "./written-windows";

/** All that a grant says but for whom it is given to. */
export interface GrantKind {
  readonly open: GrantTarget;
  /** Number of what it opens: kinds that open the same have one. */
  readonly target: number;
  /** Id of the schedule that narrows it. */
  readonly schedule: string | undefined;
  readonly blocks: boolean;
  readonly inLockdown: boolean;
  /** Rounded outward where it allows, inward where it blocks. */
  readonly window: Window;
}

/** Kinds of grants by what they say, from 1 on: thousands of grants that are given to single people come to a few hundred kinds. */
export class GrantKinds {
  private readonly kinds: GrantKind[] = [];
  private readonly levels = new TextNumbers();
  private readonly otherTargets = new TextNumbers();
  private readonly schedules = new TextNumbers();
  private readonly whats = new PairNumbers();
  private readonly numbers = new PairNumbers();

  constructor(private readonly windows: WrittenWindows) {}

  number(grant: Grant): number {
    const { open, schedule, inLockdown, effect } = grant;
    const { level } = open;
    const blocks = effect === "block";
    // Most grants open a level: looked up by its id as it stands, without putting a key together.
    const target = level === undefined ? this.otherTargets.number(targetKey(open)) * 2 : this.levels.number(level) * 2 + 1;
    const window = this.windows.of(grant);
    const what = this.whats.number(target, schedule === undefined ? 0 : this.schedules.number(schedule));
    const number = this.numbers.number(what, window.number * 4 + (blocks ? 1 : 0) + (inLockdown ? 2 : 0));
    if (number > this.kinds.length)
      this.kinds.push({ open, target, schedule, blocks, inLockdown: !!inLockdown, window: blocks ? window.inward : window.outward });
    return number;
  }

  at(number: number): GrantKind {
    return this.kinds[number - 1] as GrantKind;
  }
}
