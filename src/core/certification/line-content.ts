import { canonicalJson } from "../facility/canonical-json";
import type { HolderId } from "../facility/holder-id";
import { isUnremarkable } from "./decide-line";
import type { DefinitionKind, DefinitionLine } from "./definitions/definition";
import { holderOfLine } from "./holder-of-line";
import type { Line } from "./line";

/** What a line of a docket is about: somebody's access, or a definition. */
export type LineContent = Line | DefinitionLine;

export const isDefinition = (line: LineContent): line is DefinitionLine => "definition" in line;

/** Under what a line stands in its docket: whose access it is, or definitions of one kind. */
export type LineAbout = HolderId | { readonly kind: "definitions"; readonly id: DefinitionKind };

export const aboutOfLine = (line: LineContent): LineAbout => (isDefinition(line) ? { kind: "definitions", id: line.definition.kind } : holderOfLine(line));

export const aboutKey = ({ kind, id }: LineAbout): string => canonicalJson([kind, id]);

/** What tells a line from the others of a register: whose it is, and what it is about. */
export const lineKey = (line: LineContent): string => canonicalJson([aboutKey(aboutOfLine(line)), line.subject.kind, line.subject.id]);

/** Whether a line can be kept together with others: of a definition, whether the certifier found it right just so last time, and nothing speaks against it. */
export const isKeptTogether = (line: LineContent): boolean =>
  isDefinition(line) ? line.findings.length === 0 && line.keptBefore !== undefined : isUnremarkable(line);
