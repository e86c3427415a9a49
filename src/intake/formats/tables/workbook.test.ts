import { describe, expect, it } from "@jest/globals";
import { utils, write } from "@e965/xlsx";
import type { BookType } from "@e965/xlsx";
import fc from "fast-check";
import writeExcelFile from "write-excel-file/node";
import { verraneInstitute } from "~/demo/institute";
import { facilityDraft } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { usualLimits } from "@/intake/formats/limits";
import type { FacilityDocument } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import { readFacility } from "../facility/read-facility";
import { BundleError } from "./bundle-error";
import { readBundle } from "./read-bundle";
import type { BundleFile } from "./bundle-file";
import { cellsOfTable } from "./read-table";
import { settleBundle } from "./settle-bundle";
import { workbookFiles, writeWorkbook } from "./workbook";
import { tablesOf } from "./write-bundle";

function normalOf(draft: FacilityDocument): Facility {
  const read = readFacility(JSON.stringify(draft));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return normalFacility(read.value.facility);
}

const asOf = "2026-03-01T00:00:00Z";
const settled = async (bytes: Uint8Array) => settleBundle(await readBundle(workbookFiles(bytes, usualLimits)), undefined, asOf);
const backFrom = async (facility: Facility): Promise<string> => {
  const { refused, checked } = await settled(writeWorkbook(tablesOf(facility)));
  expect(refused).toEqual([]);
  return checked ? normalText(normalFacility(checked.facility)) : "";
};
const cellsOf = async (file: BundleFile | undefined): Promise<string[][]> => {
  const rows: string[][] = [];
  if (file) for await (const cells of cellsOfTable(file)) rows.push([...cells]);
  return rows;
};
/** A workbook as another program writes it, of typed cells. */
const bookOf = (sheets: Readonly<Record<string, readonly (readonly unknown[])[]>>, type: BookType = "xlsx", hidden: readonly string[] = []): Uint8Array => {
  const book = utils.book_new();
  for (const [name, rows] of Object.entries(sheets)) utils.book_append_sheet(book, utils.aoa_to_sheet(rows as unknown[][], { UTC: true }), name);
  book.Workbook = { Sheets: book.SheetNames.map((name) => ({ name, Hidden: hidden.includes(name) ? 1 : 0 })) };
  return new Uint8Array(write(book, { type: "buffer", bookType: type, compression: true, cellDates: false }) as Buffer);
};

describe("a workbook", () => {
  it("reads back to the same document and hash, for any document and for the demo's", async () => {
    await fc.assert(
      fc.asyncProperty(arbitraryFacility, async (draft) => {
        const normal = normalOf(draft);
        expect(await backFrom(normal)).toBe(normalText(normal));
      }),
      { numRuns: 15 },
    );
    const demo = normalOf(verraneInstitute({ cardholders: 120, doors: 95, seed: 7 }));
    expect(await backFrom(demo)).toBe(normalText(demo));
  });

  it("is read as an independent writer has it: texts, numbers, dates, truth and empty cells, of several sheets", async () => {
    // write-excel-file, a writer of its own that shares nothing with the reader.
    const bytes = await writeExcelFile([
      {
        sheet: "People",
        data: [
          [
            { value: "Name" },
            { value: "Number", type: String },
            { value: "From", type: String },
            { value: "Active", type: String },
            { value: "Left", type: String },
          ],
          [
            { value: "Íris & <Co> “x”", type: String },
            { value: 4711, type: Number },
            { value: new Date("2026-03-02T00:00:00Z"), type: Date, format: "dd/mm/yyyy" },
            { value: true, type: Boolean },
            null,
          ],
          [
            { value: "0042", type: String },
            { value: 0.5, type: Number },
            { value: new Date("1899-12-30T18:30:00Z"), type: Date, format: "hh:mm" },
            { value: false, type: Boolean },
            { value: " kept ", type: String },
          ],
        ],
      },
      { sheet: "Doors", data: [[{ value: "Door" }], [{ value: "Gate\n2", type: String }]] },
    ]).toBuffer();
    const [people, doors] = workbookFiles(new Uint8Array(bytes), usualLimits);
    expect(await cellsOf(people)).toEqual([
      ["Name", "Number", "From", "Active", "Left"],
      ["Íris & <Co> “x”", "4711", "2026-03-02", "true", ""],
      ["0042", "0.5", "18:30", "false", " kept "],
    ]);
    expect(await cellsOf(doors)).toEqual([["Door"], ["Gate\n2"]]);
  });

  it("holds whatever stands in a text, control characters, formulas, and what only looks like the format's own signs", async () => {
    const hostile = fc.oneof(
      fc.string({ minLength: 1, unit: "grapheme" }).filter((text) => !text.includes("\r\n")),
      fc.string({ minLength: 1, unit: "binary" }).filter((text) => !/[\ud800-\udfff\uFFFE\uFFFF]|\r\n/.test(text)),
      fc.constantFrom("=1+1", "'x", "\u0001", "a\nb", "a\rb", "\t", " x ", "0123", "1e5", "TRUE", "2026-01-01", "__proto__"),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(hostile, { minLength: 1, maxLength: 6 }), async (texts) => {
        const normal = normalOf(facilityDraft({ cardholders: texts.map((name, i) => ({ id: `p${i}`, name, status: "active" as const })), credentials: [] }));
        expect(await backFrom(normal)).toBe(normalText(normal));
      }),
      { numRuns: 60 },
    );
  });

  it.each(["xlsx", "ods", "xls"] as const)("is read as .%s by the types of its cells", async (type) => {
    const date = (text: string): Date => new Date(`${text}Z`);
    const rows = [
      ["text", "number", "flag", "date", "moment"],
      ["0123", 123, true, date("2026-05-01T00:00:00"), date("2026-05-01T18:30:00")],
      ["x", -2.5, false, date("9999-12-31T00:00:00"), date("1950-02-28T23:59:00")],
    ];
    const [file] = workbookFiles(bookOf({ Cards: rows }, type), usualLimits);
    expect(file?.name).toBe("Cards.csv");
    expect(await cellsOf(file)).toEqual([
      ["text", "number", "flag", "date", "moment"],
      ["0123", "123", "true", "2026-05-01", "2026-05-01T18:30:00"],
      ["x", "-2.5", "false", "9999-12-31", "1950-02-28T23:59:00"],
    ]);
  });

  it("keeps the zeros of a number that is written with them, and refuses one of which a spreadsheet has lost digits", async () => {
    const sheet = utils.aoa_to_sheet([["number"], [123]]);
    const cell = sheet.A2 as { z?: string };
    cell.z = "00000";
    const book = utils.book_new();
    utils.book_append_sheet(book, sheet, "Cards");
    const bytes = new Uint8Array(write(book, { type: "buffer", bookType: "xlsx" }) as Buffer);
    expect(await cellsOf(workbookFiles(bytes, usualLimits)[0])).toEqual([["number"], ["00123"]]);
    expect(() => workbookFiles(bookOf({ Cards: [["number"], [1234567890123456]] }), usualLimits)).toThrow(/Cards!A2 is a number of more than 15 digits/);
  });

  it("tells of a refused row by its sheet and its row there, whatever stands above it and within cells", async () => {
    const { refused } = await settled(
      bookOf({
        facility: [
          ["name", "timeZone", "asOf"],
          ["Test", "Europe/Vienna", asOf],
        ],
        sites: [[], [], ["id", "name", "timeZone"], ["garden", "Garden,\nthe large one", "Europe/Vienna"], [], ["island", "Island", "Nowhere/Else"]],
        areas: [
          ["id", "name", "site", "sensitivity"],
          ["a", "Area", "garden", "many"],
        ],
      }),
    );
    expect(refused.map(({ file, line, column }) => [file, line, column])).toEqual(expect.arrayContaining([["areas.csv", 2, "sensitivity"]]));
    expect(refused.some(({ file, line }) => file === "sites.csv" && line === 6)).toBe(true);
  });

  it("leaves hidden sheets aside and names them, takes numbered sheets for one table, and refuses by name what it cannot hold or open", async () => {
    const sheets = {
      sites: [
        ["id", "name"],
        ["a", "A"],
      ],
      "sites (2)": [
        ["id", "name"],
        ["b", "B"],
      ],
      "sites (3)": [["other"], ["c"]],
      secret: [["id"], ["x"]],
      empty: [],
    };
    const files = workbookFiles(bookOf(sheets, "xlsx", ["secret"]), usualLimits);
    expect(files.map(({ name, isHidden }) => [name, isHidden ?? false])).toEqual([
      ["sites.csv", false],
      ["sites (3).csv", false],
      ["secret.csv", true],
    ]);
    expect(await cellsOf(files[0])).toEqual([
      ["id", "name"],
      ["a", "A"],
      ["b", "B"],
    ]);
    expect([1, 2, 3].map((record) => files[0]?.rowOf?.(record))).toEqual([1, 2, 2]);
    expect(() => workbookFiles(bookOf({ empty: [] }), usualLimits)).toThrow(/no sheet with anything in it/);
    expect(() => workbookFiles(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0]), usualLimits)).toThrow(BundleError);
    const long = normalOf(facilityDraft({ cardholders: [{ id: "p", name: "n".repeat(32_768), status: "active" }], credentials: [] }));
    expect(() => writeWorkbook(tablesOf(long))).toThrow(/cardholders, name of p has 32,768 characters/);
    for (const name of ["_x0041_", "a_x005F_x0041_b", "\uFFFE", "a\r\nb"]) {
      const odd = normalOf(facilityDraft({ cardholders: [{ id: "p", name, status: "active" }], credentials: [] }));
      expect(() => writeWorkbook(tablesOf(odd))).toThrow(/does not keep as it is/);
    }
  });
});
