import { Worker } from "node:worker_threads";
import { unreachable } from "@/core/kernel/invariant";
import type { Operations, ServerMessage, WorkerMessage } from "./asking-protocol";

/** Thrown to whoever asked a question that took longer than its deadline; its thread is gone. `digest` is what a page may be told. */
export class TookTooLong extends Error {
  readonly digest = "took-too-long";

  /** `mayHaveChanged`: it was to change something, and had begun. */
  constructor(question: string, seconds: number, mayHaveChanged = false) {
    super(
      `The question "${question}" took longer than ${seconds} seconds and was stopped.${mayHaveChanged ? " Load the page again and look whether it was done." : ""}`,
    );
  }
}

/** Thrown to whoever asked for a change on a thread that was stopped for another question: whether it was made is to be looked up. */
export class Interrupted extends Error {
  readonly digest = "interrupted";

  constructor(question: string) {
    super(`The server had to stop a part of itself while it worked on "${question}". Load the page again and look whether it was done.`);
  }
}

export interface AskingLimits {
  /** A question that takes longer is stopped, with its thread. */
  readonly questionMs: number;
  /** The same of loading its program and of opening a register, during which no question's deadline runs. */
  readonly openingMs: number;
  /** A question that waited for so long, since every thread for it works on another one, gets a further thread. */
  readonly busyAfterMs: number;
  readonly threads: number;
  /** A further thread that nobody needed for so long ends. */
  readonly idleMs: number;
}

export const usualLimits: AskingLimits = { questionMs: 10_000, openingMs: 180_000, busyAfterMs: 2_000, threads: 4, idleMs: 60_000 };

/** What an operation is: a look-up is answered at once and waits behind no question; a change is never begun twice. */
export type OperationKind = "look-up" | "question" | "change";

interface Job {
  readonly id: number;
  readonly kind: OperationKind;
  readonly waitsSince: number;
  readonly operation: string;
  readonly asked: readonly unknown[];
  readonly signal: AbortSignal | undefined;
  readonly resolve: (answer: unknown) => void;
  readonly reject: (error: Error) => void;
  repeated: boolean;
  begun: boolean;
  givenAt: number;
  deadline: NodeJS.Timeout | undefined;
}

/** So many questions share a thread as long as each waits for the database. */
const jobsAThread = 4;

interface Thread {
  readonly worker: Worker;
  /** Kept free for look-ups. */
  readonly forLookUps: boolean;
  readonly jobs: Map<number, Job>;
  /** Whether it said that it is not working just now, since it was last given something. */
  hears: boolean;
  opening: NodeJS.Timeout | undefined;
  idle: NodeJS.Timeout | undefined;
  ended: boolean;
}

/**
 * Threads that hold compiled registers and answer questions about them: one for questions, and one for look-ups, which take no time and wait behind
 * no question. While either works on something long, the others are served by further ones: each has to open the register, so that this is no
 * help where the machine is merely busy. A question that takes longer than its deadline is stopped by ending its thread; whoever asked is told, and
 * questions that only read and were on that thread are asked again of another.
 */
export class AskingPool<O extends Operations> {
  private readonly threads: Thread[] = [];
  private readonly waiting: Job[] = [];
  private retry: NodeJS.Timeout | undefined;
  private jobs = 0;

  /** `program` is the worker's entry file; `kinds` tells what each of its operations is. */
  constructor(
    private readonly program: string | URL,
    private readonly kinds: Readonly<Record<keyof O, OperationKind>>,
    private readonly limits: AskingLimits = usualLimits,
  ) {}

  /** Asks for an operation by its name (see `remote`); one that still waits when its asker is gone (`signal`) is dropped. */
  ask(operation: string, asked: readonly unknown[], signal?: AbortSignal): Promise<unknown> {
    return new Promise((resolve, reject) => {
      this.waiting.push({
        id: ++this.jobs,
        operation,
        asked,
        kind: this.kinds[operation] ?? "change",
        waitsSince: performance.now(),
        signal,
        resolve,
        reject,
        repeated: false,
        begun: false,
        givenAt: 0,
        deadline: undefined,
      });
      this.assign();
    });
  }

  /** Ends all threads; whoever still waits is told. */
  async close(): Promise<void> {
    clearTimeout(this.retry);
    for (const job of this.waiting.splice(0)) job.reject(new Interrupted(job.operation));
    await Promise.all(this.threads.slice().map((thread) => this.end(thread)));
  }

  private isFree({ opening, jobs, hears }: Thread): boolean {
    return !opening && (jobs.size === 0 || (hears && jobs.size < jobsAThread));
  }

  /** Takes back what threads were given and have not taken up, being busy with something else. */
  private takeBack(at: number): void {
    for (const thread of this.threads) {
      if (thread.opening) continue;
      for (const job of thread.jobs.values())
        if (!job.begun && thread.jobs.size > 1 && job.kind !== "change" && at - job.givenAt >= this.limits.busyAfterMs) {
          this.settle(thread, job.id);
          this.waiting.unshift(job);
        }
    }
  }

  /** A thread that has time for a job; a further one where there is none of its sort, or where those that there are have kept it waiting. */
  private threadFor({ kind, waitsSince }: Job, at: number): Thread | undefined {
    const forLookUps = kind === "look-up";
    const free = this.threads
      .filter((thread) => this.isFree(thread) && (forLookUps || !thread.forLookUps))
      .sort((a, b) => Number(b.forLookUps) - Number(a.forLookUps) || a.jobs.size - b.jobs.size)[0];
    if (free) return free;
    const own = this.threads.filter((thread) => thread.forLookUps === forLookUps);
    // A thread that opens a register will answer soon; another one would have to open it as well.
    const keptWaiting = at - waitsSince >= this.limits.busyAfterMs && !own.some(({ opening }) => opening);
    return this.threads.length < this.limits.threads && (own.length === 0 || keptWaiting) ? this.begin(forLookUps) : undefined;
  }

  private assign(): void {
    clearTimeout(this.retry);
    const at = performance.now();
    this.takeBack(at);
    for (const job of [...this.waiting]) {
      const thread = this.threadFor(job, at);
      if (!thread) continue;
      this.waiting.splice(this.waiting.indexOf(job), 1);
      if (job.signal?.aborted) job.reject(new Interrupted(job.operation));
      else this.give(thread, job, at);
    }
    const isPending = this.waiting.length > 0 || this.threads.some(({ jobs }) => [...jobs.values()].some(({ begun }) => !begun));
    if (isPending) this.retry = setTimeout(() => this.assign(), this.limits.busyAfterMs / 2);
  }

  private give(thread: Thread, job: Job, at: number): void {
    clearTimeout(thread.idle);
    job.givenAt = at;
    job.begun = false;
    thread.hears = false;
    thread.jobs.set(job.id, job);
    if (!thread.opening) this.setDeadline(thread, job);
    const tell = (message: ServerMessage): void => thread.worker.postMessage(message);
    try {
      tell({ kind: "ask", id: job.id, operation: job.operation, asked: job.asked });
      tell({ kind: "ping" });
    } catch (error) {
      this.settle(thread, job.id)?.reject(error as Error);
    }
  }

  private setDeadline(thread: Thread, job: Job): void {
    clearTimeout(job.deadline);
    job.deadline = setTimeout(() => this.stop(thread, job), this.limits.questionMs);
  }

  /** Takes a job off its thread. */
  private settle(thread: Thread, id: number): Job | undefined {
    const job = thread.jobs.get(id);
    thread.jobs.delete(id);
    clearTimeout(job?.deadline);
    if (thread.jobs.size === 0 && this.threads.find(({ forLookUps }) => forLookUps === thread.forLookUps) !== thread && !thread.ended)
      thread.idle = setTimeout(() => void this.end(thread), this.limits.idleMs).unref();
    return job;
  }

  /** Ends a thread that is stuck; tells whoever asked what it is stuck on, and asks the other questions again. */
  private stop(thread: Thread, stuck: Job): void {
    this.settle(thread, stuck.id)?.reject(new TookTooLong(stuck.operation, this.limits.questionMs / 1000, stuck.begun && stuck.kind === "change"));
    void this.end(thread);
  }

  private begin(forLookUps: boolean): Thread {
    const worker = new Worker(this.program);
    const thread: Thread = { worker, forLookUps, jobs: new Map(), hears: false, opening: undefined, idle: undefined, ended: false };
    // Until it says that it is loaded, no question's deadline runs.
    this.opens(thread);
    this.threads.push(thread);
    worker.on("message", (message: WorkerMessage) => this.hear(thread, message));
    worker.on("error", () => void this.end(thread));
    worker.on("exit", () => void this.end(thread));
    worker.unref();
    return thread;
  }

  private opens(thread: Thread): void {
    clearTimeout(thread.opening);
    thread.opening = setTimeout(() => void this.end(thread, true), this.limits.openingMs).unref();
  }

  private hear(thread: Thread, message: WorkerMessage): void {
    switch (message.kind) {
      case "begun": {
        const job = thread.jobs.get(message.id);
        if (job) job.begun = true;
        break;
      }
      case "pong":
        thread.hears = true;
        break;
      case "answer":
        this.settle(thread, message.id)?.resolve(message.answer);
        break;
      case "failure": {
        const error = new Error(message.error.message);
        error.name = message.error.name;
        if (message.error.stack !== undefined) error.stack = message.error.stack;
        this.settle(thread, message.id)?.reject(error);
        break;
      }
      case "opening":
        for (const job of thread.jobs.values()) clearTimeout(job.deadline);
        this.opens(thread);
        break;
      case "opened":
        clearTimeout(thread.opening);
        thread.opening = undefined;
        for (const job of thread.jobs.values()) {
          job.givenAt = performance.now();
          this.setDeadline(thread, job);
        }
        break;
      default:
        unreachable(message);
    }
    this.assign();
  }

  /** Ends a thread. Its jobs that only read are asked once more, unless `tellAll`. */
  private async end(thread: Thread, tellAll = false): Promise<void> {
    if (thread.ended) return;
    thread.ended = true;
    clearTimeout(thread.opening);
    clearTimeout(thread.idle);
    this.threads.splice(this.threads.indexOf(thread), 1);
    const again: Job[] = [];
    for (const job of [...thread.jobs.values()]) {
      this.settle(thread, job.id);
      if (tellAll) job.reject(new TookTooLong(job.operation, this.limits.openingMs / 1000));
      else if (!job.begun || (job.kind !== "change" && !job.repeated)) {
        job.repeated ||= job.begun;
        again.push(job);
      } else job.reject(new Interrupted(job.operation));
    }
    this.waiting.unshift(...again);
    this.assign();
    await thread.worker.terminate();
  }
}
