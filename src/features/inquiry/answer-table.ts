import type { Answer, AnswerRow, Inquiry, NamedHolder } from "@/operations/inquiry/inquiry";
import type { SheetOfPart, WrittenCell } from "@/operations/inquiry/lay-out-sheet";
import type { PastAnswer } from "@/operations/inquiry/past-inquiry";
import type { YearOfAccess } from "@/core/questions/year-of-access";
import type { CivilDay } from "@/core/time/civil-day";
import { formatCivilDay } from "@/core/time/civil-day";
import { formatMinute } from "@/core/time/instant";
import { totalMinutes } from "@/core/time/intervals";
import { hoursOfDate } from "../words/date-hours";
import { weekdayText } from "../words/times";

/** A cell of a table that is handed out. */
type Cell = string | number | undefined;

export interface AnswerTable {
  readonly columns: readonly { readonly title: string; readonly width?: number }[];
  readonly rows: readonly (readonly Cell[])[];
}

/** Minutes as hours, to two places. */
export const hours = (minutes: number): number => Math.round((minutes / 60) * 100) / 100;

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

/** A person or a card in a table: by name, and by what tells it apart from others of that name. */
export const holderColumns = [{ title: "who", width: 30 }, { title: "kind" }, { title: "id" }, { title: "of", width: 26 }] as const;
export const holderCells = ({ name, kind, id, detail }: NamedHolder): readonly Cell[] => [name, kind, id, detail];

/** An answer in rows as a table: names with the ids behind them, hours as numbers. */
export function answerTable({ by, rows, asleep }: Answer): AnswerTable {
  const all = [...rows, ...asleep];
  if (by === "people")
    return {
      columns: [...holderColumns, { title: "doors" }, { title: "most sensitive door", width: 30 }, { title: "door id" }, ...commonColumns],
      rows: all.map((row) => [...holderCells(row.holder), row.furtherDoors + 1, row.door.name, row.door.id, ...commonCells(row)]),
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
  return asleep === people ? `${figure} only if made active` : `${figure}, of these ${asleep} only if made active`;
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

/** Somebody at a door, date by date: when it opens on the clock of the door's site, for how long, and what is said of the date. */
export function yearTable({ zone, days, named, clockChanges }: YearOfAccess): AnswerTable {
  const said = new Map<CivilDay, string[]>();
  const say = (date: CivilDay, words: string): void => void said.set(date, [...(said.get(date) ?? []), words]);
  for (const { date, name, dayType } of named) say(date, `${name} (${dayType})`);
  for (const { date, minutes } of clockChanges) say(date, `clocks go ${minutes > 0 ? "forward" : "back"} by ${Math.abs(minutes)} minutes`);
  return {
    columns: [
      { title: "date" },
      { title: "weekday" },
      { title: `opens, ${zone}`, width: 30 },
      { title: "hours" },
      { title: "of these out of hours" },
      { title: "said of the date", width: 40 },
    ],
    rows: days.map(({ date, open, outside }) => [
      formatCivilDay(date),
      weekdayText(date),
      hoursOfDate(open),
      hours(totalMinutes(open)),
      hours(totalMinutes(outside)),
      said.get(date)?.join("; "),
    ]),
  };
}

/** Who could, or what was opened, over several snapshots: each with those by which. */
export function pastTable({ by, rows }: PastAnswer): AnswerTable {
  return {
    columns: [
      { title: by === "people" ? "who" : "door", width: 30 },
      { title: "id" },
      { title: "of", width: 30 },
      { title: by === "people" ? "doors, at most" : "people, at most" },
      { title: "by snapshots", width: 24 },
    ],
    rows: rows.map(({ subject, count, snapshots }) => [
      subject.name,
      subject.id,
      "kind" in subject ? subject.detail : [subject.area, subject.site].filter(Boolean).join(", "),
      count,
      snapshots.join(", "),
    ]),
  };
}
