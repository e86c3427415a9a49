import { canonicalJson } from "../facility/canonical-json";
import { unreachable } from "../kernel/invariant";
import type { Line } from "./line";
import type { LineWish } from "./line-withdrawal";
import { lineKey } from "./line-content";

/** A wish for a line, by whatever certifier. */
export interface WishedLine {
  readonly line: Line;
  readonly wish: LineWish;
}

const strength = (wish: LineWish): number => (wish === "withdraw" ? 2 : wish === "keep" ? 0 : 1);

/**
 * What holds of wishes for lines about the same, where several certify: withdrawing wins, and narrowing over keeping. Of two ways of narrowing both hold: the
 * planner takes what either of them takes.
 */
export function strongest<W extends WishedLine>(wishes: readonly W[]): W[] {
  const found = new Map<string, W[]>();
  for (const one of wishes) {
    const key = lineKey(one.line);
    const before = found.get(key);
    if (!before) found.set(key, [one]);
    else if (strength(one.wish) > strength(before[0]?.wish ?? "keep")) found.set(key, [one]);
    else if (strength(one.wish) === 1 && strength(before[0]?.wish ?? "keep") === 1 && !before.some(({ wish }) => sameWish(wish, one.wish))) before.push(one);
  }
  return [...found.values()].flat();
}

function sameWish(a: LineWish, b: LineWish): boolean {
  return canonicalJson(a) === canonicalJson(b);
}

/** Whether what was wished of a line before takes all that another wish takes. */
export function isCovered(wish: LineWish, before: LineWish): boolean {
  if (wish === "keep" || before === "withdraw") return true;
  if (before === "keep" || wish === "withdraw") return false;
  switch (wish.kind) {
    case "doors":
      return before.kind === "doors" && wish.shut.every((door) => before.shut.includes(door));
    case "hours":
      return before.kind === "hours" && wish.schedule === before.schedule && wish.until === before.until;
    default:
      return unreachable(wish);
  }
}
