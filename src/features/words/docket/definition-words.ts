import type { DecisionCounts } from "@/core/certification/sign-docket";
import type { DefinedHours, Definition, DefinitionKind, DefinitionLine, DefinitionSubject, SinceLastTime } from "@/core/certification/definitions/definition";
import type { LineFinding } from "@/core/certification/line";

/** What a docket says of definitions, in one language. */
export interface DefinitionWords {
  /** What those of a kind are called together, and what they are. */
  readonly heading: Readonly<Record<DefinitionKind, string>>;
  readonly about: Readonly<Record<DefinitionKind, string>>;
  readonly nextPart: string;
  readonly partOf: (part: number, of: number) => string;
  readonly title: (subject: DefinitionSubject) => string;
  /** What it is, as sentences, and what only who wants more is told. */
  readonly facts: (definition: Definition) => readonly string[];
  readonly doors: (hours: DefinedHours) => string;
  readonly hours: (hours: DefinedHours) => string;
  readonly moreHours: (count: number) => string;
  readonly date: (date: string) => string;
  readonly span: (from: string, to: string) => string;
  readonly dayType: (dayType: string) => string;
  readonly dates: (count: number) => string;
  /** Whom it touches. */
  readonly touches: (definition: Definition) => string;
  readonly notCertifiedBefore: string;
  readonly since: (since: SinceLastTime) => string;
  /** Each change as a sentence, and how many there are besides. */
  readonly changes: (since: SinceLastTime) => readonly string[];
  readonly finding: (line: Pick<DefinitionLine, "subject">, finding: LineFinding, timeZone: string) => string;
  readonly moreFindings: (count: number) => string;
  readonly keep: string;
  readonly change: string;
  readonly task: string;
  readonly taskHint: string;
  readonly ask: string;
  readonly asked: string;
  readonly keptBefore: (at: string) => string;
  readonly sameAsBefore: (count: number) => string;
  readonly keepAll: (count: number) => string;
  readonly counts: (counts: DecisionCounts) => string;
  readonly changingHeading: string;
}
