import type { AskedWaiver, WaiverOutcome } from "@/operations/findings/triage";

/** What can be done about findings, as the pages call it. */
export interface TriageActions {
  readonly waive: (asked: AskedWaiver) => Promise<WaiverOutcome>;
  readonly confirm: (waiver: number) => Promise<boolean>;
  readonly end: (waiver: number) => Promise<boolean>;
  readonly note: (fingerprint: string, note: string) => Promise<boolean>;
  readonly assign: (fingerprint: string, assignee: string | undefined) => Promise<boolean>;
}

/** What is needed to do something about findings of the present register. */
export interface TriageOfView {
  readonly snapshot: number;
  readonly signIn: string;
  /** Sign-in names of those whose task a finding can be. */
  readonly assignees: readonly string[];
  /** From this risk on a second person must confirm a waiver. */
  readonly secondPersonFrom: number;
  readonly actions: TriageActions;
}
