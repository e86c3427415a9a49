"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import Link from "next/link";
import { useRef, useState } from "react";
import type { KeyboardEvent, ReactNode } from "react";
import { sheetFolds } from "@/core/questions/question";
import type { SheetFold } from "@/core/questions/question";
import type { Inquiry, Trace } from "@/operations/inquiry/inquiry";
import type { SheetHead, SheetOfPart, WrittenCell } from "@/operations/inquiry/lay-out-sheet";
import { useAllFetched, useFetched } from "@/ui/fetched";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { capital, hoursWords, plural } from "../words/numbers";
import { answeredQuestion, questionAddress, questionQuery } from "./address";
import { AnswerForms } from "./answer-forms";
import { timeClause, usesWords } from "./answer-words";
import inquiryClasses from "./inquiry.module.css";
import type { KeepAction } from "./keep-question";
import { PrintedQuestion } from "./printed-question";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import classes from "./sheet-view.module.css";
import { Remembered } from "./recent-questions";
import { TraceMargin } from "./trace-margin";

const rowHeight = 34;
const columnWidth = 52;
const headHeight = 132;
const headWidth = 216;
const minutesAWeek = 10_080;
/** About what a window shows: so much is drawn before anything is measured. */
const firstView = { width: 800, height: 560 };

const foldWords: Readonly<Record<SheetFold, string>> = { people: "People by department", doors: "Doors by area", both: "Both" };

function Folds({ inquiry }: { readonly inquiry: Inquiry }) {
  return (
    <nav className={inquiryClasses.forms} aria-label="Taken together">
      <span>Taken together:</span>
      {([undefined, ...sheetFolds] as const).map((fold) => (
        <Link key={fold ?? "nothing"} href={questionAddress({ ...inquiry, fold })} aria-current={fold === inquiry.fold ? "page" : undefined}>
          {fold === undefined ? "Nothing" : foldWords[fold]}
        </Link>
      ))}
    </nav>
  );
}

interface Place {
  readonly row: number;
  readonly column: number;
}

/** The parts of a sheet as they come into view: the first came with the page. */
function useParts(inquiry: Inquiry, first: SheetOfPart, wanted: readonly Place[]) {
  const [height, width] = [first.rows.length || 1, first.columns.length || 1];
  const keyOf = ({ row, column }: Place): string => `${Math.floor(row / height) * height} ${Math.floor(column / width) * width}`;
  const keys = [...new Set(wanted.map(keyOf))].filter((key) => key !== "0 0");
  const fetched = useAllFetched<SheetOfPart>(
    keys.map((key) => {
      const [row = "0", column = "0"] = key.split(" ");
      return `/inquiry/sheet?${questionQuery(inquiry)}&row=${row}&column=${column}`;
    }),
  );
  const partOf = (place: Place): SheetOfPart | undefined => {
    const key = keyOf(place);
    if (key === "0 0") return first;
    const found = fetched[keys.indexOf(key)];
    return found?.state === "there" ? found.value : undefined;
  };
  return {
    hasFailed: fetched.some(({ state }) => state === "failed"),
    rowHead: (row: number): SheetHead | undefined => {
      for (const { column } of wanted) {
        const part = partOf({ row, column });
        if (part) return part.rows[row - part.part.row];
      }
      return undefined;
    },
    columnHead: (column: number): SheetHead | undefined => {
      for (const { row } of wanted) {
        const part = partOf({ row, column });
        if (part) return part.columns[column - part.part.column];
      }
      return undefined;
    },
    /** What stands there: null for nothing that opens, undefined where it is not here yet. */
    cell: ({ row, column }: Place): WrittenCell | undefined => {
      const part = partOf({ row, column });
      return part && (part.cells[row - part.part.row]?.[column - part.part.column] ?? null);
    },
  };
}

const cellWords = (cell: WrittenCell | undefined, row: SheetHead | undefined, column: SheetHead | undefined): string => {
  if (cell === undefined) return "on its way";
  const where = `${row?.name ?? ""}, ${column?.name ?? ""}`;
  if (cell === null) return `${where}: nothing opens`;
  const [week, out, people, asleep] = cell;
  const who = row && row.count > 1 ? `${people} of ${row.count} people, at most ` : "";
  const live = asleep === 0 ? "" : people === asleep ? ", only if made active" : `, ${asleep} of them only if made active`;
  return `${where}: ${who}${hoursWords(week)} in an ordinary week, ${hoursWords(out)} of them out of hours${live}`;
};

function Cell({ cell, row }: { readonly cell: WrittenCell | undefined; readonly row: SheetHead | undefined }) {
  if (!cell) return null;
  const [week, out, people, asleep] = cell;
  const figure = row && row.count > 1 ? people : Math.round(week / 60);
  const share = (minutes: number): string => `${(100 * minutes) / minutesAWeek}%`;
  return (
    <>
      <span>{people === asleep ? `(${figure})` : figure}</span>
      <span className={classes.bar} aria-hidden>
        <i style={{ width: share(week - out) }} />
        <i className={classes.out} style={{ width: share(out) }} />
      </span>
    </>
  );
}

/** How a sheet is read, until a cell is chosen. */
function SheetGuide({ counts, asIfLive }: { readonly counts: boolean; readonly asIfLive: boolean }) {
  return (
    <>
      <h2>How it is read</h2>
      <p className={sheet.sub}>
        {counts
          ? "A cell counts the people who open it; the bar is the week of whoever opens it longest:"
          : "A cell gives the hours of an ordinary week; the bar is that week:"}{" "}
        solid inside business hours, hatched outside. Who opens nothing has no row, and what nobody opens has no column;{" "}
        {asIfLive ? "what opens only if cards were made active stands in brackets, with a dashed frame" : "cards that are not live are not counted"}. People who
        open the same stand together.
      </p>
      <p className={sheet.sub}>Choose a cell with the pointer or the arrow keys: here stands why it opens.</p>
    </>
  );
}

/** What the margin says of the chosen cell: why it opens, or, of several together, how many and what lists them. */
function CellMargin({
  inquiry,
  cell,
  row,
  column,
}: {
  readonly inquiry: Inquiry;
  readonly cell: WrittenCell | undefined;
  readonly row: SheetHead | undefined;
  readonly column: SheetHead | undefined;
}) {
  const asked: Inquiry | undefined = row &&
    column && {
      ...inquiry,
      form: undefined,
      fold: undefined,
      ...(row.kind === "cardholder" || row.kind === "credential" || row.kind === "group" ? { who: { kind: row.kind, id: row.id } } : {}),
      ...(column.kind === "door" || column.kind === "area" ? { where: { kind: column.kind, id: column.id } } : {}),
    };
  const isPair = asked !== undefined && column?.kind === "door" && (row?.kind === "cardholder" || row?.kind === "credential");
  const trace = useFetched<Trace>(isPair && cell ? `/inquiry/trace?${questionQuery(asked)}` : undefined);
  if (!asked || !row || !column) return <SheetGuide counts={inquiry.fold === "people" || inquiry.fold === "both"} asIfLive={inquiry.asIfLive === true} />;
  if (isPair && cell && trace.state === "there")
    return (
      <>
        <TraceMargin trace={trace.value} asked={asked} rules={[]} />
        <p>
          <a href={questionAddress(asked)}>The verdict on a page of its own</a>
        </p>
      </>
    );
  if (isPair && cell)
    return (
      <p className={inquiryClasses.waiting}>{trace.state === "failed" ? "Why it opens could not be worked out. Load the page again." : "Working out why …"}</p>
    );
  return (
    <>
      <h2>{row.name}</h2>
      <p>{cellWords(cell, row, column)}.</p>
      {row.kind !== "none" && column.kind !== "none" && (
        <p>
          <Link href={questionAddress(asked)}>{isPair ? "Why it does not open" : "Ask about these, with all groups and areas below them"}</Link>
        </p>
      )}
    </>
  );
}

/** People by doors: how many hours of an ordinary week each opens each, and how much of it out of hours. */
export function SheetView({
  asked,
  first,
  reference,
  keep,
}: {
  readonly asked: AskedQuestion;
  readonly first: SheetOfPart;
  readonly reference: ReactNode;
  readonly keep: KeepAction;
}) {
  const inquiry = answeredQuestion(asked);
  const { rowCount, columnCount, askedHolders } = first;
  const scroller = useRef<HTMLDivElement>(null);
  const [chosen, choose] = useState<Place>();
  // eslint-disable-next-line react-hooks/incompatible-library -- the compiler that the rule speaks of is not in use
  const rows = useVirtualizer({
    count: rowCount,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 6,
    scrollPaddingStart: headHeight,
    initialRect: firstView,
  });
  const columns = useVirtualizer({
    count: columnCount,
    horizontal: true,
    getScrollElement: () => scroller.current,
    estimateSize: () => columnWidth,
    overscan: 4,
    scrollPaddingStart: headWidth,
    initialRect: firstView,
  });
  const [shownRows, shownColumns] = [rows.getVirtualItems(), columns.getVirtualItems()];
  const wanted = shownRows.flatMap(({ index: row }) => shownColumns.map(({ index: column }) => ({ row, column })));
  const parts = useParts(inquiry, first, wanted);
  const move = (event: KeyboardEvent<HTMLDivElement>): void => {
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [15, 0],
      PageUp: [-15, 0],
    };
    const step = steps[event.key];
    if (!step || rowCount === 0) return;
    event.preventDefault();
    const from = chosen ?? { row: -step[0], column: -step[1] };
    const to = { row: Math.min(rowCount - 1, Math.max(0, from.row + step[0])), column: Math.min(columnCount - 1, Math.max(0, from.column + step[1])) };
    choose(to);
    rows.scrollToIndex(to.row);
    columns.scrollToIndex(to.column);
  };
  const idOf = ({ row, column }: Place): string => `cell-${row}-${column}`;
  const what = `${plural(rowCount, inquiry.fold === "people" || inquiry.fold === "both" ? "department" : "holder", inquiry.fold === "people" || inquiry.fold === "both" ? "departments" : "holders")}`;
  const doors = plural(
    columnCount,
    inquiry.fold === "doors" || inquiry.fold === "both" ? "area" : "door",
    inquiry.fold === "doors" || inquiry.fold === "both" ? "areas" : "doors",
  );
  return (
    <Sheet
      question={<QuestionLine key={questionQuery(inquiry)} asked={asked} />}
      margin={
        <CellMargin
          inquiry={inquiry}
          cell={chosen && parts.cell(chosen)}
          row={chosen && parts.rowHead(chosen.row)}
          column={chosen && parts.columnHead(chosen.column)}
        />
      }
    >
      <Heading
        result={
          rowCount === 0
            ? `Nobody opens anything of it${timeClause(inquiry)}`
            : `${capital(what)} ${inquiry.asIfLive ? "would open" : rowCount === 1 ? "opens" : "open"} something of ${doors}${timeClause(inquiry)}${inquiry.asIfLive ? " if every card were live" : ""}`
        }
        reference={reference}
        lead={`${askedHolders.toLocaleString("en-GB")} people and cards were asked about. ${usesWords(first.uses)}`}
      />
      <Remembered asked={asked} />
      <PrintedQuestion asked={asked} />
      <AnswerForms asked={asked} keep={keep} />
      <Folds inquiry={inquiry} />
      {rowCount > 0 && (
        <div
          ref={scroller}
          className={classes.scroller}
          role="grid"
          aria-label="People by doors"
          aria-rowcount={rowCount + 1}
          aria-colcount={columnCount + 1}
          aria-activedescendant={chosen && idOf(chosen)}
          tabIndex={0}
          onKeyDown={move}
        >
          <div className={classes.whole} role="rowgroup" style={{ height: rows.getTotalSize() + headHeight, width: columns.getTotalSize() + headWidth }}>
            <div className={classes.heads} role="row" style={{ height: headHeight }}>
              <span className={classes.corner} role="columnheader" style={{ width: headWidth, height: headHeight }}>
                Who
              </span>
              {shownColumns.map(({ index, start }) => (
                <span
                  key={index}
                  className={classes.columnHead}
                  role="columnheader"
                  style={{ left: start + headWidth, width: columnWidth, height: headHeight }}
                  title={parts.columnHead(index)?.detail}
                >
                  <span>{parts.columnHead(index)?.name}</span>
                </span>
              ))}
            </div>
            {shownRows.map(({ index: row, start }) => {
              const head = parts.rowHead(row);
              return (
                <div
                  key={row}
                  className={classes.row}
                  role="row"
                  aria-rowindex={row + 2}
                  style={{ top: start + headHeight, height: rowHeight, width: columns.getTotalSize() + headWidth }}
                >
                  <span className={classes.rowHead} role="rowheader" style={{ width: headWidth }} title={head?.detail}>
                    <b>{head?.name ?? "…"}</b>
                    <small>{head?.detail}</small>
                  </span>
                  {shownColumns.map(({ index: column, start: left }) => {
                    const cell = parts.cell({ row, column });
                    const isChosen = chosen?.row === row && chosen.column === column;
                    const words = cellWords(cell, head, parts.columnHead(column));
                    return (
                      <span
                        key={column}
                        id={idOf({ row, column })}
                        className={`${!cell ? classes.blank : cell[3] === cell[2] ? classes.asleep : classes.cell} ${isChosen ? classes.chosen : ""}`}
                        role="gridcell"
                        aria-selected={isChosen}
                        aria-label={words}
                        title={words}
                        style={{ left: left + headWidth, width: columnWidth }}
                        onClick={() => choose({ row, column })}
                      >
                        <Cell cell={cell} row={head} />
                      </span>
                    );
                  })}
                </div>
              );
            })}
          </div>
        </div>
      )}
      {parts.hasFailed && (
        <p role="alert" className={sheet.grave}>
          A part of the sheet could not be had. Load the page again.
        </p>
      )}
    </Sheet>
  );
}
