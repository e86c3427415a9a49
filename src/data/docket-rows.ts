import type { Decision, Narrowing } from "@/core/certification/decide-line";
import type { LineContent } from "@/core/certification/line-content";
import { canonicalJson } from "@/core/facility/canonical-json";
import type { DocketLine, LineDecision, LineHolder } from "@/operations/ports/rounds";

export interface LineRow {
  readonly id: number;
  readonly docket: number;
  readonly position: number;
  readonly holder_name: string;
  readonly holder: string | null;
  readonly flagged: number | boolean;
  readonly content: string;
  readonly decision: Decision | null;
  readonly terms: string | null;
  readonly reason: string | null;
  readonly passed_from: number | null;
}

export const lineColumns = "id, docket, position, holder_name, holder, flagged, content, decision, terms, reason, passed_from";

/** Of a holder what the snapshot said when the round was opened; nothing of one that was a credential. */
function asHolder(text: string | null): LineHolder | undefined {
  if (text === null) return undefined;
  const said = JSON.parse(text) as Readonly<Record<string, string | null>>;
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== null)) as unknown as LineHolder;
}

/** What a decision comes with, as it is stored: what stays of a line, or the docket that it was passed on to; null for others. */
export const termsOf = ({ narrowing, passedTo }: Pick<LineDecision, "narrowing" | "passedTo">): string | null =>
  narrowing ? canonicalJson({ narrowing }) : passedTo !== undefined ? canonicalJson({ passedTo }) : null;

/** Reads what a decision comes with. */
export const readTerms = (terms: string | null): { readonly narrowing?: Narrowing; readonly passedTo?: number } =>
  terms === null ? {} : (JSON.parse(terms) as { readonly narrowing?: Narrowing; readonly passedTo?: number });

export const asLine = (row: LineRow): DocketLine => ({
  id: row.id,
  docket: row.docket,
  position: row.position,
  holderName: row.holder_name,
  holder: asHolder(row.holder),
  flagged: !!row.flagged,
  line: JSON.parse(row.content) as LineContent,
  decision: row.decision ?? undefined,
  reason: row.reason ?? "",
  ...readTerms(row.terms),
  passedFrom: row.passed_from ?? undefined,
});
