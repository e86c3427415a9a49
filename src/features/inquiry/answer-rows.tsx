import { UnstyledButton } from "@mantine/core";
import Link from "next/link";
import type { Answer, AnswerRow, Inquiry } from "@/operations/inquiry/inquiry";
import sheet from "@/ui/sheet.module.css";
import { hoursWords, shareWords } from "../words/numbers";
import { wordsOfUse } from "../words/use";
import { questionAddress } from "./address";
import classes from "./inquiry.module.css";
import { AccessWeek, markOf } from "./trace-margin";

/** What a row stands for besides what it names, as the question that lists it. */
function Further({ inquiry, row, byDoor }: { readonly inquiry: Inquiry; readonly row: AnswerRow; readonly byDoor: boolean }) {
  const { holder, door, furtherDoors, furtherHolders } = row;
  const asked: Inquiry = byDoor ? { ...inquiry, where: { kind: "door", id: door.id } } : { ...inquiry, who: { kind: holder.kind, id: holder.id } };
  const count = byDoor ? furtherHolders : furtherDoors;
  if (count === 0) return null;
  return (
    <>
      {" · "}
      <Link href={questionAddress(asked)} className={classes.further} onClick={(event) => event.stopPropagation()}>
        {(count + 1).toLocaleString("en-GB")} {byDoor ? "open it" : "doors"}
      </Link>
    </>
  );
}

interface RowsProps {
  readonly inquiry: Inquiry;
  readonly answer: Answer;
  readonly rows: readonly AnswerRow[];
  /** Number of the first row among all that are shown. */
  readonly first: number;
  readonly selected: number;
  readonly rules: readonly string[];
  readonly onSelect: (row: number) => void;
}

/** Rows of an answer: people, or doors, each with its week, hours in words, and use. */
export function AnswerRows({ inquiry, answer, rows, first, selected, rules, onSelect }: RowsProps) {
  const byDoor = answer.by === "doors";
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
          <th scope="col">{answer.askedDoors === 1 || byDoor ? "Used here" : "Used there"}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => {
          const marks = byDoor ? [] : [...new Set(row.findings.map((rule) => markOf(rules, rule)))];
          return (
            <tr
              key={byDoor ? row.door.id : `${row.holder.kind} ${row.holder.id}`}
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
                  <Further inquiry={inquiry} row={row} byDoor={byDoor} />
                </div>
              </td>
              <td>
                <AccessWeek week={row.week.open} outside={row.week.outside} size="cell" words={row.words ?? "hours on several clocks"} />
              </td>
              <td className={`${sheet.words} ${classes.inWords}`}>{row.words ?? "on several clocks: see its doors"}</td>
              <td className={sheet.number}>{hoursWords(row.weekMinutes)}</td>
              <td className={sheet.number}>{shareWords(row.outOfHoursMinutes, row.weekMinutes)}</td>
              <td className={classes.used}>{row.use ? wordsOfUse(row.use, answer.now) : "not counted for so many"}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
