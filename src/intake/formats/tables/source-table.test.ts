import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { runInNewContext } from "node:vm";
import path from "node:path";
import { gzipSync } from "node:zlib";
import { Readable } from "node:stream";
import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import iconv from "iconv-lite";
import { usualLimits } from "@/intake/formats/limits";
import { conceptOf } from "@/intake/profile/header-words";
import { lookAtTable } from "@/intake/profile/looked-at";
import { contentKindOf } from "../content-kind";
import { unpacked } from "./bundle-files";
import type { RefusedRow } from "./bundle-file";
import { openTable, rowsOfTable } from "./source-table";
import type { TextForm } from "./text-form";
import { encodings, textFormOf } from "./text-form";

const file = (name: string, bytes: Buffer | string) => ({ name, open: () => Promise.resolve(Readable.from([Buffer.from(bytes as string)])) });
async function read(bytes: Buffer | string, form?: TextForm) {
  const table = await openTable(file("t.csv", bytes), usualLimits, form, (text) => conceptOf(text) !== undefined);
  const refused: RefusedRow[] = [];
  const rows: (readonly string[])[] = [];
  const lines: number[] = [];
  for await (const { line, cells } of rowsOfTable(table, (row) => refused.push(row))) {
    rows.push(cells);
    lines.push(line);
  }
  return { table, rows, refused, lines };
}

const spectrum = path.dirname(createRequire(path.resolve("package.json")).resolve("csv-spectrum/package.json"));

describe("a table of text", () => {
  it.each(readdirSync(path.join(spectrum, "csvs")))("is read as the published set csv-spectrum says: %s", async (name) => {
    const known = JSON.parse(readFileSync(path.join(spectrum, "json", name.replace(/csv$/, "json")), "utf8")) as
      Readonly<Record<string, string>>[] | Readonly<Record<string, string>>;
    // One of the set has a telephone number in its JSON that is not in its CSV.
    const expected = Array.isArray(known) ? known : [{ ...known, "Contact Phone Number": "2095257564" }];
    const { table, rows, refused } = await read(readFileSync(path.join(spectrum, "csvs", name)), { skip: 0, header: true });
    expect(refused).toEqual([]);
    expect(rows.map((cells) => Object.fromEntries(table.headers.map((header, at) => [header, cells[at]])))).toEqual(expected);
  });

  it("is read as the cases that papaparse publishes with itself say, where each has rows of one width", async () => {
    interface Case {
      readonly description: string;
      readonly input: string;
      readonly config?: { readonly delimiter?: string; readonly newline?: string };
      readonly expected: { readonly data: readonly (readonly string[])[]; readonly errors: readonly unknown[] };
    }
    const source = readFileSync(createRequire(path.resolve("package.json")).resolve("papaparse/tests/test-cases.js"), "utf8");
    const list = /var CORE_PARSER_TESTS = (\[[\s\S]*?\n\]);/.exec(source)?.[1] ?? "[]";
    // The separators that its cases name beside those that a spreadsheet writes.
    const all = runInNewContext(list, { RECORD_SEP: "\u001e", UNIT_SEP: "\u001f" }) as readonly Case[];
    // Ours are cases that read every row by a delimiter alone; rows of another width than the first are refused by us, and blank ones are none.
    const known = new Set(["delimiter", "newline"]);
    const cases = all.filter(
      ({ input, config = {}, expected: { data, errors } }) =>
        Object.keys(config).every((key) => known.has(key)) &&
        (config.newline === undefined || /^\r?\n?$/.test(config.newline)) &&
        typeof (config.delimiter ?? ",") === "string" &&
        (config.delimiter ?? ",").length === 1 &&
        errors.length === 0 &&
        !/^\s*$/.test(input) &&
        data.every((row) => row.length === data[0]?.length),
    );
    expect(cases.length).toBeGreaterThan(25);
    for (const { description, input, config = {}, expected } of cases) {
      const { rows, refused } = await read(input, { header: false, skip: 0, encoding: "utf-8", delimiter: config.delimiter ?? ",", quote: '"' });
      const filled = expected.data.filter((row) => row.some((cell) => cell.trim() !== ""));
      expect([description, rows, refused]).toEqual([description, filled.map((row) => [...row]), []]);
    }
  });

  it("tells the line on which a row begins, whatever stands above it and within cells", async () => {
    const { rows, lines, refused } = await read('name,card\n\n"a\nb",1\r\n"c",2\n\n\nd,3,4\ne,5\n');
    expect(rows).toEqual([
      ["a\nb", "1"],
      ["c", "2"],
      ["e", "5"],
    ]);
    expect(lines).toEqual([3, 5, 9]);
    expect(refused.map(({ line }) => line)).toEqual([8]);
  });

  it.each(["sep=;\r\n", "", "Report of cards\r\n\r\n", "Report;;\r\nof;today;\r\n"])("finds its header below %j", async (above) => {
    const { table, rows } = await read(`${above}Name;Card number;Status\r\nIris;4711;Active\r\n`);
    expect([table.headers, rows]).toEqual([["Name", "Card number", "Status"], [["Iris", "4711", "Active"]]]);
  });

  it("calls columns apart that are called alike, or not at all", async () => {
    expect((await read("name,name,,x\n1,2,3,4\n")).table.headers).toEqual(["name", "name (2)", "column 3", "x"]);
    expect((await read("1001;Iris\n1002;Nora\n")).table.headers).toEqual(["column 1", "column 2"]);
  });

  it("is read back in every encoding, delimiter and quoting that can be said, whatever the cells", async () => {
    const letters: Readonly<Record<(typeof encodings)[number], string>> = {
      "utf-8": "aé€Ж🌱\"; ,|'\n",
      "utf-16le": "aé€Ж🌱\"; ,|'\n",
      "utf-16be": "aé€Ж🌱\"; ,|'\n",
      "windows-1250": "ačőŁ€\"; ,|'\n",
      "windows-1252": "aéß€œ\"; ,|'\n",
      "iso-8859-1": "aéßÿ\"; ,|'\n",
      "iso-8859-2": "ačőŁ\"; ,|'\n",
      "iso-8859-15": "aé€œ\"; ,|'\n",
    };
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...encodings).chain((encoding) =>
          fc.record({
            encoding: fc.constant(encoding),
            cells: fc.array(fc.array(fc.string({ unit: fc.constantFrom(...letters[encoding]), maxLength: 5 }), { minLength: 3, maxLength: 3 }), {
              maxLength: 4,
            }),
          }),
        ),
        fc.constantFrom(",", ";", "\t", "|"),
        fc.constantFrom('"', "'"),
        async ({ encoding, cells }, delimiter, quote) => {
          const quoted = (text: string): string => `${quote}${text.replaceAll(quote, quote + quote)}${quote}`;
          const text = [["one", "two", "three"], ...cells].map((row) => row.map(quoted).join(delimiter)).join("\r\n");
          const { rows, refused } = await read(iconv.encode(text, encoding, { addBOM: encoding.startsWith("utf-16") }), {
            encoding,
            delimiter,
            quote,
            skip: 0,
            header: true,
          });
          // A quotation mark is doubled in a format where a backslash is a letter: as RFC 4180 has it.
          if (quote === "'" && cells.flat().some((cell) => cell.includes("'"))) return;
          expect([rows, refused]).toEqual([cells.filter((row) => row.some((cell) => cell.trim() !== "")), []]);
        },
      ),
      { numRuns: 120 },
    );
  });

  it("recognises its encoding: by a mark, by zeros, as UTF-8, else by its letters; and refuses rows that are none of what it is said to be", async () => {
    const encoding = async (bytes: Buffer) => (await textFormOf(file("x.csv", bytes))).encoding;
    const text = "Name;Ort\r\nMüller;Gärten\r\nŁukasz;Łódź\r\n";
    expect(await encoding(Buffer.from(text))).toBe("utf-8");
    expect(await encoding(iconv.encode(text, "utf-16le"))).toBe("utf-16le");
    expect(await encoding(iconv.encode(text, "utf-16be", { addBOM: true }))).toBe("utf-16be");
    expect(await encoding(iconv.encode("Name;Ort\r\nMüller;Gärten\r\n", "windows-1252"))).toBe("windows-1252");
    const wrong = await read(iconv.encode("Name;Ort\r\nMüller;Gärten\r\nIris;Garten\r\n", "windows-1252"), { encoding: "utf-8" });
    expect([wrong.rows, wrong.refused.map(({ line }) => line)]).toEqual([[["Iris", "Garten"]], [2]]);
  });

  it("counts the values of its columns, and shows none of those that may be PINs but zeros", async () => {
    const { table } = await read("name,PIN\nIris,4711\nNora,0000\nIris,\n");
    const { columns, first } = await lookAtTable(table);
    expect(columns.map(({ values, empty, isSecret }) => [values, empty, isSecret])).toEqual([
      [
        [
          { text: "Iris", count: 2 },
          { text: "Nora", count: 1 },
        ],
        0,
        false,
      ],
      [[{ text: "0000", count: 1 }], 1, true],
    ]);
    expect(JSON.stringify(first)).not.toContain("4711");
  });

  it("is recognised by what is in it, whatever it is called, and is unpacked within measure", async () => {
    const kind = (bytes: Buffer | string) => contentKindOf(() => Readable.from([Buffer.from(bytes as string)]));
    expect(await kind('{"format":"nomade.facility/1"}')).toBe("facility");
    expect(await kind('{"at":"2026-01-01T00:00:00Z","door":"d","result":"granted","number":"1"}\n')).toBe("json-lines");
    expect(await kind("\ufeffBEGIN:VCALENDAR\r\n")).toBe("calendar");
    expect(await kind("version: 1\n\ndn: cn=a\n")).toBe("directory");
    expect(await kind('{"schemas":["urn:ietf:params:scim:api:messages:2.0:ListResponse"]}')).toBe("people-list");
    expect(await kind("a,b\n1,2\n")).toBe("text");
    expect(await kind(gzipSync("a,b\n"))).toBe("gzip");
    const whole = async (stream: Readable) => {
      let bytes = 0;
      for await (const chunk of stream as AsyncIterable<Buffer>) bytes += chunk.length;
      return bytes;
    };
    expect(await whole(unpacked("t.csv.gz", Readable.from([gzipSync("a,b\n1,2\n")]), usualLimits))).toBe(8);
    await expect(whole(unpacked("t.csv.gz", Readable.from([gzipSync(Buffer.alloc(64 * 1024 ** 2))]), usualLimits))).rejects.toThrow(
      /more than 400 times its size/,
    );
    await expect(whole(unpacked("t.csv.gz", Readable.from([Buffer.from("no gzip")]), usualLimits))).rejects.toThrow(/cannot be unpacked/);
  });
});
