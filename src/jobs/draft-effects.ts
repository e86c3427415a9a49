import type { DraftEffects, EffectOf, EffectState, WorkOutEffect } from "@/operations/ports/draft-effects";
import type { Progress } from "@/operations/ports/progress";

interface RunningEffect extends Omit<EffectOf, "draft"> {
  readonly abort: AbortController;
  now: EffectState;
}

const draftsRemembered = 20;

/** Effects of drafts as they are worked out, those of the last few drafts. */
export function draftEffects(workOut: WorkOutEffect): DraftEffects {
  const effects = new Map<number, RunningEffect>();
  return {
    stateOf: ({ draft, revision, snapshot }, account, again) => {
      const known = effects.get(draft);
      const isCurrent = known?.revision === revision && known.snapshot === snapshot;
      if (known && isCurrent && !(again && (known.now.state === "stopped" || known.now.state === "failed"))) return known.now;
      known?.abort.abort();
      const begun: RunningEffect = {
        revision,
        snapshot,
        abort: new AbortController(),
        now: { state: "working", progress: { step: "reading", done: 0, of: 1 } },
      };
      effects.delete(draft);
      effects.set(draft, begun);
      for (const oldest of effects.keys()) {
        if (effects.size <= draftsRemembered) break;
        effects.get(oldest)?.abort.abort();
        effects.delete(oldest);
      }
      const { signal } = begun.abort;
      const report = (progress: Progress): void => void (begun.now.state === "working" && (begun.now = { state: "working", progress }));
      workOut(account, draft, { signal, report })
        .then((effect) => (begun.now = effect ? { state: "done", effect } : { state: "failed" }))
        .catch((error: unknown) => {
          begun.now = { state: signal.aborted ? "stopped" : "failed" };
          if (!signal.aborted) console.error(error);
        });
      return begun.now;
    },
    stop: (draft) => effects.get(draft)?.abort.abort(),
  };
}
