import type { DraftEffect } from "@/operations/register/drafts/draft-outcomes";
import type { Progress } from "@/operations/ports/progress";
import type { Watch } from "@/operations/services";

/** How far the effect of a draft is worked out. */
export type EffectState =
  | { readonly state: "working"; readonly progress: Progress }
  | { readonly state: "stopped" | "failed" }
  | { readonly state: "done"; readonly effect: DraftEffect };

/** What an effect is worked out for: another revision, or another snapshot, makes another effect. */
export interface EffectOf {
  readonly draft: number;
  readonly revision: number;
  readonly snapshot: number;
}

interface Kept extends Omit<EffectOf, "draft"> {
  readonly abort: AbortController;
  now: EffectState;
}

const shared = globalThis as { nomadeEffects?: Map<number, Kept> };
const kept = (): Map<number, Kept> => (shared.nomadeEffects ??= new Map<number, Kept>());
const draftsKept = 20;

/** The effect of a draft as far as it is; begins to work it out where that was not asked for yet, and stops an older one. */
export function effectState({ draft, revision, snapshot }: EffectOf, again: boolean, workOut: (watch: Watch) => Promise<DraftEffect | undefined>): EffectState {
  const known = kept().get(draft);
  const isCurrent = known?.revision === revision && known.snapshot === snapshot;
  if (known && isCurrent && !(again && (known.now.state === "stopped" || known.now.state === "failed"))) return known.now;
  known?.abort.abort();
  const begun: Kept = { revision, snapshot, abort: new AbortController(), now: { state: "working", progress: { step: "reading", done: 0, of: 1 } } };
  kept().delete(draft);
  kept().set(draft, begun);
  for (const oldest of kept().keys()) {
    if (kept().size <= draftsKept) break;
    kept().get(oldest)?.abort.abort();
    kept().delete(oldest);
  }
  const { signal } = begun.abort;
  const report = (progress: Progress): void => void (begun.now.state === "working" && (begun.now = { state: "working", progress }));
  workOut({ signal, report })
    .then((effect) => (begun.now = effect ? { state: "done", effect } : { state: "failed" }))
    .catch((error: unknown) => {
      begun.now = { state: signal.aborted ? "stopped" : "failed" };
      if (!signal.aborted) console.error(error);
    });
  return begun.now;
}

export function stopEffect(draft: number): void {
  kept().get(draft)?.abort.abort();
}
