"use client";

import Link from "next/link";
import { useMemo } from "react";
import type { ReactNode } from "react";
import type { InquiryCharts, SensitivityOfReach } from "@/operations/inquiry/chart-inquiry";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { Chart } from "@/ui/chart";
import { ChartTable } from "@/ui/chart-table";
import { useAllFetched } from "@/ui/fetched";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { capital, hoursWords, plural, shareWords } from "../words/numbers";
import { answeredQuestion, questionAddress, questionQuery } from "./address";
import { timeClause } from "./answer-words";
import classes from "./inquiry.module.css";
import { modesClause } from "./modes";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";

const days = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const departmentsDrawn = 14;
const hoursOfDay = Array.from({ length: 24 }, (_, hour) => String(hour).padStart(2, "0"));

/** Room for a bar chart with so many bars. */
const heightOf = (bars: number): number => 60 + 24 * Math.max(2, bars);

/** Out of hours is hatched, wherever it is drawn. */
const hatched = { pattern: { shape: "/", solidity: 0.35, size: 6 } };

const cut = (words: string): string => (words.length > 30 ? `${words.slice(0, 29)}…` : words);

function ByHour({ byHour }: { readonly byHour: readonly number[] }) {
  const data = useMemo(
    () => [
      {
        type: "scatter",
        mode: "lines",
        line: { shape: "hv" },
        fill: "tozeroy",
        x: byHour.map((_, hour) => hour),
        y: byHour,
        hovertemplate: "%{y}<extra></extra>",
      },
    ],
    [byHour],
  );
  const layout = useMemo(() => ({ xaxis: { tickvals: days.map((_, day) => day * 24), ticktext: days, range: [0, 168] }, yaxis: { rangemode: "tozero" } }), []);
  return (
    <Chart title="How many open something, by the hour of an ordinary week" data={data} layout={layout} height={240}>
      <ChartTable
        head={["Hour", ...days]}
        rows={hoursOfDay.map((hour, i) => [
          `${hour}–${String(i + 1).padStart(2, "0")}`,
          ...days.map((_, day) => (byHour[day * 24 + i] ?? 0).toLocaleString("en-GB")),
        ])}
      />
    </Chart>
  );
}

function ByDepartment({
  departments,
  more,
  inquiry,
}: {
  readonly departments: InquiryCharts["departments"];
  readonly more: number;
  readonly inquiry: Inquiry;
}) {
  const drawn = departments.filter(({ outsideMinutes }) => outsideMinutes > 0).slice(0, departmentsDrawn);
  const data = useMemo(() => {
    const names = drawn.map(({ name }) => cut(name)).reverse();
    const hours = (minutes: readonly number[]): number[] => minutes.map((one) => Math.round(one / 60)).reverse();
    return [
      { type: "bar", orientation: "h", name: "in business hours", y: names, x: hours(drawn.map(({ minutes, outsideMinutes }) => minutes - outsideMinutes)) },
      {
        type: "bar",
        orientation: "h",
        name: "out of hours",
        y: names,
        x: hours(drawn.map(({ outsideMinutes }) => outsideMinutes)),
        ink: "--odd",
        marker: hatched,
      },
    ];
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is drawn is made from the departments
  }, [departments]);
  const layout = useMemo(
    () => ({
      barmode: "stack",
      legend: { orientation: "h", y: 1.1, traceorder: "normal" },
      margin: { l: 210, r: 12, t: 8, b: 36 },
      xaxis: { title: { text: "hours a week, of all together" } },
    }),
    [],
  );
  return (
    <Chart title="Out of hours, by department" data={data} layout={layout} height={heightOf(drawn.length)}>
      <ChartTable
        head={["Department", "People", "open something", "of these out of hours", "Hours a week", "out of hours"]}
        rows={departments.map(({ id, name, people, opening, outOfHours, minutes, outsideMinutes }) => [
          id === undefined ? (
            name
          ) : (
            <Link key={id} href={questionAddress({ ...inquiry, who: { kind: "group", id }, form: undefined, fold: undefined })}>
              {name}
            </Link>
          ),
          people.toLocaleString("en-GB"),
          opening.toLocaleString("en-GB"),
          outOfHours.toLocaleString("en-GB"),
          hoursWords(minutes),
          shareWords(outsideMinutes, minutes),
        ])}
      />
      {more > 0 && <p className={sheet.sub}>{more.toLocaleString("en-GB")} departments more, with fewer hours out of hours.</p>}
    </Chart>
  );
}

function UseAgainstGrant({
  use,
  more,
  inquiry,
  daysOfUse,
}: {
  readonly use: InquiryCharts["use"];
  readonly more: number;
  readonly inquiry: Inquiry;
  readonly daysOfUse: number;
}) {
  const data = useMemo(() => {
    const names = use.map(({ door }) => cut(door.name)).reverse();
    return [
      // The first of each pair is drawn below the second. Where no event tells of a site nothing is drawn, not a bar of none.
      {
        type: "bar",
        orientation: "h",
        name: `opened it in ${daysOfUse} days`,
        y: names,
        x: use.map(({ used, isTold }) => (isTold ? used : null)).reverse(),
        ink: "--accent",
      },
      { type: "bar", orientation: "h", name: "can open it", y: names, x: use.map(({ open }) => open).reverse(), ink: "--rule" },
    ];
  }, [use, daysOfUse]);
  const layout = useMemo(
    () => ({ barmode: "group", legend: { orientation: "h", y: 1.06, traceorder: "reversed" }, margin: { l: 210, r: 12, t: 8, b: 36 } }),
    [],
  );
  return (
    <Chart title="Use against grant, at the doors that most open" data={data} layout={layout} height={heightOf(1.6 * use.length)}>
      <ChartTable
        head={["Door", "can open it", `opened it in ${daysOfUse} days`, "share"]}
        rows={use.map(({ door, open, used, isTold }) => [
          <Link key={door.id} href={questionAddress({ ...inquiry, where: { kind: "door", id: door.id }, form: undefined, fold: undefined })}>
            {door.name}
          </Link>,
          open.toLocaleString("en-GB"),
          isTold ? used.toLocaleString("en-GB") : "no events of its site",
          isTold ? shareWords(used, open) : "–",
        ])}
      />
      {more > 0 && <p className={sheet.sub}>{more.toLocaleString("en-GB")} doors more, which fewer open.</p>}
    </Chart>
  );
}

function BySensitivity({ snapshots }: { readonly snapshots: readonly number[] }) {
  const fetched = useAllFetched<SensitivityOfReach>(snapshots.map((id) => `/inquiry/charts/sensitivity?snapshot=${id}`));
  const there = fetched.flatMap((one) => (one.state === "there" ? [one.value] : []));
  const key = there.map(({ snapshot }) => snapshot).join();
  const data = useMemo(
    () =>
      [3, 2, 1, 0].map((sensitivity) => ({
        type: "scatter",
        mode: "lines+markers",
        ink: ["--ink-3", "--accent", "--odd", "--grave"][sensitivity],
        line: { dash: ["dot", "dash", "dashdot", "solid"][sensitivity] },
        marker: { symbol: ["circle-open", "square", "diamond", "circle"][sensitivity], size: 8 },
        name: `sensitivity ${sensitivity}`,
        x: there.map(({ snapshot, asOf }) => `${snapshot}, ${asOf.slice(0, 10)}`),
        y: there.map(({ holders }) => holders[sensitivity] ?? 0),
      })),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what came is known by the snapshots that it is of
    [key],
  );
  const layout = useMemo(() => ({ xaxis: { type: "category" }, yaxis: { rangemode: "tozero" } }), []);
  const failed = fetched.filter(({ state }) => state === "failed").length;
  return (
    <Chart title="How many of everybody reach doors of each sensitivity, by snapshot" data={data} layout={layout} height={300}>
      <ChartTable
        head={["Snapshot", "sensitivity 0", "1", "2", "3"]}
        rows={there.map(({ snapshot, asOf, holders }) => [`${snapshot}, ${asOf.slice(0, 10)}`, ...holders.map((count) => count.toLocaleString("en-GB"))])}
      />
      {failed > 0 && <p role="alert">{capital(plural(failed, "snapshot", "snapshots"))} could not be read.</p>}
    </Chart>
  );
}

/** What a question about several people comes to at a glance, each chart with its table. */
export function ChartsView({
  asked,
  charts,
  snapshots,
  reference,
}: {
  readonly asked: AskedQuestion;
  readonly charts: InquiryCharts;
  /** The last snapshots, the earliest first. */
  readonly snapshots: readonly number[];
  readonly reference: ReactNode;
}) {
  const inquiry = answeredQuestion(asked);
  const { names, askedHolders, byHour, departments, moreDepartments, use, daysOfUse, moreDoors } = charts;
  const who = names.who ?? "Everybody";
  const where = names.where === undefined || names.where === "anything" ? "anything" : names.where;
  return (
    <Sheet question={<QuestionLine key={questionQuery(inquiry)} asked={asked} />}>
      <Heading
        result={`${who} at ${where}, in charts${modesClause(inquiry)}`}
        reference={reference}
        lead={`${askedHolders.toLocaleString("en-GB")} people and cards were asked about. Weeks are ordinary ones, each door on its own site’s clock; use is that of the last ${daysOfUse} days${timeClause(inquiry) === "" ? "" : `, doors are those that open${timeClause(inquiry)}`}.`}
      />
      <nav className={classes.forms} aria-label="Answer as">
        <Link href={questionAddress(inquiry)}>Back to the answer</Link>
      </nav>
      <div className={classes.charts}>
        <ByHour byHour={byHour} />
        <BySensitivity snapshots={snapshots} />
        <ByDepartment departments={departments} more={moreDepartments} inquiry={inquiry} />
        <UseAgainstGrant use={use} more={moreDoors} inquiry={inquiry} daysOfUse={daysOfUse} />
      </div>
    </Sheet>
  );
}
