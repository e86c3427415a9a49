/** A seeded source of numbers, so that the same seed always makes the same institute. */
export interface Random {
  /** A whole number from 0 to n − 1. */
  readonly below: (n: number) => number;
  readonly chance: (probability: number) => boolean;
  readonly pick: <T>(from: readonly T[]) => T;
}

/** Mulberry32, a small generator in the public domain; quality enough for made-up data. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const below = (n: number): number => Math.floor(next() * n);
  return { below, chance: (probability) => next() < probability, pick: (from) => from[below(from.length)] as (typeof from)[number] };
}
