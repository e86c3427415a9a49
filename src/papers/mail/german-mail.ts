import { unreachable } from "@/core/kernel/invariant";
import { parseCivilDay } from "@/core/time/civil-day";
import { germanCapital, germanCount, germanDate } from "@/features/words/docket/german-numbers";
import type { MailFacts, MailWords } from "@/operations/ports/mail";

const linkNote = "Der Link meldet Sie einmal an, innerhalb von sieben Tagen. Geben Sie diese Nachricht nicht weiter.";

const work = ({ lines, flagged, minutes }: MailFacts): string =>
  `${germanCapital(germanCount(lines, "eine Zeile ist", "Zeilen sind"))} zu entscheiden${flagged > 0 ? `; gegen ${germanCount(flagged, "eine davon", "davon")} spricht etwas` : ""}. Das dauert etwa ${germanCount(minutes, "eine Minute", "Minuten")}.`;

const numbersWords = (orders: readonly number[]): string => `${orders.length === 1 ? "Auftrag" : "Aufträge"} ${orders.join(", ")}.`;

/** Mails in German. */
export function germanMail(facts: MailFacts): MailWords {
  const { kind, name, round, due, certifier, signed, orders = [] } = facts;
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
    case "orders":
      return {
        subject: `Bitte ${germanCount(orders.length, "einen Auftrag", "Aufträge")} ausführen bis ${day}: ${round}`,
        words: `${name},\n\nnach „${round}“ ${germanCount(orders.length, "ist eine Änderung", "sind Änderungen")} an dem zu machen, was Sie führen. Die angehängte Tabelle nennt jede in Worten und mit Kennungen; fällig ist sie am ${day}.\n\n${numbersWords(orders)}\n\nFüllen Sie die Spalten „answer“ (done oder refused), „note“ und, wenn Sie mögen, „ticket“ aus und schicken Sie die Tabelle zurück. Was getan ist, zeigt auch Ihr nächster Export.\n`,
      };
    case "orders-reminder":
      return {
        subject: `Überfällig, war fällig am ${day}: ${germanCount(orders.length, "ein Auftrag", "Aufträge")} aus ${round}`,
        words: `${name},\n\nzu ${germanCount(orders.length, "einem Auftrag", "Aufträgen")} aus „${round}“, fällig am ${day}, haben Sie noch nichts gesagt. Die Tabelle hängt noch einmal an.\n\n${numbersWords(orders)}\n\nFüllen Sie die Spalten „answer“ (done oder refused), „note“ und, wenn Sie mögen, „ticket“ aus und schicken Sie die Tabelle zurück.\n`,
      };
    case "anchor":
      return { subject: `Ende der Aufzeichnung: Eintrag ${signed?.head.number ?? 0}`, words: `Die Aufzeichnung endet mit Eintrag ${signed?.head.number ?? 0}, SHA-256\n\n${signed?.head.hash ?? ""}\n\nHeben Sie diese Nachricht dort auf, wo niemand hinkommt, der die Anlage betreibt. Später sagt dies, ob die Aufzeichnung neu geschrieben oder gekürzt wurde:\n\nnpm run --silent nomade -- verify --head ${signed?.head.number ?? 0}:${signed?.head.hash ?? ""}\n` };
    default:
      return unreachable(kind);
  }
}
