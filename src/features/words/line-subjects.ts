import type { DefinitionSubject } from "@/core/certification/definitions/definition";
import { definitionKinds } from "@/core/certification/definitions/definition";
import type { LineContent } from "@/core/certification/line-content";
import { englishDefinitions } from "./docket/english-definitions";

export const isOfDefinition = (subject: LineContent["subject"]): subject is DefinitionSubject => (definitionKinds as readonly string[]).includes(subject.kind);

/** What a line is about, as the reviewer reads it. */
export const subjectWords = (subject: LineContent["subject"]): string => (isOfDefinition(subject) ? englishDefinitions.title(subject) : subject.name);

/** Whose line it is; of a definition, of what kind it is. */
export const holderOrKind = (holderName: string, subject: LineContent["subject"]): string =>
  isOfDefinition(subject) ? englishDefinitions.heading[subject.kind] : holderName;
