import type { Language } from "@/core/certification/signing-statement";
import type { MailFacts, MailWords } from "@/operations/ports/mail";
import { englishMail } from "./english-mail";
import { germanMail } from "./german-mail";

const languages: Readonly<Record<Language, (facts: MailFacts) => MailWords>> = { en: englishMail, de: germanMail };

/** Line ends and other characters that no subject has: a name with them would write headers of its own. */
const unprintable = /[\p{Cc}\p{Cf}\u2028\u2029]+/gu;

const longestSubject = 250;

/** A mail in the language of whom it goes to. */
export function mailWords(facts: MailFacts): MailWords {
  const { subject, words } = languages[facts.language](facts);
  return { subject: subject.replace(unprintable, " ").slice(0, longestSubject), words };
}
