import type { NamedOrder } from "./orders";
import type { MailFacts, MailWords } from "./mail";
import type { RoundEvidence } from "@/core/evidence/round-evidence";

/** What leaves Nomade for people to read. */
export interface Papers {
  /** Orders as the CSV that a mail carries: nothing personal in it beyond names. */
  readonly ordersByMail: (orders: readonly NamedOrder[]) => string;
  readonly mailWords: (facts: MailFacts) => MailWords;
  /** The files of a pack that people read: report, tables, and how to verify each; by their names. `stamped`: the entry that its time stamp is over. */
  readonly packPapers: (evidence: RoundEvidence, stamped?: number) => Promise<ReadonlyMap<string, Uint8Array>>;
  /** Puts files into one archive; `at`, an ISO text of UTC, dates all of them, so that the same files give the same bytes. */
  readonly archive: (files: ReadonlyMap<string, Uint8Array>, at: string) => Uint8Array;
}
