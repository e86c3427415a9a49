"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import type { Narrowing } from "@/core/certification/decide-line";
import type { LineAbout } from "@/core/certification/line-content";

/** What a certifier chose for a line; `undo` takes it back. */
export type Choice =
  | { readonly decision: "keep" | "withdraw"; readonly reason: string }
  | { readonly decision: "narrow"; readonly narrowing: Narrowing; readonly reason: string }
  | { readonly decision: "pass-on"; readonly to: number; readonly reason: string }
  | { readonly decision: "undo" };

/** Something that is to be saved: a choice for one line, or that all lines of one part of the docket are kept of which nothing is unusual. */
export type Pending =
  | { readonly key: string; readonly line: number; readonly choice: Choice }
  | { readonly key: string; readonly keepAllOf: LineAbout; readonly lines: readonly number[] };

export interface DecisionQueue {
  /** What is not saved yet, or is and not shown by the page yet, by line. */
  readonly choices: ReadonlyMap<number, Choice>;
  readonly state: "saved" | "saving" | "waiting";
  readonly count: number;
  /** Why a choice was refused, by line; whoever chooses anew takes it away. */
  readonly refused: ReadonlyMap<number, string>;
  readonly put: (pending: Pending) => void;
}

/** In which docket somebody decides, by the number of their account. */
export interface Deciding {
  readonly docket: number;
  readonly account: number;
}

const againMs = 3000;

/** Where what waits is kept: under its docket and who decided it, so that nobody else on the same device sends it in their own name. */
const storageKey = ({ docket, account }: Deciding): string => `nomade-docket-${docket}-${account}`;

function read(deciding: Deciding): Pending[] {
  try {
    const kept = JSON.parse(localStorage.getItem(storageKey(deciding)) ?? "[]") as unknown;
    return Array.isArray(kept) ? (kept as Pending[]) : [];
  } catch {
    return [];
  }
}

function write(deciding: Deciding, queue: readonly Pending[]): void {
  try {
    if (queue.length === 0) localStorage.removeItem(storageKey(deciding));
    else localStorage.setItem(storageKey(deciding), JSON.stringify(queue));
  } catch {
    // Where the browser keeps nothing, what waits is lost only with the page.
  }
}

const linesOf = (pending: Pending): readonly number[] => ("line" in pending ? [pending.line] : pending.lines);
const choiceOf = (pending: Pending): Choice => ("line" in pending ? pending.choice : { decision: "keep", reason: "" });

/**
 * Saves what a certifier decides, one after the other, in their order. What could not be sent waits in the browser and is tried again, also after the page was
 * left; saying the same twice does no harm. `save` gives why it was refused, and fails where nobody answered. Once nothing waits any more `saved` is
 * told, and brings another `stored`, which shows what was saved: until then it stands here, so that nothing flickers.
 */
export function useDecisionQueue(
  { docket, account }: Deciding,
  stored: object,
  save: (pending: Pending) => Promise<string | undefined>,
  saved: () => void,
): DecisionQueue {
  const queue = useRef<Pending[]>([]);
  const [done, setDone] = useState<readonly Pending[]>([]);
  const [shownOf, setShownOf] = useState(stored);
  const [shown, setShown] = useState<readonly Pending[]>([]);
  const [state, setState] = useState<DecisionQueue["state"]>("saved");
  const [refused, setRefused] = useState<ReadonlyMap<number, string>>(new Map());
  const sending = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** What is tried again later, which is what tries. */
  const again = useRef<() => void>(() => undefined);
  const actions = useRef({ save, saved });
  useEffect(() => {
    actions.current = { save, saved };
  });
  const changed = useCallback(() => {
    write({ docket, account }, queue.current);
    setShown([...queue.current]);
  }, [docket, account]);
  const flush = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    clearTimeout(timer.current);
    changed();
    try {
      for (let next = queue.current[0]; next; next = queue.current[0]) {
        setState("saving");
        const sent = next;
        const words = await actions.current.save(sent);
        // Whoever chose anew while this was on its way has another one waiting under the same key.
        queue.current = queue.current.filter((one) => one !== sent);
        if (words === undefined) setDone((before) => [...before, sent]);
        changed();
        if (words !== undefined) setRefused((before) => new Map([...before, ...linesOf(sent).map((line) => [line, words] as const)]));
      }
      setState("saved");
      actions.current.saved();
    } catch {
      setState("waiting");
      timer.current = setTimeout(() => again.current(), againMs);
    } finally {
      sending.current = false;
    }
  }, [changed]);
  useEffect(() => {
    again.current = () => void flush();
  }, [flush]);
  const put = useCallback(
    (pending: Pending) => {
      const isSent = sending.current ? queue.current[0] : undefined;
      queue.current = [...queue.current.filter((one) => one.key !== pending.key || one === isSent), pending];
      setRefused((before) => new Map([...before].filter(([line]) => !linesOf(pending).includes(line))));
      changed();
      void flush();
    },
    [changed, flush],
  );
  useEffect(() => {
    const left = read({ docket, account });
    if (left.length > 0 && queue.current.length === 0) {
      queue.current = left;
      void flush();
    }
    const online = () => (queue.current.length > 0 ? void flush() : undefined);
    window.addEventListener("online", online);
    return () => {
      window.removeEventListener("online", online);
      clearTimeout(timer.current);
    };
  }, [docket, account, flush]);
  // What came with the page after everything was saved shows it all.
  if (shownOf !== stored) {
    setShownOf(stored);
    if (shown.length === 0 && done.length > 0) setDone([]);
  }
  const choices = new Map([...done, ...shown].flatMap((pending) => linesOf(pending).map((line) => [line, choiceOf(pending)] as const)));
  return { choices, state, count: shown.length, refused, put };
}
