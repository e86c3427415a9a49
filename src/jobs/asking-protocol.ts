import { calledByName } from "./called-by-name";
import type { Services } from "@/operations/services";

/** Operations by name, as the entry file of a worker has them: what they are asked with is whatever can be copied between threads. */
export type Operations = Readonly<Record<string, (services: Services, ...asked: never[]) => unknown>>;

/** The same operations as the server calls them: a worker has the services, and the answer takes its time. */
export type Remote<O extends Operations> = {
  readonly [K in keyof O]: O[K] extends (services: Services, ...asked: infer A) => infer R ? (...asked: A) => Promise<Awaited<R>> : never;
};

/** Remote operations by how one is called by its name: the names are those of the type, and whatever is not there is refused by the worker. */
export const remote = <O extends Operations>(call: (operation: string, asked: readonly unknown[]) => Promise<unknown>): Remote<O> =>
  calledByName<Remote<O>>(call);

/** What the server sends: an operation to carry out, or whether the thread has time to hear at all. */
export type ServerMessage =
  { readonly kind: "ask"; readonly id: number; readonly operation: string; readonly asked: readonly unknown[] } | { readonly kind: "ping" };

export type WorkerMessage =
  /** An operation was taken up: from here on it may have changed something. */
  | { readonly kind: "begun"; readonly id: number }
  /** The thread is not working just now: what it was asked is done, or waits for something outside. */
  | { readonly kind: "pong" }
  | { readonly kind: "answer"; readonly id: number; readonly answer: unknown }
  | { readonly kind: "failure"; readonly id: number; readonly error: { readonly name: string; readonly message: string; readonly stack?: string } }
  /** A register is being opened, which may take longer than any question; until it is, no deadline runs. */
  | { readonly kind: "opening" }
  | { readonly kind: "opened" };
