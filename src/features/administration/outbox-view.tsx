import type { TakenMail } from "@/operations/ports/mail";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital, plural } from "../words/numbers";
import { clockText } from "../words/times";
import classes from "./administration.module.css";

/** A mail’s words, with the addresses in it as links. */
function Words({ text }: { readonly text: string }) {
  return text.split(/(https?:\/\/\S+)/).map((part, i) =>
    /^https?:\/\//.test(part) ? (
      <a key={i} href={part}>
        {part}
      </a>
    ) : (
      <span key={i}>{part}</span>
    ),
  );
}

/** What the stand-in mail server took, and would have gone out. */
export function OutboxView({ mails }: { readonly mails: readonly TakenMail[] }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={mails.length === 0 ? "No mail was sent yet" : capital(plural(mails.length, "mail", "mails"))}
        reference="Outbox of the stand-in mail server"
        lead="No real mail server is set: mails go to a stand-in that delivers to nobody. Set NOMADE_SMTP_HOST to send them."
      />
      {mails.map(({ id, at, to, subject, words, attachments }) => (
        <details key={id} className={classes.mail}>
          <summary>
            <b>{subject}</b>{" "}
            <span className={sheet.sub}>
              to {to}, {clockText(at)}
            </span>
          </summary>
          <pre>
            <Words text={words} />
          </pre>
          {attachments?.map(({ name, text }) => (
            <details key={name}>
              <summary>{name}</summary>
              <pre>{text}</pre>
            </details>
          ))}
        </details>
      ))}
    </Sheet>
  );
}
