import { required } from "@/core/kernel/invariant";

/** One line of the table. Times in milliseconds for one piece of work; a peer's is scaled where it was sampled. */
export interface Measured {
  readonly question: string;
  readonly ours: number;
  readonly peer: string;
  readonly theirs: number;
  readonly sampled: string;
  /** The peer's work is a part of ours, or the yardstick for it: the ratio is what ours costs in terms of it. */
  readonly isYardstick: boolean;
}

/** The lines of the table so far; each is told on standard error as it comes. */
export class Measurements {
  readonly lines: Measured[] = [];

  /** What a peer needs for the same. */
  against(question: string, ours: number, peer: string, theirs: number, sampled = ""): void {
    this.add({ question, ours, peer, theirs, sampled, isYardstick: false });
  }

  /** What ours costs in terms of something that it is measured by. */
  inTermsOf(question: string, ours: number, yardstick: string, theirs: number): void {
    this.add({ question, ours, peer: yardstick, theirs, sampled: "", isYardstick: true });
  }

  private add(line: Measured): void {
    this.lines.push(line);
    const { question, ours, peer, theirs, isYardstick } = line;
    process.stderr.write(`  ${question} / ${peer}: ${(isYardstick ? ours / theirs : theirs / ours).toFixed(2)}×\n`);
  }
}

export const now = (): number => performance.now();

export function timed<T>(work: () => T): { readonly ms: number; readonly value: T } {
  const began = now();
  const value = work();
  return { ms: now() - began, value };
}

/** The same of work that waits for others, one piece after the other. */
export async function timedAll<Q, A>(questions: readonly Q[], ask: (question: Q) => Promise<A>): Promise<{ readonly ms: number; readonly value: A[] }> {
  const value: A[] = [];
  const began = now();
  for (const question of questions) value.push(await ask(question));
  return { ms: now() - began, value };
}

const median = (numbers: readonly number[]): number => [...numbers].sort((a, b) => a - b)[numbers.length >> 1] as number;

const collect = (options?: { readonly type: "minor" }): void =>
  required((globalThis as { gc?: (options?: object) => void }).gc, "npm run bench exposes it")(options);

/** What one question leaves behind is not charged to the next. */
const clean = (): void => collect();

/** Rounds that do not count, on either side, so that the engine has compiled what it is going to compile. */
const warmUp = (work: () => unknown): void => {
  for (let round = 0, began = now(); round < 2 || (round < 50 && now() - began < 2000); round++) work();
};

/** Something to be timed: prepares it, which does not count, and gives what does. */
export type Task = () => () => unknown;

const rounds = 5;

/**
 * The medians of five rounds of several tasks. They take turns, so that what else the machine does meanwhile slows them alike; nothing is
 * charged with what was left to be collected before it. The heap is not made clean before each round: nobody works on a cold one.
 */
export function mediansTogether(tasks: readonly Task[], betweenRounds: (round: number) => void = () => undefined): number[] {
  clean();
  for (const task of tasks) warmUp(() => task()());
  const times = tasks.map((): number[] => []);
  for (let round = 0; round < rounds; round++) {
    tasks.forEach((task, i) => {
      const work = task();
      collect({ type: "minor" });
      times[i]?.push(timed(work).ms);
    });
    betweenRounds(round);
  }
  return times.map(median);
}

/**
 * A peer that is too slow for five rounds over everything is asked once, on a sample; before, it warms up on another sample, so that
 * neither the engine's compilation counts nor the sample itself lies in the processor's cache already.
 */
export function afterWarmUp<Q, A>(others: readonly Q[], sample: readonly Q[], ask: (question: Q) => A): { readonly ms: number; readonly value: A[] } {
  clean();
  others.forEach(ask);
  return timed(() => sample.map(ask));
}

/** The same beside tasks of ours: the peer is asked a fifth of its sample after each of their rounds. */
export function besidePeer<Q, A>(
  tasks: readonly Task[],
  others: readonly Q[],
  sample: readonly Q[],
  ask: (question: Q) => A,
): { readonly ours: readonly number[]; readonly ms: number; readonly value: A[] } {
  others.forEach(ask);
  const value: A[] = [];
  let ms = 0;
  const ours = mediansTogether(tasks, (round) => {
    const part = sample.slice((sample.length * round) / rounds, (sample.length * (round + 1)) / rounds);
    const asked = timed(() => part.map(ask));
    ms += asked.ms;
    value.push(...asked.value);
  });
  return { ours, ms, value };
}
