"use client";

import Link from "next/link";
import { formOf, formsOf } from "@/core/questions/answer-form";
import type { AnswerForm } from "@/core/questions/answer-form";
import { answeredQuestion, questionAddress, questionQuery, planAnswerAddress, routesAddress } from "./address";
import classes from "./inquiry.module.css";
import type { KeepAction } from "./keep-question";
import { KeepQuestion } from "./keep-question";
import type { AskedQuestion } from "./question-line";
import { TakeAway } from "./take-away";

const formWords: Readonly<Record<AnswerForm, string>> = { verdict: "Verdict", people: "By person", doors: "By door", sheet: "People by doors" };

/** As what else the same question can be answered, and what can be taken away of the answer. */
export function AnswerForms({
  asked,
  keep,
  hasOneWeek = true,
}: {
  readonly asked: AskedQuestion;
  readonly keep: KeepAction;
  /** Whether one register answers, so that there is one ordinary week to draw. */
  readonly hasOneWeek?: boolean;
}) {
  const inquiry = answeredQuestion(asked);
  const forms = formsOf(inquiry);
  const isOfSeveral = inquiry.who?.kind !== "cardholder" && inquiry.who?.kind !== "credential";
  return (
    <nav className={classes.forms} aria-label="Answer as">
      {forms.length > 1 &&
        forms.map((form) => (
          <Link
            key={form}
            href={questionAddress({ ...inquiry, form: form === "verdict" ? undefined : form })}
            aria-current={form === formOf(inquiry) ? "page" : undefined}
          >
            {formWords[form]}
          </Link>
        ))}
      {isOfSeveral && hasOneWeek && <Link href={`/inquiry/charts?${questionQuery({ ...inquiry, form: undefined, fold: undefined })}`}>Charts</Link>}
      {hasOneWeek && <Link href={routesAddress(inquiry)}>Routes</Link>}
      {hasOneWeek && <Link href={planAnswerAddress(inquiry)}>On the plan</Link>}
      <span className={classes.away}>
        <KeepQuestion inquiry={asked.inquiry} keep={keep} />
        <TakeAway address={`/inquiry/export?${questionQuery(inquiry)}`} />
      </span>
    </nav>
  );
}
