import path from "node:path";
import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { Progress } from "@/operations/ports/progress";
import type { LongWork, Watch } from "@/operations/services";

const program = (): string => path.join(process.cwd(), "dist", "worker.mjs");

/** One thread that holds compiled registers and answers questions about them, so that no question keeps the pages waiting. */
export interface AskingThread {
  readonly ask: (question: string, task: object) => Promise<unknown>;
}

export function askingThread(): AskingThread {
  const pool = new Piscina({ filename: program(), minThreads: 1, maxThreads: 1, concurrentTasksPerWorker: 4, idleTimeout: Infinity, resourceLimits: { maxOldGenerationSizeMb: 8192 } });
  return { ask: (question, task) => pool.run(task, { name: question }) as Promise<unknown> };
}

/** Long work in worker threads, off the request thread; two at a time, the others wait. Stopping one ends its thread. */
export function longWork(): LongWork {
  const pool = new Piscina({
    filename: program(),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: 4096 },
  });
  const run = async (name: string, task: object, watch?: Watch): Promise<unknown> => {
    if (!watch) return pool.run(task, { name });
    const { port1, port2 } = new MessageChannel();
    port1.on("message", (progress: Progress) => watch.report(progress));
    try {
      return await pool.run({ ...task, port: port2 }, { name, signal: watch.signal, transferList: [port2] });
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
