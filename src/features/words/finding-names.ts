import type { LineFinding } from "@/core/certification/line";
import type { StoredFinding } from "@/operations/ports/findings";
import { findingRemedy, findingSentence, namesFrom } from "./findings";
import type { FindingNames } from "./findings";

/** A finding that came with the names of what it speaks of, by `spokenKey`. */
export type NamedFinding = StoredFinding & { readonly names: Readonly<Record<string, string>> };

export const namesOfFinding = ({ names }: NamedFinding, timeZone: string): FindingNames => namesFrom(names, timeZone);

/** The sentence of a finding: of one that was made with words, those. `timeZone` is that of its register. */
export const sentenceOfFinding = (finding: NamedFinding, timeZone: string): string =>
  finding.written?.sentence ?? findingSentence(finding, namesOfFinding(finding, timeZone));

export const remedyOfFinding = (finding: NamedFinding, timeZone: string): string =>
  finding.written?.remedy ?? findingRemedy(finding, namesOfFinding(finding, timeZone));

/** The sentence of what speaks against a line of a docket, as it was known when the round was opened. */
export const sentenceOfLineFinding = (finding: LineFinding, timeZone: string): string =>
  "sentence" in finding ? finding.sentence : findingSentence(finding.facts, namesFrom(finding.names, timeZone));
