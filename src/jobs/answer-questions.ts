import { parentPort } from "node:worker_threads";
import type { Questions, ServerMessage, WorkerMessage } from "./asking-protocol";

const tell = (message: WorkerMessage): void => parentPort?.postMessage(message);

/** Answers questions in a worker thread, by their names. */
export function answerQuestions(questions: Questions): void {
  parentPort?.on("message", (message: ServerMessage) => {
    if (message.kind === "ping") {
      // After what was begun has come to its first wait.
      setImmediate(() => tell({ kind: "pong" }));
      return;
    }
    const { id, question, task } = message;
    tell({ kind: "begun", id });
    const answer = async (): Promise<void> => {
      const asked = Object.hasOwn(questions, question) ? questions[question] : undefined;
      if (!asked) throw new Error(`There is no question ${question}.`);
      tell({ kind: "answer", id, answer: await asked(task as never) });
    };
    answer().catch((error: unknown) => {
      const { name, message, stack } = error instanceof Error ? error : new Error(String(error));
      tell({ kind: "failure", id, error: { name, message, ...(stack !== undefined && { stack }) } });
    });
  });
}

let openings = 0;

/** Tells the server that a register is being opened while some work goes on. */
export async function whileOpening<T>(work: () => Promise<T>): Promise<T> {
  if (openings++ === 0) tell({ kind: "opening" });
  try {
    return await work();
  } finally {
    if (--openings === 0) tell({ kind: "opened" });
  }
}
