import type { Account } from "@/operations/ports/accounts";
import type { Progress } from "@/operations/ports/progress";
import type { Watch } from "@/operations/services";

/** Long pieces of work that somebody waits for, by the number that their page gave them; only who began one sees it. */
interface Task {
  readonly account: number;
  readonly abort: AbortController;
  progress: Progress;
}

const shared = globalThis as { nomadeTasks?: Map<string, Task> };
const tasks = (): Map<string, Task> => (shared.nomadeTasks ??= new Map<string, Task>());

/** Thrown where work was stopped on request. */
export class Stopped extends Error {}

/** Runs work that can be looked after under a number; throws `Stopped` where it was stopped. */
export async function watched<T>(account: Account, number: string, run: (watch: Watch) => Promise<T>): Promise<T> {
  const task: Task = { account: account.id, abort: new AbortController(), progress: { step: "reading", done: 0, of: 1 } };
  tasks().set(number, task);
  try {
    return await run({ signal: task.abort.signal, report: (progress) => (task.progress = progress) });
  } catch (error) {
    if (task.abort.signal.aborted) throw new Stopped();
    throw error;
  } finally {
    tasks().delete(number);
  }
}

/** How far a task is; undefined where there is none (any more), or it is somebody else's. */
export function progressOf(account: Account, number: string): Progress | undefined {
  const task = tasks().get(number);
  return task?.account === account.id ? task.progress : undefined;
}

/** Stops a task; refused where there is none, or where what it stores is stored already and only findings are being looked for. */
export function stopTask(account: Account, number: string): boolean {
  const task = tasks().get(number);
  if (task?.account !== account.id || task.progress.step === "findings") return false;
  task.abort.abort();
  return true;
}
