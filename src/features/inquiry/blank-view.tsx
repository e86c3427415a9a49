import type { ReactNode } from "react";
import Link from "next/link";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { ListedQuestion } from "@/operations/inquiry/kept-questions";
import { Heading, Sheet } from "@/ui/sheet";
import type { Waiting } from "@/operations/administration/what-waits";
import { questionAddress } from "./address";
import classes from "./inquiry.module.css";
import type { KeptActions } from "./kept-questions";
import { KeptQuestions } from "./kept-questions";
import { nothingAsked, QuestionLine } from "./question-line";
import { RecentQuestions } from "./recent-questions";
import { WhatWaits } from "./what-waits";

export interface Example {
  readonly sentence: string;
  readonly inquiry: Inquiry;
}

/** Before anything is asked: what can be, with questions that the register at hand answers. */
export function BlankView({
  examples,
  waiting,
  kept,
  keptActions,
  reference,
}: {
  readonly examples: readonly Example[];
  readonly waiting: readonly Waiting[];
  readonly kept: readonly ListedQuestion[];
  readonly keptActions: KeptActions;
  readonly reference: ReactNode;
}) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={waiting.length > 0 ? <WhatWaits waiting={waiting} /> : undefined}>
      <Heading
        result="Ask who opens where, and when"
        reference={reference}
        lead="Fill any part of the sentence above; what you leave open is what is asked. Press / from anywhere to begin, and type any part of a name, a number, a department, a door."
      />
      <p>
        New here? <Link href="/first-steps">First steps: from a question to its proof</Link>. Or look at{" "}
        <Link href="/inquiry/charts?who=everybody&where=anywhere">everybody at anything, in charts</Link>, at{" "}
        <Link href="/inquiry/routes?who=everybody">the ways on foot</Link>, at <Link href="/inquiry/forecast">what comes by itself</Link>, or{" "}
        <Link href="/inquiry/trials">try a card at a door</Link>.
      </p>
      <ul className={classes.examples}>
        {examples.map(({ sentence, inquiry }) => (
          <li key={sentence}>
            <Link href={questionAddress(inquiry)}>{sentence}</Link>
          </li>
        ))}
      </ul>
      <KeptQuestions kept={kept} actions={keptActions} />
      <RecentQuestions />
    </Sheet>
  );
}
