import Link from "next/link";
import type { ReactNode } from "react";
import type { PastAnswer } from "@/operations/inquiry/past-inquiry";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { capital, countWords, listWords, plural } from "../words/numbers";
import { clockText } from "../words/times";
import { formatMinute } from "@/core/time/instant";
import { questionAddress } from "./address";
import { AnswerForms } from "./answer-forms";
import { timeClause } from "./answer-words";
import type { KeepAction } from "./keep-question";
import { modesClause } from "./modes";
import { PrintedQuestion } from "./printed-question";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";

/** Who could at any minute of a past time: all together, with the snapshots by which they could. */
export function PastView({
  asked,
  answer,
  reference,
  keep,
}: {
  readonly asked: AskedQuestion;
  readonly answer: PastAnswer;
  readonly reference: ReactNode;
  readonly keep: KeepAction;
}) {
  const { inquiry, names } = asked;
  const { by, isOver, parts, rows, total } = answer;
  const could = isOver ? "could" : "could or can";
  const what = names.where ?? "something";
  const hasCounts = rows.some(({ count }) => count > 1);
  const result =
    by === "people"
      ? `${total === 0 ? "Nobody" : capital(countWords(total))} ${could} open ${what}${timeClause(inquiry)}${modesClause(inquiry)}`
      : `${names.who ?? "Somebody"} ${could} open ${total === 0 ? "no door" : plural(total, "door", "doors")}${timeClause(inquiry)}${modesClause(inquiry)}`;
  return (
    <Sheet question={<QuestionLine asked={asked} />}>
      <Heading
        result={result}
        reference={reference}
        lead={`This time lies over ${plural(parts.length, "snapshot", "snapshots")}: each is asked of its own part of it, and below stands what holds in any of them.`}
      />
      <PrintedQuestion asked={asked} />
      <AnswerForms asked={asked} keep={keep} hasOneWeek={false} />
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Snapshot</th>
            <th scope="col">tells from</th>
            <th scope="col">until</th>
            <th scope="col" className={sheet.number}>
              {by === "people" ? "people" : "doors"}
            </th>
          </tr>
        </thead>
        <tbody>
          {parts.map(({ snapshot, from, to, total: count, isBeforeAll }) => (
            <tr key={`${snapshot} ${from}`}>
              <td>
                <Link href={questionAddress({ ...inquiry, snapshot })}>{snapshot}</Link>
                {isBeforeAll && <div className={sheet.sub}>the first of all, exported later: what was before is not known</div>}
              </td>
              <td>{clockText(formatMinute(from))}</td>
              <td>{clockText(formatMinute(to))}</td>
              <td className={sheet.number}>{count === undefined ? "holds neither" : count.toLocaleString("en-GB")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > 0 && (
        <table className={sheet.table} style={{ marginTop: 24 }}>
          <thead>
            <tr>
              <th scope="col">{by === "people" ? "Who" : "Where"}</th>
              {hasCounts && (
                <th scope="col" className={sheet.number}>
                  {by === "people" ? "doors, at most" : "people, at most"}
                </th>
              )}
              <th scope="col">by</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ subject, count, snapshots }) => (
              <tr key={`${"kind" in subject ? subject.kind : "door"} ${subject.id}`}>
                <td>
                  <Link
                    href={questionAddress({
                      ...inquiry,
                      form: undefined,
                      fold: undefined,
                      snapshot: snapshots[snapshots.length - 1],
                      ...("kind" in subject ? { who: { kind: subject.kind, id: subject.id } } : { where: { kind: "door" as const, id: subject.id } }),
                    })}
                  >
                    {subject.name}
                  </Link>
                  <div className={sheet.sub}>{"kind" in subject ? subject.detail : [subject.area, subject.site].filter(Boolean).join(", ")}</div>
                </td>
                {hasCounts && <td className={sheet.number}>{count.toLocaleString("en-GB")}</td>}
                <td>
                  {snapshots.length === parts.length && parts.length > 1
                    ? "all of them"
                    : `${snapshots.length === 1 ? "snapshot" : "snapshots"} ${listWords(snapshots.map(String))}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {total > rows.length && (
        <p className={sheet.sub}>{(total - rows.length).toLocaleString("en-GB")} more; save the answer to have them all, or narrow the question.</p>
      )}
    </Sheet>
  );
}

/** A time that lies over more snapshots than are asked at once. */
export function TooLongView({
  asked,
  count,
  most,
  reference,
}: {
  readonly asked: AskedQuestion;
  readonly count: number;
  readonly most: number;
  readonly reference: ReactNode;
}) {
  return (
    <Sheet question={<QuestionLine asked={asked} />}>
      <Heading
        result={`This time lies over ${count} snapshots`}
        reference={reference}
        lead={`${most === 1 ? "One is" : `At most ${most} are`} asked at once: ask about a shorter time, or of one snapshot.`}
      />
    </Sheet>
  );
}
