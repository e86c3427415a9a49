import type { ReactNode } from "react";
import Link from "next/link";
import type { UnreadPart } from "@/operations/inquiry/question-of-parts";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { plural, capital } from "../words/numbers";
import { refusalText } from "../words/when";
import { nothingAsked, QuestionLine } from "./question-line";

const expected: Readonly<Record<string, string>> = {
  who: "Who is written such as cardholder:ID, credential:ID, group:ID, level:ID, bundle:ID, type:contractor or everybody.",
  where: "Where is written such as door:ID, doorGroup:ID, level:ID, area:ID, site:ID, sensitivity:2 or anywhere.",
  lockdown: "A question in a lockdown has lockdown=1.",
  asIfLive: "A question as if every card were live has asIfLive=1.",
  draft: "A draft is told by its number, such as draft=2, and is of the present register: no snapshot is named with it.",
  snapshot: "A snapshot is told by its number, such as snapshot=3.",
  form: "Questions about several people and several doors are answered as form=people, form=doors or form=sheet; others have one form.",
  fold: "A sheet (form=sheet) takes together fold=people, fold=doors or fold=both.",
};

const partText = ({ key, refusal }: UnreadPart): string =>
  refusal
    ? refusalText(refusal)
    : (expected[key] ?? "A question has the parts who, where, when, lockdown, asIfLive, snapshot, draft, form and fold, each once.");

/** An address that holds no question that is understood: what of it is not, so that nobody takes the answer to another question for theirs. */
export function NotUnderstoodView({ parts, reference }: { readonly parts: readonly UnreadPart[]; readonly reference: ReactNode }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={`${capital(plural(parts.length, "part of this question is", "parts of this question are"))} not understood`}
        reference={reference}
        lead="Nothing was asked: an answer to another question would be worse than none."
      />
      <ul>
        {parts.map((part) => (
          <li key={`${part.key} ${part.text}`}>
            <b>
              {part.key}={part.text}
            </b>
            <div className={sheet.sub}>{partText(part)}</div>
          </li>
        ))}
      </ul>
      <p>
        <Link href="/inquiry">Ask anew</Link>
      </p>
    </Sheet>
  );
}
