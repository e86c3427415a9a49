import { read, utils } from "@e965/xlsx";
import { describe, expect, it } from "@jest/globals";
import { parse } from "csv-parse/sync";
import { csvFile, xlsxFile } from "./table-file";
import type { TableFile } from "./table-file";

const table: TableFile = {
  title: "Findings: [all] / of 2026, in a name far too long",
  columns: [{ title: "Who" }, { title: "Risk" }, { title: "Since" }],
  rows: [
    ['=HYPERLINK("x")', 84, new Date("2026-03-28T12:00:00Z")],
    ["0123", 7, undefined],
    ['a, "b"\r\nc', 0, new Date("1999-12-31T23:59:00Z")],
  ],
};

describe("a table as a file", () => {
  it("is a workbook whose cells have their types, and in which a text is no formula and no number", () => {
    const book = read(xlsxFile(table), { cellDates: true, UTC: true });
    const sheet = book.Sheets[book.SheetNames[0] ?? ""];
    if (!sheet) throw new Error("There is a sheet.");
    const cells = utils.sheet_to_json<unknown[]>(sheet, { header: 1, UTC: true });
    expect(cells[0]).toEqual(["Who", "Risk", "Since"]);
    expect(cells[1]).toEqual(['=HYPERLINK("x")', 84, new Date("2026-03-28T12:00:00Z")]);
    expect(cells[2]?.slice(0, 2)).toEqual(["0123", 7]);
    const cell = (at: string) => sheet[at] as { readonly t: string; readonly f?: string } | undefined;
    expect([cell("A2")?.t, cell("B2")?.t, cell("A3")?.t, cell("A2")?.f]).toEqual(["s", "n", "s", undefined]);
  });

  it("is CSV that reads back (RFC 4180), with formulas marked as texts", () => {
    const rows = parse(csvFile(table), { bom: true });
    expect(rows).toEqual([
      ["Who", "Risk", "Since"],
      [`'=HYPERLINK("x")`, "84", "2026-03-28T12:00:00Z"],
      ["0123", "7", ""],
      ['a, "b"\r\nc', "0", "1999-12-31T23:59:00Z"],
    ]);
  });
});
