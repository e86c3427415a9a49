import type { ReactNode } from "react";
import Link from "next/link";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { Heading, Sheet } from "@/ui/sheet";
import { questionAddress } from "./address";
import classes from "./inquiry.module.css";
import { nothingAsked, QuestionLine } from "./question-line";

export interface Example {
  readonly sentence: string;
  readonly inquiry: Inquiry;
}

/** Before anything is asked: what can be, with questions that the register at hand answers. */
export function BlankView({ examples, reference }: { readonly examples: readonly Example[]; readonly reference: ReactNode }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result="Ask who opens where, and when"
        reference={reference}
        lead="Fill any part of the sentence above; what you leave open is what is asked. Press / from anywhere to begin, and type any part of a name, a number, a department, a door."
      />
      <ul className={classes.examples}>
        {examples.map(({ sentence, inquiry }) => (
          <li key={sentence}>
            <Link href={questionAddress(inquiry)}>{sentence}</Link>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
