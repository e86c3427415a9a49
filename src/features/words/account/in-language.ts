import type { Language } from "@/core/certification/signing-statement";
import type { AccountWords } from "./account-words";
import { english } from "./english";
import { german } from "./german";

const words: Readonly<Record<Language, AccountWords>> = { en: english, de: german };

export const accountWords = (language: Language): AccountWords => words[language];
