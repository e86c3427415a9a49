import { stringify } from "csv-stringify/sync";
import { isDefinition } from "@/core/certification/line-content";
import type { ListedLine } from "@/operations/certification/list-lines";
import { english } from "@/features/words/docket/english";
import { englishDefinitions } from "@/features/words/docket/english-definitions";
import { certifierWords } from "@/features/words/holders";
import { holderOrKind, subjectWords } from "@/features/words/line-subjects";
import { decisionWords, hoursOfLine } from "@/features/words/line-words";

/** What of a line stands in the table. */
export type TabledLine = Pick<
  ListedLine,
  "id" | "docket" | "holderName" | "line" | "flagged" | "decision" | "reason" | "narrowing" | "certifierName" | "signedAt"
> & {
  readonly holder: { readonly staffNumber?: string; readonly department?: string } | undefined;
};

const columns = [
  "line",
  "docket",
  "certifier",
  "signed_at",
  "holder",
  "holder_id",
  "staff_number",
  "department",
  "what",
  "what_kind",
  "what_id",
  "says",
  "flagged",
  "findings",
  "decision",
  "narrowing",
  "reason",
] as const;

/** Lines of a round as CSV (RFC 4180). Cells that a spreadsheet would run as a formula are made harmless. */
export const linesCsv = (lines: readonly TabledLine[], timeZone: string): string =>
  stringify(lineRows(lines, timeZone), { record_delimiter: "windows", quoted_match: /[\r\n]/, escape_formulas: true });

/** A header, and a row for each line of a round. `timeZone` is that in which the dates of findings are read. */
export function lineRows(lines: readonly TabledLine[], timeZone: string): string[][] {
  const rows = lines.map((listed): Record<(typeof columns)[number], string | number> => {
    const { id, docket, holderName, holder, line, flagged, decision, reason, narrowing, certifierName, signedAt } = listed;
    return {
      line: id,
      docket,
      certifier: certifierWords(certifierName),
      signed_at: signedAt ?? "",
      holder: holderOrKind(holderName, line.subject),
      holder_id: isDefinition(line) ? "" : (line.cardholder ?? line.credential ?? ""),
      staff_number: holder?.staffNumber ?? "",
      department: holder?.department ?? "",
      what: subjectWords(line.subject),
      what_kind: line.subject.kind,
      what_id: line.subject.id,
      says: hoursOfLine(line),
      flagged: flagged ? "yes" : "no",
      findings: line.findings
        .map((finding) => (isDefinition(line) ? englishDefinitions.finding(line, finding, timeZone) : english.finding(finding, timeZone)))
        .join(" "),
      decision: decision === undefined ? "" : decisionWords(listed),
      narrowing: narrowing ? JSON.stringify(narrowing) : "",
      reason,
    };
  });
  return [[...columns], ...rows.map((row) => columns.map((column) => String(row[column])))];
}
