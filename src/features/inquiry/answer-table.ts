import type { Answer, AnswerRow, Inquiry } from "@/operations/inquiry/inquiry";
import type { SheetOfPart, WrittenCell } from "@/operations/inquiry/lay-out-sheet";
import { formatMinute } from "@/core/time/instant";

/** A cell of a table that is handed out. */
type Cell = string | number | undefined;

export interface AnswerTable {
  readonly columns: readonly { readonly title: string; readonly width?: number }[];
  readonly rows: readonly (readonly Cell[])[];
}

const hours = (minutes: number): number => Math.round((minutes / 60) * 100) / 100;

const state = ({ asleep }: AnswerRow): string => (asleep ? "only if made active" : "opens");

const cellsOfUse = ({ use }: AnswerRow): readonly Cell[] => [use?.count, use?.last === undefined ? undefined : formatMinute(use.last)];

const commonColumns = [
  { title: "state", width: 18 },
  { title: "hours a week" },
  { title: "of these out of hours" },
  { title: "in words", width: 60 },
  { title: "uses in the events" },
  { title: "last use", width: 22 },
];
const commonCells = (row: AnswerRow): readonly Cell[] => [state(row), hours(row.weekMinutes), hours(row.outOfHoursMinutes), row.words, ...cellsOfUse(row)];

/** An answer in rows as a table: names with the ids behind them, hours as numbers. */
export function answerTable({ by, rows, asleep }: Answer): AnswerTable {
  const all = [...rows, ...asleep];
  if (by === "people")
    return {
      columns: [
        { title: "who", width: 30 },
        { title: "kind" },
        { title: "id" },
        { title: "of", width: 26 },
        { title: "doors" },
        { title: "most sensitive door", width: 30 },
        { title: "door id" },
        ...commonColumns,
      ],
      rows: all.map((row) => [
        row.holder.name,
        row.holder.kind,
        row.holder.id,
        row.holder.detail,
        row.furtherDoors + 1,
        row.door.name,
        row.door.id,
        ...commonCells(row),
      ]),
    };
  return {
    columns: [
      { title: "door", width: 30 },
      { title: "door id" },
      { title: "area", width: 24 },
      { title: "site", width: 20 },
      { title: "zone", width: 18 },
      { title: "opened by" },
      ...commonColumns,
    ],
    rows: all.map((row) => [row.door.name, row.door.id, row.door.area, row.door.site, row.door.zone, row.furtherHolders + 1, ...commonCells(row)]),
  };
}

/** A figure of a sheet; in words where it stands for what opens only if cards were made active. */
const cellOf = ([week, , people, asleep]: NonNullable<WrittenCell>, counts: boolean): Cell => {
  const figure = counts ? people : hours(week);
  if (asleep === 0) return figure;
  return asleep === people ? `${figure} only if made active` : `${figure}, of these ${asleep} people only if made active`;
};

/** A sheet of people by doors as a table: hours of an ordinary week in each cell, or how many people where these are taken together; empty for nothing. */
export function sheetTable({ fold }: Pick<Inquiry, "fold">, { rows, columns, cells }: SheetOfPart): AnswerTable {
  const counts = fold === "people" || fold === "both";
  return {
    columns: [
      { title: "who", width: 30 },
      { title: "id" },
      { title: "of", width: 26 },
      ...columns.map(({ name, id }) => ({ title: id === "" ? name : `${name} (${id})` })),
    ],
    rows: rows.map((row, i) => [row.name, row.id, row.detail, ...(cells[i] ?? []).map((cell) => (cell ? cellOf(cell, counts) : undefined))]),
  };
}
