import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "@jest/globals";
import { build } from "esbuild";
import { AskingPool, Interrupted, TookTooLong } from "@/jobs/asking-pool";
import type { AskingLimits } from "@/jobs/asking-pool";
import { remote } from "@/jobs/asking-protocol";
import type { Services } from "@/operations/services";

/** Questions of which some never end: what a fault in our own reckoning would be. */
const worker = `
import { appendFileSync } from "node:fs";
import { threadId } from "node:worker_threads";
import { answerQuestions, whileOpening } from "@/jobs/answer-questions";
const questions = {
  echo: (_: unknown, text: string) => text,
  thread: () => threadId,
  looks: () => threadId,
  endless: () => { for (;;); },
  slow: async (_: unknown, ms: number) => { await new Promise((resolve) => setTimeout(resolve, ms)); return "slow but there"; },
  busy: (_: unknown, ms: number) => { const end = Date.now() + ms; while (Date.now() < end); return "busy but there"; },
  opens: (_: unknown, ms: number) => whileOpening(async () => { await new Promise((resolve) => setTimeout(resolve, ms)); return "opened"; }),
  fails: () => { throw new TypeError("nothing of this name"); },
  dies: () => process.exit(3),
  changes: async (_: unknown, file: string) => { appendFileSync(file, "x"); await new Promise((resolve) => setTimeout(resolve, 60_000)); },
};
answerQuestions(questions, () => undefined as never);
`;

type Questions = {
  readonly echo: (services: Services, text: string) => string;
  readonly thread: (services: Services) => number;
  readonly looks: (services: Services) => number;
  readonly endless: (services: Services) => never;
  readonly slow: (services: Services, ms: number) => Promise<string>;
  readonly busy: (services: Services, ms: number) => string;
  readonly opens: (services: Services, ms: number) => Promise<string>;
  readonly fails: (services: Services) => never;
  readonly dies: (services: Services) => never;
  readonly changes: (services: Services, file: string) => Promise<void>;
};

const folder = mkdtempSync(path.join(os.tmpdir(), "nomade-asking-"));
const program = path.join(folder, "worker.mjs");
let pool: AskingPool<Questions>;
const kinds = {
  echo: "question",
  thread: "question",
  looks: "look-up",
  endless: "question",
  slow: "question",
  busy: "question",
  opens: "question",
  fails: "question",
  dies: "question",
  changes: "change",
} as const;
const limits: AskingLimits = { questionMs: 1500, openingMs: 4000, busyAfterMs: 50, threads: 4, idleMs: 60_000 };
const open = (given: Partial<AskingLimits> = {}) => (pool = new AskingPool<Questions>(program, kinds, { ...limits, ...given }));
const asking = remote<Questions>((operation, asked) => pool.ask(operation, asked));
const outcome = (asked: Promise<unknown>): Promise<unknown> => asked.catch((error: unknown) => error);

beforeAll(async () => {
  const source = path.join(folder, "worker.ts");
  writeFileSync(source, worker);
  await build({
    entryPoints: [source],
    bundle: true,
    platform: "node",
    format: "esm",
    outfile: program,
    alias: { "@": path.resolve("src") },
    absWorkingDir: path.resolve("."),
    logLevel: "error",
  });
});
afterEach(() => pool.close());
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("a question that never ends", () => {
  it("is stopped at its deadline and its asker told, while all others are served at once", async () => {
    // Long enough that a busy machine answers forty others before it is over.
    const questionMs = 4000;
    open({ questionMs });
    await asking.echo("warm");
    const began = performance.now();
    let told = 0;
    const stuck = [asking.endless(), asking.endless()].map((asked) => outcome(asked).finally(() => told++));
    await Promise.all(Array.from({ length: 40 }, async (_, i) => expect(await asking.echo(`question ${i}`)).toBe(`question ${i}`)));
    // Nobody waits for the deadline of somebody else's question.
    expect(told).toBe(0);
    for (const error of await Promise.all(stuck)) expect(error).toBeInstanceOf(TookTooLong);
    expect(performance.now() - began).toBeGreaterThan(questionMs - 10);
    // And goes on being served by threads that take the place of those that were ended.
    expect(await asking.echo("after")).toBe("after");
  });

  it("asked again and again takes nothing from the others", async () => {
    open({ questionMs: 600 });
    for (let turn = 0; turn < 4; turn++) {
      const stuck = outcome(asking.endless());
      expect(await asking.echo(`turn ${turn}`)).toBe(`turn ${turn}`);
      expect(await stuck).toBeInstanceOf(TookTooLong);
    }
  });

  it("never makes a change twice: what changes something is told to look, what only reads is asked again", async () => {
    open({ threads: 2 });
    const file = path.join(folder, "changes");
    writeFileSync(file, "");
    await asking.echo("warm");
    const change = outcome(asking.changes(file));
    const reading = asking.slow(300);
    // The change waits for something outside: its thread is given another question, which never ends.
    await new Promise((resolve) => setTimeout(resolve, 20));
    const stuck = outcome(asking.endless());
    expect(String(await change)).toMatch(/look whether it was done/);
    expect(await reading).toBe("slow but there");
    expect(await stuck).toBeInstanceOf(Error);
    // What was not taken up before its thread ended has changed nothing, and is done on another one.
    const [blocking, later] = [outcome(asking.endless()), outcome(asking.changes(`${file}-later`))];
    await Promise.all([blocking, later]);
    const { readFileSync } = await import("node:fs");
    expect([readFileSync(file, "utf8"), readFileSync(`${file}-later`, "utf8")]).toEqual(["x", "x"]);
  });
});

describe("the asking threads", () => {
  it("answer look-ups while a question works, without a further thread for what waits behind it", async () => {
    open({ busyAfterMs: 20_000, questionMs: 10_000 });
    const threads = new Set([await asking.thread(), await asking.looks()]);
    let isBusy = true;
    const busy = asking.busy(3000).finally(() => (isBusy = false));
    const behind = asking.thread();
    for (let i = 0; i < 20; i++) threads.add(await asking.looks());
    expect(isBusy).toBe(true);
    await busy;
    threads.add(await behind);
    expect(threads.size).toBe(2);
  });

  it("are one while questions are quick, and more while one of them works long", async () => {
    open({ busyAfterMs: 500, questionMs: 10_000 });
    const threads = new Set<number>();
    for (let i = 0; i < 5; i++) threads.add(await asking.thread());
    expect(threads.size).toBe(1);
    const busy = asking.busy(2500);
    await new Promise((resolve) => setTimeout(resolve, 100));
    threads.add(await asking.thread());
    expect(threads.size).toBe(2);
    expect(await busy).toBe("busy but there");
  });

  it("may open a register for longer than a question may last, but not for ever", async () => {
    open({ questionMs: 1200, openingMs: 4000 });
    expect(await asking.opens(2000)).toBe("opened");
    expect(await outcome(asking.opens(60_000))).toBeInstanceOf(TookTooLong);
    expect(await asking.echo("after")).toBe("after");
  });

  it("pass on what a question throws, and drop one whose asker is gone before its turn", async () => {
    open({ threads: 1, busyAfterMs: 1 });
    await asking.echo("warm");
    expect(await outcome(asking.fails())).toMatchObject({ name: "TypeError", message: "nothing of this name" });
    const busy = asking.busy(300);
    const gone = new AbortController();
    const waiting = outcome(pool.ask("echo", ["nobody hears this"], gone.signal));
    gone.abort();
    expect(await busy).toBe("busy but there");
    expect(await waiting).toBeInstanceOf(Interrupted);
  });
});
