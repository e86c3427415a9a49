import type { CompiledFacility } from "../compile/compiled-facility";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { Horizon, horizonOf } from "../table/horizon";
import type { DefinitionSubject } from "./definitions/definition";
import { definitionChanges, definitionKey, definitionsOf } from "./definitions/definitions-of-register";
import type { WhyCannotTell } from "./closing-check";

/** What became of a definition that needed changing: nobody but its source can say whether it was changed as asked. */
export type TaskOutcome =
  | { readonly outcome: "cannot-tell"; readonly why: WhyCannotTell }
  | { readonly outcome: "task-done" }
  | { readonly outcome: "altered"; readonly changes: number }
  | { readonly outcome: "unaltered"; readonly days: number };

export interface TaskCheck {
  readonly before: CompiledFacility;
  readonly after: CompiledFacility;
  readonly subject: DefinitionSubject;
  readonly sentAt: EpochMinute;
  /** Whether its source says that it did what was asked. */
  readonly isSaidDone: boolean;
  /** Rows of the later register's files that were not read. */
  readonly leftOut: number;
}

/** Whether a definition is otherwise in a later register, both read over the minutes ahead of that one; it counts as done where its source says so besides. */
export function checkTask({ before, after, subject, sentAt, isSaidDone, leftOut }: TaskCheck): TaskOutcome {
  if (leftOut > 0) return { outcome: "cannot-tell", why: "rows-not-read" };
  const { asOf, ahead } = horizonOf(after);
  if (asOf < sentAt) return { outcome: "cannot-tell", why: "before-sending" };
  const find = (horizon: Horizon) => definitionsOf(horizon).find((one) => definitionKey(one.subject) === definitionKey(subject));
  const [was, is] = [find(new Horizon(before, ahead)), find(horizonOf(after))];
  const changes = definitionChanges(was?.parts() ?? new Map(), is?.parts() ?? new Map()).length;
  if (changes === 0) return { outcome: "unaltered", days: Math.floor((asOf - sentAt) / minutesADay) };
  return isSaidDone ? { outcome: "task-done" } : { outcome: "altered", changes };
}
