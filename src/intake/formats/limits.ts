/** How much is read of what is brought, so that no file fills memory or disk or holds everything up; beyond each stands a sentence that names it. */
export interface IntakeLimits {
  /** What all files of a delivery may come to unpacked, in bytes, and how many times its packed size one may. */
  readonly unpackedBytes: number;
  readonly swelling: number;
  /** Files in an archive or a folder. */
  readonly members: number;
  /** A workbook is read whole: its bytes, and its sheets. */
  readonly workbookBytes: number;
  readonly sheets: number;
  /** Columns of a table. */
  readonly columns: number;
  /** A calendar: its characters, the entries that its events come to, and the days that its recurrences take to follow. */
  readonly calendarCharacters: number;
  readonly calendarEntries: number;
  readonly calendarDays: number;
}

export const usualLimits: IntakeLimits = {
  unpackedBytes: 4 * 1024 ** 3,
  swelling: 400,
  members: 1000,
  workbookBytes: 256 * 1024 ** 2,
  sheets: 200,
  columns: 4000,
  calendarCharacters: 20_000_000,
  calendarEntries: 50_000,
  calendarDays: 2_000_000,
};
