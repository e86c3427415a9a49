import { AlteredSnapshot } from "@/operations/ports/snapshots";

export { verifyAll } from "@/operations/evidence/verify-all";

/** What is wrong with a snapshot whose bytes do not fit its hash, in words; undefined for any other error. */
export const alteredWords = (error: unknown): string | undefined => (error instanceof AlteredSnapshot ? error.message : undefined);
