import type { SubjectKind } from "@/core/findings/finding";
import type { Life } from "@/core/findings/life";
import type { StoredFinding } from "@/operations/ports/findings";
import { asWaiver } from "./triage-store";
import type { WaiverRow } from "./triage-store";

export interface FindingRow {
  readonly position: number;
  readonly rule: string;
  readonly fingerprint: string;
  readonly subject_kind: SubjectKind;
  readonly subject: string;
  readonly cardholder: string | null;
  readonly risk: number;
  /** The words of a finding that was made before they were left to whoever tells it. */
  readonly sentence: string | null;
  readonly remedy: string | null;
  readonly proof: string;
  readonly parts: string;
  readonly since_minute: number | null;
  readonly life: Life | null;
}

/** A finding with what people did about it. */
export interface ListedRow extends FindingRow {
  readonly waiver_id?: number | null;
  readonly reason?: string | null;
  readonly until_date?: string | null;
  readonly waiver_risk?: number | null;
  readonly made_by?: string | null;
  readonly made_at?: string | null;
  readonly confirmed_by?: string | null;
  readonly assignee?: string | null;
  readonly notes?: number | null;
}

/** What tells findings apart stands at the end of a fingerprint; those of before are written with bars between. */
function distinctOf({ rule, fingerprint, subject, subject_kind }: FindingRow): readonly string[] {
  if (fingerprint.startsWith("[")) return (JSON.parse(fingerprint) as string[]).slice(3);
  const head = `${rule}|${subject_kind}|${subject}|`;
  return fingerprint.startsWith(head) ? [fingerprint.slice(head.length)] : [];
}

function waiverOf(row: ListedRow): Pick<StoredFinding, "waiver"> {
  if (row.waiver_id == null) return {};
  const waiver: WaiverRow = {
    id: row.waiver_id,
    fingerprint: row.fingerprint,
    reason: row.reason ?? "",
    until_date: row.until_date ?? "",
    risk: row.waiver_risk ?? 0,
    made_by: row.made_by ?? "",
    made_at: row.made_at ?? "",
    confirmed_by: row.confirmed_by ?? null,
    ended_by: null,
    ended_at: null,
  };
  return { waiver: asWaiver(waiver) };
}

/** What was written by this store is of the kind of its rule. */
export const asFinding = (row: ListedRow): StoredFinding =>
  ({
    position: row.position,
    rule: row.rule,
    fingerprint: row.fingerprint,
    subject: { kind: row.subject_kind, id: row.subject },
    distinct: distinctOf(row),
    ...(row.cardholder !== null && { cardholder: row.cardholder }),
    risk: row.risk,
    proof: JSON.parse(row.proof) as unknown,
    terms: row.sentence === null ? (JSON.parse(row.parts) as unknown) : [],
    ...(row.since_minute !== null && { since: Number(row.since_minute) }),
    ...(row.life !== null && { life: row.life }),
    ...waiverOf(row),
    ...(row.assignee != null && { assignee: row.assignee }),
    ...(row.notes != null && Number(row.notes) > 0 && { notes: Number(row.notes) }),
    ...(row.sentence !== null && {
      written: { sentence: row.sentence, remedy: row.remedy ?? "", proof: JSON.parse(row.proof) as unknown, terms: JSON.parse(row.parts) as unknown },
    }),
  }) as StoredFinding;
