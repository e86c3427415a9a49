import { compareCodePoints } from "../kernel/compare";

/** So many lines are drawn for an auditor to examine again, or all where there are fewer. */
export const sampleSize = 25;

/**
 * Lines drawn with a seed, by their numbers: those of which the SHA-256 of `seed:number` comes first. Whoever knows the seed draws the same with
 * `sha256sum`.
 */
export function drawSample(seed: string, lines: readonly number[], digest: (text: string) => string): { readonly line: number; readonly drawnBy: string }[] {
  return lines
    .map((line) => ({ line, drawnBy: digest(`${seed}:${line}`) }))
    .sort((a, b) => compareCodePoints(a.drawnBy, b.drawnBy))
    .slice(0, sampleSize);
}
