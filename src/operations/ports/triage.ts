import type { Actor } from "./record";

/** A reasoned acceptance of a finding, until a date; not in force before it is confirmed. */
export interface Waiver {
  readonly id: number;
  readonly fingerprint: string;
  readonly reason: string;
  /** The last date on which it hides, `YYYY-MM-DD`. */
  readonly until: string;
  /** What the finding weighed when it was made. */
  readonly risk: number;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly confirmedBy: string | undefined;
}

export interface FindingNote {
  readonly note: string;
  readonly by: string;
  readonly at: string;
}

/** What people do about findings, by fingerprint: it stays with a finding over all snapshots. */
export interface TriageStore {
  /** Makes a waiver, confirmed at once where no second person is needed. Undefined where one holds already, or waits. */
  readonly waive: (
    waiver: Pick<Waiver, "fingerprint" | "reason" | "until" | "risk">,
    isConfirmed: boolean,
    today: string,
    who: Actor,
    at: string,
  ) => Promise<number | undefined>;
  /** Confirms a waiver as somebody else than whoever made it; false where it does not wait, was made by them, or its last date is before `today`. */
  readonly confirm: (id: number, today: string, who: Actor, at: string) => Promise<boolean>;
  /** Ends a waiver that holds or waits; false where there is none. */
  readonly end: (id: number, who: Actor, at: string) => Promise<boolean>;
  /** Waivers that wait for a second person, the oldest first. */
  readonly waiting: (today: string) => Promise<Waiver[]>;
  /** Fingerprints of waivers that held and ran out, or were ended, from one time to before a date; each once. */
  readonly endedBetween: (from: string, today: string) => Promise<string[]>;
  /** All waivers of a finding, the latest first, with what became of them. */
  readonly waiversOf: (fingerprint: string) => Promise<(Waiver & { readonly endedBy: string | undefined; readonly endedAt: string | undefined })[]>;
  readonly note: (fingerprint: string, note: string, who: Actor, at: string) => Promise<void>;
  readonly notesOf: (fingerprint: string) => Promise<FindingNote[]>;
  /** Makes a finding somebody's task; nobody's where none is named. */
  readonly assign: (fingerprint: string, assignee: string | undefined, who: Actor, at: string) => Promise<void>;
}
