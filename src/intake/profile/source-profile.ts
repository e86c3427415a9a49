import type { ListKey } from "@/core/facility/document";
import type { MissingMeans } from "@/intake/formats/tables/settle-bundle";
import type { TextForm } from "@/intake/formats/tables/text-form";

/**
 * How a source writes things: `nomade.profile/1`, described in `docs/profiles.md`. It is data: kept with the source, exported, taken in again, and held
 * against every file that the source sends.
 */
export interface SourceProfile {
  readonly format: "nomade.profile/1";
  /** What the register is called and which zone it keeps, where no register is there yet and no table says it. */
  readonly facility?: { readonly name?: string; readonly timeZone?: string };
  /** Where the moment for which the files speak comes from; absent: a table says it, or it is typed with each intake. */
  readonly asOf?: "file-name";
  readonly tables: readonly TableProfile[];
  /** By list the fields by which an object is known again, in another row, another table and the register; absent: its id. */
  readonly keys?: Readonly<Partial<Record<ListKey, readonly string[]>>>;
  /** Lists of which an object that a cell names and nothing brings is made from its name, with what it gets beside the name. */
  readonly madeFromNames?: Readonly<Partial<Record<ListKey, MadeFromNames>>>;
  /** By list what it means that an object of the register is missing from it; absent: it is gone. */
  readonly missing?: Readonly<Partial<Record<ListKey, MissingMeans>>>;
  readonly calendars?: Readonly<Record<string, CalendarProfile>>;
}

export interface MadeFromNames {
  /** What each of them gets: `{ "kind": "department" }`. */
  readonly with?: Readonly<Record<string, string>>;
  /** Ids of names for which the one that would be made of the name will not do. */
  readonly ids?: Readonly<Record<string, string>>;
}

/** How a calendar's file is read: the calendar that it goes to, and what its events make of their dates. */
export interface CalendarProfile {
  readonly calendar?: string;
  readonly dayTypes?: Readonly<Record<string, string>>;
}

export interface TableProfile {
  /** The file or sheet as it came, without what follows the last dot. A file that is called otherwise is known by its headers. */
  readonly name: string;
  readonly headers: readonly string[];
  readonly text?: TextForm;
  /** Rows of which the rest is read; absent: all. */
  readonly only?: Condition;
  /** Columns that become rows: their heading and cell are read as the columns `(heading)` and `(cell)`. */
  readonly unfold?: readonly UnfoldedColumns[];
  /** Columns that are left aside; every other has to be used. Of a table that makes nothing: that it is left aside as a whole. */
  readonly aside?: readonly string[];
  /** Columns that the table may come without: what is read from them is then not said. */
  readonly mayLack?: readonly string[];
  readonly makes: readonly MadeObject[];
}

/** One or more columns that stand under one heading; the cells of several are joined by a dash. */
export interface UnfoldedColumns {
  readonly heading: string;
  readonly columns: readonly string[];
}

export const headingColumn = "(heading)";
export const cellColumn = "(cell)";

/** By each value of a column, whether it holds; a value that is not named refuses its row. */
export interface Condition {
  readonly column: string;
  readonly values: Readonly<Record<string, boolean>>;
}

/** An object, or a part of one, that each row makes. */
export interface MadeObject {
  /** A table of the documentation: `cardholders`, `schedule-hours`, `events`. */
  readonly table: string;
  readonly when?: Condition;
  readonly fields: Readonly<Record<string, FieldSource>>;
}

/** Where a field comes from, and how it is written there. Steps are taken in the order in which they stand here. */
export interface FieldSource {
  readonly columns?: readonly string[];
  /** What stands between several columns that are joined; a space where it is absent. */
  readonly join?: string;
  readonly constant?: string;
  /** What stands between several values in one cell, empty for line breaks: each makes an object, or is one of a list. */
  readonly split?: string;
  readonly part?: Part;
  /** "Last, First" is read as "First Last". */
  readonly turned?: true;
  readonly case?: "lower" | "upper";
  /** What an empty cell stands for. */
  readonly otherwise?: string;
  /** By each value what it is here; null for nothing. A value of a closed list that is neither named nor a value here refuses its row. */
  readonly values?: Readonly<Record<string, string | null>>;
  /** The field of another list's object that the cell names; absent: what that list is known by. */
  readonly by?: string;
  readonly moment?: MomentForm;
  readonly hours?: HoursForm;
  /** The number of a Monday and of a Sunday, where weekdays are numbers. */
  readonly weekdays?: { readonly monday: number; readonly sunday: number };
  readonly number?: NumberForm;
  /** PINs that mean that there is none. */
  readonly noPin?: readonly string[];
}

/** `hexadecimal` digits; facility code and number in one text with a sign between; both in one number of the open 26-bit format. */
export type NumberForm = "hexadecimal" | "code-and-number" | "26-bit";

/** A part of a text: the nth between delimiters (from the end where negative), characters from and to, or what stands at `{part}` of a pattern. */
export type Part = { readonly delimiter: string; readonly nth: number } | { readonly from: number; readonly to: number } | { readonly pattern: string };

export const momentForms = ["iso", "dmy", "mdy", "ymd", "compact", "epoch-seconds", "epoch-milliseconds", "serial-1900", "serial-1904"] as const;
export type MomentFormName = (typeof momentForms)[number];

export interface MomentForm {
  /** The forms of the column; the first that fits a text as a whole is taken. */
  readonly forms: readonly MomentFormName[];
  /** The zone of times that name none; absent: that of the facility. */
  readonly zone?: string;
  /** Years of two digits below this are of 2000, others of 1900; absent: years have four. */
  readonly pivot?: number;
  /** What midnight means in a column that has times: the date, or the instant. */
  readonly midnight?: "date" | "instant";
  /** Texts that mean that there is no such moment; and the year from which on every date does. */
  readonly never?: readonly string[];
  readonly neverFrom?: number;
}

export interface HoursForm {
  /** The last minute is named as the end: 00:00–23:59 is the whole day. */
  readonly endsIncluded?: true;
  /** What an interval that ends before it begins means; by its text where some mean one thing and some the other. */
  readonly backwards?: "overnight" | "never";
  readonly backwardTexts?: Readonly<Record<string, "overnight" | "never">>;
  /** Texts for the whole day, and for no time at all. */
  readonly allDay?: readonly string[];
  readonly never?: readonly string[];
}
