import { unreachable } from "@/core/kernel/invariant";
import { parseCivilDay } from "@/core/time/civil-day";
import { germanCapital, germanCount, germanDate } from "@/features/words/docket/german-numbers";
import type { MailFacts, MailWords } from "@/operations/ports/mail";

const linkNote = "Der Link meldet Sie einmal an, innerhalb von sieben Tagen. Geben Sie diese Nachricht nicht weiter.";

const work = ({ lines, flagged, minutes }: MailFacts): string =>
  `${germanCapital(germanCount(lines, "eine Zeile ist", "Zeilen sind"))} zu entscheiden${flagged > 0 ? `; gegen ${germanCount(flagged, "eine davon", "davon")} spricht etwas` : ""}. Das dauert etwa ${germanCount(minutes, "eine Minute", "Minuten")}.`;

/** Mails in German. */
export function germanMail(facts: MailFacts): MailWords {
  const { kind, name, round, due, certifier, signed } = facts;
  const date = parseCivilDay(due);
  const day = date === undefined ? due : germanDate(date);
  switch (kind) {
    case "invitation":
      return {
        subject: `Bitte sehen Sie bis ${day} an, wer welche Türen öffnen darf`,
        words: `${name},\n\n„${round}“ bittet Sie anzusehen, wer welche Türen öffnen kann, und zu sagen, was gebraucht wird und was nicht.\n\n${work(facts)}\nFällig am ${day}.\n\n{link}\n\n${linkNote}\n`,
      };
    case "reminder":
      return {
        subject: `Noch zu entscheiden bis ${day}: ${round}`,
        words: `${name},\n\nIhre Mappe von „${round}“ ist noch nicht unterschrieben; fällig ist sie am ${day}.\n\n${work(facts)} Was Sie schon entschieden haben, ist aufgehoben.\n\n{link}\n\n${linkNote}\n`,
      };
    case "escalation":
      return {
        subject: `Überfällig, war fällig am ${day}: ${certifier ?? ""}, ${round}`,
        words: `${name},\n\ndie Mappe von ${certifier ?? "jemandem, für den Sie einstehen"} in „${round}“ war am ${day} fällig und ist nicht unterschrieben.\n\n${work(facts)}\n\nBitte sorgen Sie dafür, dass es geschieht, oder bitten Sie die Prüfstelle, eine Vertretung zu nennen.\n`,
      };
    case "receipt":
      return {
        subject: `Unterschrieben: ${round}`,
        words: `${name},\n\nSie haben Ihre Mappe von „${round}“ unterschrieben. Was Sie unterschrieben haben:\n\n${signed?.statement ?? ""}\n\nSHA-256 des Unterschriebenen: ${signed?.hash ?? ""}\nDie Aufzeichnung endete damals mit Eintrag ${signed?.head.number ?? 0}, ${signed?.head.hash ?? ""}.\n\nHeben Sie diese Nachricht auf: mit ihr lässt sich später zeigen, dass nichts daran geändert wurde. Wenn nicht Sie unterschrieben haben, sagen Sie es sofort der Prüfstelle.\n`,
      };
    default:
      return unreachable(kind);
  }
}
