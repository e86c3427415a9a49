import type { Language } from "@/core/certification/signing-statement";
import type { DocketWords } from "./docket-words";
import { english } from "./english";
import { german } from "./german";

const byLanguage: Readonly<Record<Language, DocketWords>> = { en: english, de: german };

/** What a docket says in a language. */
export const docketWords = (language: Language): DocketWords => byLanguage[language];
