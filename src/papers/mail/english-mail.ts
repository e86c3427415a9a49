import { unreachable } from "@/core/kernel/invariant";
import type { MailFacts, MailWords } from "@/operations/ports/mail";
import { capital, plural } from "@/features/words/numbers";
import { momentWords } from "@/features/words/times";

const linkNote = "The link signs you in once, within seven days. Do not pass this mail on.";

const work = ({ lines, flagged, minutes }: MailFacts): string =>
  `${capital(plural(lines, "line is", "lines are"))} to be decided${flagged > 0 ? `; something speaks against ${plural(flagged, "of them", "of them")}` : ""}. It takes about ${plural(minutes, "minute", "minutes")}.`;

const numbersWords = (orders: readonly number[]): string => `${orders.length === 1 ? "Order" : "Orders"} ${orders.join(", ")}.`;

/** Mails in English. */
export function englishMail(facts: MailFacts): MailWords {
  const { kind, name, round, due, certifier, signed, orders = [] } = facts;
  const day = momentWords(due);
  switch (kind) {
    case "invitation":
      return {
        subject: `Please look at who may open which doors, by ${day}`,
        words: `${name},\n\n“${round}” asks you to look at who can open which doors, and to say what is needed and what is not.\n\n${work(facts)}\nIt is due on ${day}.\n\n{link}\n\n${linkNote}\n`,
      };
    case "reminder":
      return {
        subject: `Still to be decided by ${day}: ${round}`,
        words: `${name},\n\nyour docket of “${round}” is not signed yet; it is due on ${day}.\n\n${work(facts)} What you decided already is kept.\n\n{link}\n\n${linkNote}\n`,
      };
    case "escalation":
      return {
        subject: `Overdue, was due on ${day}: ${certifier ?? ""}, ${round}`,
        words: `${name},\n\nthe docket of ${certifier ?? "somebody who answers to you"} in “${round}” was due on ${day} and is not signed.\n\n${work(facts)}\n\nPlease see to it that it is done, or ask the reviewer to name a substitute.\n`,
      };
    case "receipt":
      return {
        subject: `Signed: ${round}`,
        words: `${name},\n\nyou signed your docket of “${round}”. What you signed:\n\n${signed?.statement ?? ""}\n\nSHA-256 of what was signed: ${signed?.hash ?? ""}\nThe record then ended with entry ${signed?.head.number ?? 0}, ${signed?.head.hash ?? ""}.\n\nKeep this mail: with it anybody can show later that what you signed was not altered. If it was not you who signed, tell the reviewer at once.\n`,
      };
    case "orders":
      return {
        subject: `Please carry out ${plural(orders.length, "order", "orders")} by ${day}: ${round}`,
        words: `${name},\n\nafter “${round}” ${plural(orders.length, "change has", "changes have")} to be made in what you keep. The table that is attached says each of them, in words and by ids; it is due on ${day}.\n\n${numbersWords(orders)}\n\nFill in the columns “answer” (done or refused), “note” and, if you like, “ticket”, and send the table back. What is done shows in your next export, too.\n`,
      };
    case "orders-reminder":
      return {
        subject: `Overdue, was due on ${day}: ${plural(orders.length, "order", "orders")} of ${round}`,
        words: `${name},\n\nof ${plural(orders.length, "order", "orders")} of “${round}” that ${orders.length === 1 ? "was" : "were"} due on ${day} you said nothing yet. The table is attached once more.\n\n${numbersWords(orders)}\n\nFill in the columns “answer” (done or refused), “note” and, if you like, “ticket”, and send the table back.\n`,
      };
    case "anchor":
      return { subject: `Head of the record: entry ${signed?.head.number ?? 0}`, words: `The record ends with entry ${signed?.head.number ?? 0}, SHA-256\n\n${signed?.head.hash ?? ""}\n\nKeep this mail where whoever runs the installation cannot reach it. Later this tells whether the record was written anew or cut off:\n\nnpm run --silent nomade -- verify --head ${signed?.head.number ?? 0}:${signed?.head.hash ?? ""}\n` };
    default:
      return unreachable(kind);
  }
}
