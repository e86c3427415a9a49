import type { TaskOutcome } from "./check-task";
import type { ClosingOutcome } from "./closing-check";

/** What became of a wish as a register tells it; `awaited` are the sources with orders of it that have not spoken since these were sent. */
export type CheckOutcome = ClosingOutcome | TaskOutcome | { readonly outcome: "awaited"; readonly sources: readonly string[] };

/** How far a wish is: not sent, sent and not looked at by any later register yet, or what that says. */
export type WishState = "not-sent" | "sent" | Exclude<CheckOutcome["outcome"], "task-done" | "unaltered">;

const stateOf = ({ outcome }: CheckOutcome): WishState => (outcome === "task-done" ? "done" : outcome === "unaltered" ? "not-done" : outcome);

/** How far a wish is, of which all orders were sent at some time, or not, and which a register was asked of last, or none. */
export const stateOfWish = ({ sentAt, found }: { readonly sentAt: string | undefined; readonly found: CheckOutcome | undefined }): WishState =>
  found ? stateOf(found) : sentAt === undefined ? "not-sent" : "sent";
