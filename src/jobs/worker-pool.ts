import path from "node:path";
import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { Progress } from "@/operations/ports/progress";
import type { LongWork, Watch } from "@/operations/services";

const program = (): string => path.join(process.cwd(), "dist", "worker.mjs");

/** Long work in worker threads, off the request thread, a few at a time. Stopping one ends its thread; so does its deadline. */
export function longWork(taskMs: number): LongWork {
  const pool = new Piscina({
    filename: program(),
    minThreads: 0,
    maxThreads: 4,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: 4096 },
  });
  const run = async (name: string, task: object, watch?: Watch): Promise<unknown> => {
    const deadline = AbortSignal.timeout(taskMs);
    const late = (error: unknown): never => {
      throw deadline.aborted ? new Error(`The work took longer than ${Math.round(taskMs / 60_000)} minutes and was stopped; what was not stored is not stored.`) : error;
    };
    if (!watch) return pool.run(task, { name, signal: deadline }).catch(late);
    const { port1, port2 } = new MessageChannel();
    port1.on("message", (progress: Progress) => watch.report(progress));
    try {
      return await pool.run({ ...task, port: port2 }, { name, signal: AbortSignal.any([watch.signal, deadline]), transferList: [port2] }).catch(late);
    } finally {
      port1.close();
    }
  };
  return {
    previewIntake: (task, watch) => run("previewIntake", task, watch) as ReturnType<LongWork["previewIntake"]>,
    storeIntake: (task, watch) => run("storeIntake", task, watch) as ReturnType<LongWork["storeIntake"]>,
    writeTables: (task) => run("tables", task) as ReturnType<LongWork["writeTables"]>,
    writeCalendar: (task) => run("calendar", task) as ReturnType<LongWork["writeCalendar"]>,
    lookForFindings: (task) => run("findFindings", task) as ReturnType<LongWork["lookForFindings"]>,
    previewRound: (task, watch) => run("planRound", task, watch) as ReturnType<LongWork["previewRound"]>,
    effectOfDraft: (task, watch) => run("draftEffect", task, watch) as ReturnType<LongWork["effectOfDraft"]>,
    closeDraft: (task, watch) => run("endDraft", task, watch) as ReturnType<LongWork["closeDraft"]>,
    openRound: (task, watch) => run("startRound", task, watch) as ReturnType<LongWork["openRound"]>,
  };
}
