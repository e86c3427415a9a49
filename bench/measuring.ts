import { present } from "@/core/kernel/invariant";

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

function timed<T>(work: () => T): { readonly ms: number; readonly value: T } {
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

const collect = (options?: { readonly type: "minor" }): void => present((globalThis as { gc?: (options?: object) => void }).gc, "npm run bench exposes it")(options);

/** What one question leaves behind is not charged to the next. */
const clean = (): void => collect();

/** Rounds that do not count, on either side, so that the engine has compiled what it is going to compile. */
const warmUp = (work: () => unknown): void => {
  for (let round = 0, began = now(); round < 2 || (round < 50 && now() - began < 2000); round++) work();
};

/** Five rounds that count. A heap made clean before each would be cold, and nobody works on a cold one. */
export function medianOf5(work: () => unknown): number {
  clean();
  warmUp(work);
  return median(Array.from({ length: 5 }, () => timed(work).ms));
}

/** The same of work that something is prepared for each time: neither that counts nor what is collected of what it leaves behind. */
export function medianAfter<T>(prepare: () => T, work: (prepared: T) => unknown): number {
  clean();
  warmUp(() => work(prepare()));
  return median(
    Array.from({ length: 5 }, () => {
      const prepared = prepare();
      collect({ type: "minor" });
      return timed(() => work(prepared)).ms;
    }),
  );
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
