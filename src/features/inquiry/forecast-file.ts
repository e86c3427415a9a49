import type { ToldDates, ToldForecast, ToldReach } from "@/operations/inquiry/show-forecast";
import type { AnswerTable } from "./answer-table";

type Row = AnswerTable["rows"][number];

const reachRow = (date: string, what: string, reach: ToldReach | undefined): readonly Row[] =>
  reach ? [[date, date, what, "holders and doors", undefined, reach.names.join("; "), undefined, reach.holders, reach.doors]] : [];

const dateRow = (what: string, one: ToldDates): Row => [
  one.from,
  one.to,
  what,
  one.dayType,
  undefined,
  one.name,
  one.site,
  one.holdersLess + one.holdersMore,
  one.doorsLessCount + one.doorsMoreCount,
];

/** The forecast as a table: a row for each thing that begins or ends, for what is opened for the last or first time, and for each day of a calendar. */
export const forecastTable = ({ byDate, dates, missing }: ToldForecast): AnswerTable => ({
  columns: [
    { title: "from" },
    { title: "to" },
    { title: "what" },
    { title: "kind" },
    { title: "id" },
    { title: "name", width: 40 },
    { title: "of, or site", width: 30 },
    { title: "holders concerned" },
    { title: "doors concerned" },
  ],
  rows: [
    ...byDate.flatMap(({ date, comes, lost, gained }): readonly Row[] => [
      ...comes.flatMap(({ change, list, items }) =>
        items.map(({ id, name, of, isBlock }): Row => [date, date, change, isBlock ? `${list}, a block` : list, id, name, of, undefined, undefined]),
      ),
      ...reachRow(date, "opened for the last time", lost),
      ...reachRow(date, "opened for the first time", gained),
    ]),
    ...dates.map((one) => dateRow("day of a calendar", one)),
    ...missing.map((one) => dateRow(`not typed in (${one.calendarName})`, one)),
  ],
});
