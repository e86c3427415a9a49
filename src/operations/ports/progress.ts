/** How far a long piece of work is. */
export interface Progress {
  readonly step: "reading" | "checking" | "storing" | "findings" | "access" | "lines" | "opening";
  readonly done: number;
  readonly of: number;
}

export type Report = (progress: Progress) => void;

/** For work that nobody watches. */
export const unwatched: Report = () => undefined;
