/** How far a long piece of work is. */
export interface Progress {
  readonly step: "reading" | "checking" | "storing" | "findings" | "access" | "lines" | "opening" | "evidence";
  readonly done: number;
  readonly of: number;
}

export type Report = (progress: Progress) => void;

/** Watches a long piece of work: is told how far it is, and may stop it. */
export interface Watch {
  readonly report: Report;
  readonly signal: AbortSignal;
}

/** For work that nobody watches. */
export const unwatched: Report = () => undefined;
