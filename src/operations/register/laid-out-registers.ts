import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { Horizon, horizonOf, keepHorizon } from "@/core/table/horizon";
import type { HorizonStore } from "../ports/horizons";
import type { Services } from "../services";

/** A register of fewer people is laid out sooner than its horizon is read. */
const peopleWorthKeeping = 5_000;

/** Sees to it that registers are laid out: a large one by what was kept of it, or else it is laid out and that is kept. `opening` is told meanwhile. */
export function laidOutRegisters(horizons: HorizonStore, opening: <T>(work: () => Promise<T>) => Promise<T>): Services["layOut"] {
  const known = new WeakMap<CompiledFacility, Promise<void>>();
  const layOut = async (hash: string, compiled: CompiledFacility): Promise<void> => {
    const kept = await horizons.get(hash);
    if (kept) return keepHorizon(Horizon.thaw(compiled, kept));
    const frozen = horizonOf(compiled).freeze();
    // It can do without: what cannot be written is laid out again.
    if (frozen) await horizons.put(hash, frozen).catch((error: unknown) => console.error("The horizon of a register could not be kept:", error));
  };
  return ({ hash }, compiled) => {
    if (compiled.cardholders.length < peopleWorthKeeping) return Promise.resolve();
    let done = known.get(compiled);
    if (!done) {
      done = opening(() => layOut(hash, compiled));
      known.set(compiled, done);
      done.catch(() => known.delete(compiled));
    }
    return done;
  };
}
