import path from "node:path";
import { MessageChannel } from "node:worker_threads";
import type { MessagePort } from "node:worker_threads";
import { Piscina } from "piscina";
import type { Progress, Report, Watch } from "@/operations/ports/progress";
import { unwatched } from "@/operations/ports/progress";
import { calledByName } from "./called-by-name";
import type { Services } from "@/operations/services";

/** Long operations by name, as the worker's entry file has them: the last thing that each is given is whom to tell how far it is. */
export type LongOperations = Readonly<Record<string, (services: Services, ...asked: never[]) => Promise<unknown>>>;

/** The same as the server calls them: who watches was said before. */
export type LongRemote<O extends LongOperations> = {
  readonly [K in keyof O]: O[K] extends (services: Services, ...asked: infer P) => infer R
    ? P extends [...infer A, Report]
      ? (...asked: A) => R
      : (...asked: P) => R
    : never;
};

/** What a worker is told to do. */
interface LongTask {
  readonly operation: string;
  readonly asked: readonly unknown[];
  readonly port: MessagePort | undefined;
}

/** Threads for long operations, a few at a time. Stopping one ends its thread; so does its deadline. */
export class LongWork<O extends LongOperations> {
  private readonly pool: Piscina;

  /** `program` is the worker's entry file; an operation may take so many milliseconds. */
  constructor(
    program: string,
    private readonly deadlineMs: number,
  ) {
    this.pool = new Piscina({
      filename: path.resolve(program),
      minThreads: 0,
      maxThreads: 4,
      idleTimeout: 60_000,
      // Findings and comparisons of a large register make much that is soon forgotten: with little room for it, a third of their time went to clearing up.
      resourceLimits: { maxOldGenerationSizeMb: 6144, maxYoungGenerationSizeMb: 192 },
    });
  }

  /** The operations that the worker has; whoever watches is told how far one is, and may stop it. */
  operations(watch?: Watch): LongRemote<O> {
    return calledByName<LongRemote<O>>((operation, asked) => this.run(operation, asked, watch));
  }

  private async run(operation: string, asked: readonly unknown[], watch: Watch | undefined): Promise<unknown> {
    const deadline = AbortSignal.timeout(this.deadlineMs);
    const { port1, port2 } = new MessageChannel();
    port1.on("message", (progress: Progress) => watch?.report(progress));
    port1.unref();
    try {
      const task: LongTask = { operation, asked, port: port2 };
      return await this.pool.run(task, { signal: watch ? AbortSignal.any([watch.signal, deadline]) : deadline, transferList: [port2] });
    } catch (error) {
      throw deadline.aborted
        ? new Error(`The work took longer than ${Math.round(this.deadlineMs / 60_000)} minutes and was stopped; what was not stored is not stored.`)
        : error;
    } finally {
      port1.close();
    }
  }
}

/** A new step is told at once; within one, this often is enough. */
const reportEveryMs = 150;

function reporter(port: MessagePort | undefined): Report {
  if (!port) return unwatched;
  let told: { at: number; step: Progress["step"] } | undefined;
  return (progress) => {
    const at = performance.now();
    if (told?.step === progress.step && at - told.at < reportEveryMs) return;
    told = { at, step: progress.step };
    port.postMessage(progress);
  };
}

/** What the entry file of a worker exports: carries out operations by their names. */
export const longWorker =
  (operations: LongOperations, services: () => Services) =>
  async ({ operation, asked, port }: LongTask): Promise<unknown> => {
    const known = Object.hasOwn(operations, operation) ? operations[operation] : undefined;
    if (!known) throw new Error(`There is no operation ${operation}.`);
    return known(services(), ...(asked as never[]), reporter(port) as never);
  };
