import type { Account } from "@/operations/ports/accounts";
import type { Progress, Watch } from "@/operations/ports/progress";

/** Long pieces of work that somebody waits for, by the number that their page gave them; only who began one sees it. */
interface Task {
  readonly account: number;
  readonly abort: AbortController;
  progress: Progress;
  /** When its page last asked how far it is; milliseconds. */
  askedAt: number;
}

const shared = globalThis as { nomadeTasks?: Map<string, Task> };
const tasks = (): Map<string, Task> => (shared.nomadeTasks ??= new Map<string, Task>());

/** Thrown where work was stopped on request, or since nobody waits for it any more. */
export class Stopped extends Error {}

/** A page asks how far its work is several times a second; one that has not for so long is gone. */
const goneAfterMs = 60_000;
const lookEveryMs = 5_000;

/**
 * Runs work that can be looked after under a number; throws `Stopped` where it was stopped. It is stopped too when its asker is gone: the
 * request (`asker`), or else the page that looks after it. What is stored already stays.
 */
export async function watched<T>(account: Account, number: string, run: (watch: Watch) => Promise<T>, asker?: AbortSignal): Promise<T> {
  const task: Task = { account: account.id, abort: new AbortController(), progress: { step: "reading", done: 0, of: 1 }, askedAt: performance.now() };
  tasks().set(number, task);
  const stop = (): void => {
    if (task.progress.step !== "findings") task.abort.abort();
  };
  const look = asker ? undefined : setInterval(() => performance.now() - task.askedAt > goneAfterMs && stop(), lookEveryMs).unref();
  asker?.addEventListener("abort", stop, { once: true });
  if (asker?.aborted) stop();
  try {
    return await run({ signal: task.abort.signal, report: (progress) => (task.progress = progress) });
  } catch (error) {
    if (task.abort.signal.aborted) throw new Stopped();
    throw error;
  } finally {
    clearInterval(look);
    asker?.removeEventListener("abort", stop);
    if (tasks().get(number) === task) tasks().delete(number);
  }
}

/** How far a task is; undefined where there is none (any more), or it is somebody else's. */
export function progressOf(account: Account, number: string): Progress | undefined {
  const task = tasks().get(number);
  if (task?.account !== account.id) return undefined;
  task.askedAt = performance.now();
  return task.progress;
}

/** Stops a task; refused where there is none, or where what it stores is stored already and only findings are being looked for. */
export function stopTask(account: Account, number: string): boolean {
  const task = tasks().get(number);
  if (task?.account !== account.id || task.progress.step === "findings") return false;
  task.abort.abort();
  return true;
}
