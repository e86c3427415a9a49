"use client";

import { Button } from "@mantine/core";
import { useState } from "react";
import type { ReactNode } from "react";
import type { Answer, AnswerRow, Inquiry, Trace } from "@/operations/inquiry/inquiry";
import { useAllFetched, useFetched } from "@/ui/fetched";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useRowSelection } from "@/ui/use-row-selection";
import { countWords } from "../words/numbers";
import { answeredQuestion, questionAddress, questionOfRow, questionQuery } from "./address";
import { AnswerForms } from "./answer-forms";
import { AnswerRows } from "./answer-rows";
import { clockWords, leadWords, resultWords } from "./answer-words";
import classes from "./inquiry.module.css";
import type { KeepAction } from "./keep-question";
import { PrintedQuestion } from "./printed-question";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import { Remembered } from "./recent-questions";
import { TraceMargin } from "./trace-margin";

/** The rows of an answer that are shown: those that came with the page, and those that were asked for since. */
function useRows(inquiry: Inquiry, answer: Answer) {
  const pageLength = answer.rows.length + answer.asleep.length;
  const all = answer.total + answer.asleepTotal;
  const [pages, setPages] = useState(1);
  const more = useAllFetched<Answer>(Array.from({ length: pages - 1 }, (_, i) => `/inquiry/rows?${questionQuery(inquiry)}&offset=${(i + 1) * pageLength}`));
  const there = more.flatMap((one) => (one.state === "there" ? [one.value] : []));
  const rows = [answer, ...there].flatMap((page) => page.rows);
  const asleep = [answer, ...there].flatMap((page) => page.asleep);
  return {
    rows,
    asleep,
    left: all - rows.length - asleep.length,
    isAwaited: more.some(({ state }) => state === "awaited"),
    hasFailed: more.some(({ state }) => state === "failed"),
    showMore: () => setPages((before) => before + 1),
  };
}

/** Of a row that stands for several, of whom the margin speaks. */
const speaksOf = ({ holder, door, furtherHolders, furtherDoors }: AnswerRow): string | undefined =>
  furtherHolders > 0
    ? `Of the ${countWords(furtherHolders + 1)} who open ${door.name}, this is ${holder.name}.`
    : furtherDoors > 0
      ? `Of the ${countWords(furtherDoors + 1)} doors, this is ${door.name}.`
      : undefined;

/** Who can, or what they open: the answer in rows, and in the margin why the selected one does. */
export function AnswerView({
  asked,
  answer,
  firstTrace,
  reference,
  keep,
}: {
  readonly asked: AskedQuestion;
  readonly answer: Answer;
  readonly firstTrace: Trace | undefined;
  readonly reference: ReactNode;
  readonly keep: KeepAction;
}) {
  const inquiry = answeredQuestion(asked);
  const { rows, asleep, left, isAwaited, hasFailed, showMore } = useRows(inquiry, answer);
  const all = [...rows, ...asleep];
  const rules = [...new Set(all.flatMap(({ findings }) => findings))];
  const { selected, select, onKeyDown } = useRowSelection(all.length);
  const row = all[selected];
  // The trace of the first row comes with the page.
  const trace = useFetched<Trace>(row && `/inquiry/trace?${questionQuery(questionOfRow(inquiry, row))}`, selected === 0 ? firstTrace : undefined);
  const shared = { inquiry, answer, selected, rules, onSelect: select };
  const margin = !row ? (
    <p className={sheet.sub}>Nothing is selected, since nothing opens.</p>
  ) : trace.state === "there" ? (
    <>
      {speaksOf(row) !== undefined && <p className={sheet.sub}>{speaksOf(row)}</p>}
      <TraceMargin trace={trace.value} asked={questionOfRow(inquiry, row)} rules={rules} />
      <p>
        <a href={questionAddress(questionOfRow(inquiry, row))}>The verdict on a page of its own</a>
      </p>
    </>
  ) : (
    <p className={classes.waiting}>
      {trace.state === "awaited" ? "Working out why …" : "Why it opens could not be worked out. Select the row again, or load the page again."}
    </p>
  );
  return (
    <Sheet question={<QuestionLine key={questionQuery(inquiry)} asked={asked} />} margin={margin}>
      <Heading
        result={resultWords(inquiry, answer)}
        reference={
          <>
            {reference}
            {clockWords(answer) && <span>{` · ${clockWords(answer)}`}</span>}
          </>
        }
        lead={leadWords(inquiry, answer)}
      />
      <Remembered asked={asked} />
      <PrintedQuestion asked={asked} />
      <AnswerForms asked={asked} keep={keep} />
      <div role="group" aria-label="Answer" onKeyDown={onKeyDown}>
        {rows.length > 0 && <AnswerRows {...shared} rows={rows} first={0} />}
        {asleep.length > 0 && (
          <>
            <h2 className={classes.section}>Not live then: would open if made active</h2>
            <AnswerRows {...shared} rows={asleep} first={rows.length} />
          </>
        )}
      </div>
      {left > 0 && (
        <p>
          <Button variant="default" size="xs" loading={isAwaited} onClick={showMore}>
            Show more; {left.toLocaleString("en-GB")} are left
          </Button>
        </p>
      )}
      {hasFailed && (
        <p role="alert" className={sheet.grave}>
          More could not be had. Load the page again.
        </p>
      )}
    </Sheet>
  );
}
