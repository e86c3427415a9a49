"use client";

import { UnstyledButton } from "@mantine/core";
import type { ReactNode } from "react";
import type { Answer, AnswerRow, Inquiry, Trace } from "@/operations/inquiry/inquiry";
import { useFetched } from "@/ui/fetched";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useRowSelection } from "@/ui/use-row-selection";
import { hoursWords, shareWords } from "../words/numbers";
import { wordsOfUse } from "../words/use";
import { questionAddress, questionQuery } from "./address";
import { clockWords, leadWords, resultWords } from "./answer-words";
import classes from "./inquiry.module.css";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import { AccessWeek, markOf, TraceMargin } from "./trace-margin";

/** The question of one row: its holder and its door, at the time that was asked. */
const rowInquiry = (inquiry: Inquiry, row: AnswerRow): Inquiry => ({
  ...inquiry,
  who: { kind: row.holder.kind, id: row.holder.id },
  where: { kind: "door", id: row.door.id },
});

interface RowsProps {
  readonly rows: readonly AnswerRow[];
  readonly first: number;
  readonly selected: number;
  readonly byDoor: boolean;
  readonly rules: readonly string[];
  readonly answer: Answer;
  readonly onSelect: (row: number) => void;
}

function Rows({ rows, first, selected, byDoor, rules, answer, onSelect }: RowsProps) {
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          <th scope="col">{byDoor ? "Where" : "Who"}</th>
          <th scope="col">Usual week</th>
          <th scope="col">In words</th>
          <th scope="col" className={sheet.number}>
            a week
          </th>
          <th scope="col" className={sheet.number}>
            out of hours
          </th>
          <th scope="col">Used here</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => {
          const marks = byDoor ? [] : [...new Set(row.findings.map((rule) => markOf(rules, rule)))];
          return (
            <tr
              key={`${row.holder.id} ${row.door.id}`}
              className={`${sheet.row} ${first + i === selected ? sheet.selected : ""}`}
              onClick={() => onSelect(first + i)}
            >
              <td className={classes.who}>
                <UnstyledButton className={sheet.rowButton} data-row-button aria-pressed={first + i === selected}>
                  {byDoor ? row.door.name : row.holder.name}
                </UnstyledButton>
                {marks.length > 0 && <sup className={sheet.mark}> {marks.join("")}</sup>}
                <div className={sheet.sub}>
                  {byDoor ? [row.door.area, row.door.site].filter(Boolean).join(", ") : row.holder.detail}
                  {row.furtherDoors > 0 ? ` · ${row.furtherDoors + 1} doors` : ""}
                </div>
              </td>
              <td>
                <AccessWeek week={row.week} size="cell" words={row.words} />
              </td>
              <td className={`${sheet.words} ${classes.inWords}`}>{row.words}</td>
              <td className={sheet.number}>{hoursWords(row.weekMinutes)}</td>
              <td className={sheet.number}>{shareWords(row.outOfHoursMinutes, row.weekMinutes)}</td>
              <td className={classes.used}>{wordsOfUse(row.use, answer.asOf)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Who can, or what they open: the answer in rows, and in the margin why the selected one does. */
export function AnswerView({
  asked,
  answer,
  firstTrace,
  reference,
}: {
  readonly asked: AskedQuestion;
  readonly answer: Answer;
  readonly firstTrace: Trace | undefined;
  readonly reference: ReactNode;
}) {
  const { inquiry } = asked;
  const byDoor = inquiry.who !== undefined;
  const rows = [...answer.rows, ...answer.asleep];
  const rules = [...new Set(rows.flatMap(({ findings }) => findings))];
  const { selected, select, onKeyDown } = useRowSelection(rows.length);
  const first = rows[0];
  const row = rows[selected];
  // The trace of the first row comes with the page.
  const trace = useFetched<Trace>(row && `/inquiry/trace?${questionQuery(rowInquiry(inquiry, row))}`, row === first ? firstTrace : undefined);
  const shared = { selected, byDoor, rules, answer, onSelect: select };
  const margin = !row ? (
    <p className={sheet.sub}>Nothing is selected, since nothing opens.</p>
  ) : trace.state === "there" ? (
    <>
      <TraceMargin trace={trace.value} asked={rowInquiry(inquiry, row)} rules={rules} />
      <p>
        <a href={questionAddress(rowInquiry(inquiry, row))}>The verdict on a page of its own</a>
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
      <div role="group" aria-label="Answer" onKeyDown={onKeyDown}>
        {answer.rows.length > 0 && <Rows {...shared} rows={answer.rows} first={0} />}
        {answer.total > answer.rows.length && <p className={sheet.sub}>{answer.total - answer.rows.length} more; narrow the question to see them.</p>}
        {answer.asleep.length > 0 && (
          <>
            <h2 className={classes.section}>Not live then: would open if made active</h2>
            <Rows {...shared} rows={answer.asleep} first={answer.rows.length} />
            {answer.asleepTotal > answer.asleep.length && (
              <p className={sheet.sub}>{answer.asleepTotal - answer.asleep.length} more; narrow the question to see them.</p>
            )}
          </>
        )}
      </div>
    </Sheet>
  );
}
