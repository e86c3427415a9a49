/** What server and worker threads say to each other. A question is known by its name; its task and its answer are whatever can be copied between threads. */
export interface AskMessage {
  readonly kind: "ask";
  readonly id: number;
  readonly question: string;
  readonly task: unknown;
}

/** What the server sends: a question, or whether the thread has time to hear at all. */
export type ServerMessage = AskMessage | { readonly kind: "ping" };

export type WorkerMessage =
  /** A question was taken up: from here on it may have changed something. */
  | { readonly kind: "begun"; readonly id: number }
  /** The thread is not working just now: what it was asked is done, or waits for something outside. */
  | { readonly kind: "pong" }
  | { readonly kind: "answer"; readonly id: number; readonly answer: unknown }
  | { readonly kind: "failure"; readonly id: number; readonly error: { readonly name: string; readonly message: string; readonly stack?: string } }
  /** A register is being opened, which may take longer than any question; until it is, no deadline runs. */
  | { readonly kind: "opening" }
  | { readonly kind: "opened" };

/** Questions by name, as the entry file of a worker exports them. */
export type Questions = Readonly<Record<string, (task: never) => unknown>>;
