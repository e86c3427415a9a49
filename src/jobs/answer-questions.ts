import { parentPort } from "node:worker_threads";
import type { Services } from "@/operations/services";
import type { Operations, ServerMessage, WorkerMessage } from "./asking-protocol";

const tell = (message: WorkerMessage): void => parentPort?.postMessage(message);

/** Carries out operations in a worker thread, by their names. */
export function answerQuestions(operations: Operations, services: () => Services): void {
  parentPort?.on("message", (message: ServerMessage) => {
    if (message.kind === "ping") {
      // After what was begun has come to its first wait.
      setImmediate(() => tell({ kind: "pong" }));
      return;
    }
    const { id, operation, asked } = message;
    tell({ kind: "begun", id });
    const answer = async (): Promise<void> => {
      const known = Object.hasOwn(operations, operation) ? operations[operation] : undefined;
      if (!known) throw new Error(`There is no operation ${operation}.`);
      tell({ kind: "answer", id, answer: await known(services(), ...(asked as never[])) });
    };
    answer().catch((error: unknown) => {
      const { name, message, stack } = error instanceof Error ? error : new Error(String(error));
      tell({ kind: "failure", id, error: { name, message, ...(stack !== undefined && { stack }) } });
    });
  });
  // The program is loaded.
  tell({ kind: "opened" });
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
