import { useSyncExternalStore } from "react";

/** A part of a question that is being filled in: of which question, which part, and what was typed so far. */
interface UnfinishedPart<P extends string> {
  readonly address: string;
  readonly part: P;
  readonly text: string;
}

let unfinished: UnfinishedPart<string> | undefined;
const listeners = new Set<() => void>();

function set(next: UnfinishedPart<string> | undefined): void {
  unfinished = next;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/**
 * The part of the question at an address that is being filled in. It outlives what shows it: while an answer is on its way the line stands there already, and
 * when the answer comes another one takes its place, in which whoever types goes on typing.
 */
export function useUnfinishedPart<P extends string>(address: string) {
  const held = useSyncExternalStore(
    subscribe,
    () => unfinished,
    () => undefined,
  );
  return {
    editing: held?.address === address ? (held.part as P) : undefined,
    /** What was typed before this line stood here. */
    typed: held?.address === address ? held.text : "",
    begin: (part: P): void => set({ address, part, text: "" }),
    type: (text: string): void => {
      // Whoever types sees it already: nobody has to be told.
      if (unfinished?.address === address) unfinished = { ...unfinished, text };
    },
    end: (): void => set(undefined),
  };
}
