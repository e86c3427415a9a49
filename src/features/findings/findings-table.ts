import type { NamedFinding } from "@/operations/findings/list-findings";
import { remedyOfFinding, sentenceOfFinding } from "../words/finding-names";
import { titleOfRule } from "../words/findings";
import { kindWords } from "../words/register-words";

const lifeWords = { new: "new", still: "still there", back: "came back" } as const;

/** What the columns of exported findings are called, with their widths. */
export const findingColumns = [
  { title: "Risk", width: 6 },
  { title: "Who or what", width: 26 },
  { title: "Kind", width: 12 },
  { title: "Id", width: 14 },
  { title: "What should not be", width: 70 },
  { title: "Rule", width: 34 },
  { title: "Life", width: 12 },
  { title: "Since", width: 18 },
  { title: "To end it", width: 50 },
  { title: "Task of", width: 14 },
  { title: "Waived until", width: 12 },
  { title: "Fingerprint", width: 40 },
] as const;

/** A finding as a row of an exported table. */
export const findingRow = (finding: NamedFinding, timeZone: string): readonly (string | number | Date | undefined)[] => [
  finding.risk,
  finding.about,
  kindWords[finding.subject.kind][1],
  finding.subject.id,
  sentenceOfFinding(finding, timeZone),
  titleOfRule(finding.rule),
  finding.life && lifeWords[finding.life],
  finding.since === undefined ? undefined : new Date(finding.since * 60_000),
  remedyOfFinding(finding, timeZone),
  finding.assignee,
  finding.waiver?.confirmedBy === undefined ? undefined : finding.waiver.until,
  finding.fingerprint,
];

/** A finding as a line of JSON, its proof as it is kept. */
export const findingLine = ({ rule, subject, distinct, proof, risk, terms, life, fingerprint }: NamedFinding): string =>
  JSON.stringify({ rule, subject, ...(distinct.length > 0 && { distinct }), proof, risk, terms, ...(life && { life }), fingerprint });
