import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { Readable } from "node:stream";
import { afterAll, describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { zipSync } from "fflate";
import { verraneInstitute } from "~/demo/institute";
import { facilityDraft } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { usualLimits } from "@/intake/formats/limits";
import { openTable, rowsOfTable } from "./source-table";
import type { FacilityDocument } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import { ownedPart } from "@/core/facility/ownership";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import { readFacility } from "../facility/read-facility";
import { folderFiles, zipFiles } from "./bundle-files";
import { harmless, readList, restored, writtenList } from "./cells";
import { readBundle } from "./read-bundle";
import type { BundleFile, RefusedRow } from "./bundle-file";
import { delimiterOf } from "./read-table";
import { encodingOf } from "./text-form";
import { bundleOfDocument, settleOwned } from "./owned-bundle";
import { settleBundle } from "./settle-bundle";
import { bundleTables, facilityTable, totalsTable } from "./tables";
import { writeBundle } from "./write-bundle";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-bundle-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const file = (name: string, content: string | Buffer): BundleFile => ({ name, open: () => Promise.resolve(Readable.from([Buffer.from(content as string)])) });

function normalOf(draft: FacilityDocument): Facility {
  const read = readFacility(JSON.stringify(draft));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return normalFacility(read.value.facility);
}

const filesOf = (facility: Facility): BundleFile[] => [...writeBundle(facility)].map(({ name, text }) => file(name, text));
const asOf = "2026-03-01T00:00:00Z";

async function backFrom(facility: Facility): Promise<string> {
  const settled = settleBundle(await readBundle(filesOf(facility)), undefined, asOf);
  expect(settled.refused).toEqual([]);
  return settled.checked ? normalText(normalFacility(settled.checked.facility)) : "";
}

const small = normalOf(facilityDraft());
/** The files of the small document with some replaced or added. */
const withFiles = (...given: readonly BundleFile[]): BundleFile[] => [
  ...filesOf(small).filter(({ name }) => !given.some((one) => one.name === name)),
  ...given,
];
const settled = async (files: readonly BundleFile[], present?: Facility) => settleBundle(await readBundle(files), present, asOf);
const told = (rows: readonly RefusedRow[]) => rows.map(({ file: name, line, column }) => `${name}:${line} ${column}`.trim());

describe("a cell", () => {
  it("is harmless to a spreadsheet and reads back as it was, whatever it is", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^'*[=+\-@\t\r]?x?$/)), (text) => {
        expect(restored(harmless(text))).toBe(text);
        expect(harmless(text)).not.toMatch(/^[=+\-@\t\r]/);
        expect(harmless(text)).not.toBe("");
      }),
    );
  });

  it("holds lists of texts that read back as they were", () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.string(), fc.constantFrom("", "a;b", "[", " x", "=1"))), (texts) => expect(readList(writtenList(texts))).toEqual(texts)),
    );
  });
});

describe("a bundle", () => {
  it("reads back to the same document and hash, for any document", async () => {
    await fc.assert(
      fc.asyncProperty(arbitraryFacility, async (draft) => {
        const normal = normalOf(draft);
        expect(await backFrom(normal)).toBe(normalText(normal));
      }),
      { numRuns: 120 },
    );
  });

  it("does so for the demo, and for texts that are awkward in every column", async () => {
    const demo = normalOf(verraneInstitute({ cardholders: 420, doors: 95, seed: 7 }));
    expect(await backFrom(demo)).toBe(normalText(demo));
    const awkward = ["", "'", "=SUM(A1)", "'=x", 'say "so"', "a;b", "two\r\nlines", "everywhere", " spaced ", "[1]", "ünïcode 🌱"];
    const names = normalOf(
      facilityDraft({
        sites: awkward.map((name, i) => ({ id: i === 7 ? "everywhere" : `s${i}`, name, timeZone: "Europe/Vienna" })),
        doors: [{ id: "gate", name: "Gate", site: "s0" }],
        cardholders: [
          { id: "a", name: "A", status: "active", sites: ["s1", "everywhere"], override: ["everywhere"], company: "" },
          { id: "b", name: "B", status: "active", sites: [], override: true, requirements: [{ name: "=2" }] },
        ],
        credentials: [],
        levels: [{ id: "l", name: "L", rows: awkward.map((action) => ({ door: "gate", schedule: "always", actions: [action, "plain"] })) }],
        schedules: [
          { id: "always", name: "Always", always: true },
          {
            id: "w",
            name: "W",
            week: {},
            holidays: {
              "-5": [],
              "=x": [
                ["08:00", "24:00"],
                ["06:00", "07:00"],
              ],
            },
          },
        ],
      }),
    );
    expect(await backFrom(names)).toBe(normalText(names));
  });

  it("is described with all its tables and columns in the documentation", () => {
    const page = readFileSync("docs/tables.md", "utf8");
    for (const { file: table, columns } of [facilityTable, ...bundleTables, totalsTable]) {
      const line = page.split("\n").find((one) => one.startsWith(`| \`${table}.csv\` |`));
      expect([table, columns.filter(({ name }) => !line?.includes(`\`${name}\``)).map(({ name }) => name)]).toEqual([table, []]);
    }
  });

  it("has a column for every key of every object that the demo uses", () => {
    const demo = verraneInstitute({ cardholders: 420, doors: 95, seed: 7 }) as unknown as Record<string, Record<string, unknown>[]>;
    for (const table of bundleTables) {
      const known = new Set(bundleTables.filter(({ list }) => list === table.list).flatMap(({ columns }) => columns.map(({ path: [first] }) => first)));
      const parts = {
        calendars: ["days"],
        schedules: ["week", "holidays"],
        doors: ["entryRows"],
        doorGroups: ["doors", "groups"],
        levels: ["rows"],
        bundles: ["levels"],
        cardholders: ["requirements"],
      } as Record<string, string[]>;
      for (const object of demo[table.list] ?? [])
        for (const key of Object.keys(object)) expect([table.list, key, known.has(key) || !!parts[table.list]?.includes(key)]).toEqual([table.list, key, true]);
    }
  });
});

describe("reading a table", () => {
  it("follows RFC 4180: its quoted line breaks, quotes and commas, with or without a break at the end", async () => {
    // RFC 4180, section 2: the examples of rules 2, 6 and 7, as names.
    const { checked, refused } = await settled(withFiles(file("cardholders.csv", 'id,name,status\r\n"aaa","b\r\nbb",active\r\niris,"a""b,c",active')));
    expect(refused).toEqual([]);
    expect(checked?.facility.cardholders.map(({ name }) => name)).toEqual(["b\r\nbb", 'a"b,c']);
  });

  it("recognises delimiters and encodings", async () => {
    expect(["a,b;c,d", "a;b;c", "a\tb\tc", "a|b|c", '"a,b,c";d', "one"].map(delimiterOf)).toEqual([",", ";", "\t", "|", ";", ","]);
    const text = "id;name;status\r\niris;Žofie Åkermann;active\r\n";
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, "utf16le")]);
    const bom = Buffer.concat([Buffer.from([0xef, 0xbb, 0xbf]), Buffer.from(text)]);
    for (const content of [text, utf16, bom]) {
      const { checked } = await settled(withFiles(file("Cardholders.CSV", content as string)).filter(({ name }) => name !== "cardholders.csv"));
      expect(checked?.facility.cardholders[0]?.name).toBe("Žofie Åkermann");
    }
    const latin = file("cardholders.csv", Buffer.from("id,name,status\niris,M\xfcller \x80,active\n", "latin1"));
    expect((await encodingOf(latin)).encoding).toBe("windows-1252");
    // In Windows-1252 byte 0x80 is the euro sign (WHATWG Encoding Standard).
    expect((await settled(withFiles(latin))).checked?.facility.cardholders[0]?.name).toBe("Müller €");
  });

  it("takes headers however they are spelled, and names those that it does not know", async () => {
    const spelled = withFiles(file("cardholders.csv", "ID,name,STATUS,Staff_Number\niris,Iris,active,007\n"));
    expect((await settled(spelled)).checked?.facility.cardholders).toEqual([{ id: "iris", name: "Iris", status: "active", staffNumber: "007" }]);
    const unmapped = await settled([...withFiles().filter(({ name }) => name !== "cardholders.csv"), file("cardholders.csv", "id,name,status,plant,Name\n")]);
    expect(told(unmapped.refused)).toEqual(expect.arrayContaining(["cardholders.csv:1 plant", "cardholders.csv:1 Name"]));
  });

  it("names a column or a file that it does not know, whatever it is called", async () => {
    for (const name of ["__proto__", "constructor", "toString"]) {
      expect(
        told(settleBundle(await readBundle(withFiles(file("cardholders.csv", `id,name,status,${name}\niris,Iris,active,x\n`))), undefined, asOf).refused),
      ).toContain(`cardholders.csv:1 ${name}`);
      expect(told(settleBundle(await readBundle(withFiles(file(`${name}.csv`, "id\nx\n"))), undefined, asOf).refused)[0]).toMatch(name);
    }
  });

  it("holds what a source states of its tables against what came", async () => {
    const totals = (text: string) => settled(withFiles(file("totals.csv", `table,rows,sha256\n${text}`)));
    expect((await totals("cardholders,1,\nsites.csv,1,\n")).refused).toEqual([]);
    expect(told((await totals("cardholders,2,\nplants,7,\n")).refused)).toEqual(["totals.csv:2 rows", "totals.csv:3 table"]);
    expect((await totals("cardholders,1,\n")).files.find(({ name }) => name === "cardholders.csv")?.stated?.rows).toBe(1);
  });

  it("leaves alone of an object what it has no column for, and keeps what such a part still refers to", async () => {
    const present = normalOf(
      facilityDraft({
        groups: [
          { id: "press", name: "Press", kind: "department" },
          { id: "old", name: "Old" },
        ],
        cardholders: [{ id: "iris", name: "Iris Almond", status: "active", department: "press", email: "iris@garden.example" }],
        credentials: [],
      }),
    );
    const feed = [file("cardholders.csv", "id,name,status,email\niris,Iris A.,active,\nuna,Una,active,una@garden.example\n"), file("groups.csv", "id,name\n")];
    const { checked, kept } = await settled(feed, present);
    expect(checked?.facility.cardholders).toEqual([
      { id: "iris", name: "Iris A.", status: "active", department: "press" },
      { id: "una", name: "Una", status: "active", email: "una@garden.example" },
    ]);
    expect([checked?.facility.groups.map(({ id }) => id), kept]).toEqual([["press"], [{ list: "groups", id: "press" }]]);
  });

  it("takes of a bundle only what its source's profile lets it own, and leaves what an incomplete list does not name", () => {
    const present = normalOf(
      facilityDraft({
        areas: [{ id: "hall", name: "Hall", site: "garden", sensitivity: 3, owner: "iris" }],
        cardholders: [
          { id: "iris", name: "Iris", status: "active" },
          { id: "otto", name: "Otto", status: "active" },
        ],
      }),
    );
    const source = normalOf(
      facilityDraft({
        areas: [
          { id: "hall", name: "Great hall", site: "garden" },
          { id: "shed", name: "Shed", site: "garden", sensitivity: 1 },
        ],
        cardholders: [{ id: "iris", name: "Iris A.", status: "active" }],
        schedules: [],
        credentials: [],
        doors: [],
      }),
    );
    const document = bundleOfDocument(source, { areas: "all", cardholders: "all", sites: "all" }, "source.json");
    const profile = { areas: { fields: ["name", "site"] }, cardholders: { complete: false }, sites: { fields: [] } };
    const { checked } = settleOwned(document, present, asOf, profile);
    expect(checked?.facility.areas).toEqual([
      { id: "hall", name: "Great hall", site: "garden", sensitivity: 3, owner: "iris" },
      { id: "shed", name: "Shed", site: "garden", sensitivity: 1 },
    ]);
    expect(checked?.facility.cardholders.map(({ name }) => name)).toEqual(["Iris A.", "Otto"]);
    expect(ownedPart(document.brings, profile)).toEqual({ areas: ["id", "name", "site"], cardholders: "all" });
  });

  it("names file, line, column, value and what was expected of every row that it refuses, all at once", async () => {
    const { checked, refused } = await settled(
      withFiles(
        file(
          "cardholders.csv",
          [
            "id,name,status,until,firstIn,department",
            "iris,Iris,active,,,",
            "otto,Otto,retired,,,",
            "nora,Nora,active,2026-02-30,,",
            "leif,Leif,active,,perhaps,",
            "edda,Edda,active",
            "runa,Runa,active,,,nowhere",
            "iris,Iris again,active,,,",
            "",
          ].join("\n"),
        ),
      ),
    );
    expect(told(refused).sort()).toEqual([
      "cardholders.csv:3 status",
      "cardholders.csv:4 until",
      "cardholders.csv:5 firstIn",
      "cardholders.csv:6",
      "cardholders.csv:7 department",
      "cardholders.csv:8 id",
    ]);
    expect(refused.find(({ line }) => line === 5)).toMatchObject({ value: "perhaps", reason: "expected true or false" });
    expect(refused.find(({ line }) => line === 4)?.reason).toContain("2026-02-30");
    expect(checked?.facility.cardholders.map(({ id }) => id)).toEqual(["iris"]);
  });

  it("leaves out what hangs on a refused row, and says so of each", async () => {
    const { checked, refused } = await settled(
      withFiles(
        file("cardholders.csv", "id,name,status\niris,Iris,asleep\n"),
        file("levels.csv", "id,name\nl,L\n"),
        file("level-rows.csv", "level,door,schedule\nl,gate,never-heard\nnone,gate,always\n"),
        file("grants.csv", "id,cardholder,level\ng,iris,l\n"),
      ),
    );
    expect(told(refused).sort()).toEqual([
      "cardholders.csv:2 status",
      "credentials.csv:2 cardholder",
      "grants.csv:2 cardholder",
      "level-rows.csv:2 schedule",
      "level-rows.csv:3 level",
      "levels.csv:2",
    ]);
    expect(checked?.facility.levels).toEqual([]);
  });

  it("keeps what loses only whoever answers for it, and says so", async () => {
    const { checked, refused } = await settled(
      withFiles(file("areas.csv", "id,name,site,owner\na,Wing,garden,gone\n"), file("groups.csv", "id,name,manager\ng,Night,gone\n")),
    );
    expect(told(refused).sort()).toEqual(["areas.csv:2 owner", "groups.csv:2 manager"]);
    expect(refused[0]?.reason).toContain("taken without it");
    expect(checked?.facility.areas).toEqual([{ id: "a", name: "Wing", site: "garden" }]);
  });

  it("says what is wrong with a file that is no table", async () => {
    const cut = await settled(withFiles(file("cardholders.csv", 'id,name,status\niris,"Iris,active\n')));
    expect(cut.refused[0]).toMatchObject({ file: "cardholders.csv" });
    expect(cut.refused[0]?.reason).toContain("quotation mark");
    const long = await settled(withFiles(file("cardholders.csv", `id,name,status\niris,${"x".repeat(3_000_000)},active\n`)));
    expect(long.refused[0]?.reason).toMatch(/longer than/);
    const other = await settled(withFiles(file("doorz.csv", "id\n")));
    expect(other.refused[0]?.reason).toContain("doors.csv");
    const binary = await settled(withFiles(file("cardholders.csv", Buffer.from([0, 1, 2, 3, 255, 254, 13, 10, 0]))));
    expect(told(binary.refused)[0]).toMatch(/^cardholders\.csv:1/);
    expect((await settled([file("sites.csv", "id,name,timeZone\n")])).refused[0]?.reason).toContain("name, timeZone, asOf");
  });
});

describe("a bundle of some tables only", () => {
  const present = normalOf(
    facilityDraft({
      cardholders: [
        { id: "iris", name: "Iris", status: "active" },
        { id: "otto", name: "Otto", status: "active" },
      ],
      grants: [{ id: "g", to: { cardholder: "otto" }, open: { door: "gate" }, schedule: "office" }],
    }),
  );

  it("leaves the other lists as they are; what is missing is gone, unless something still refers to it", async () => {
    const people = file("cardholders.csv", "id,name,status\nnora,Nora,active\n");
    const cards = file("credentials.csv", "id,cardholder,kind,status\nc9,nora,card,active\n");
    const { checked, kept, refused } = await settled([people, cards], present);
    expect(refused).toEqual([]);
    expect(kept).toEqual([{ list: "cardholders", id: "otto" }]);
    expect(checked?.facility.cardholders.map(({ id }) => id)).toEqual(["nora", "otto"]);
    expect(checked?.facility.credentials.map(({ id }) => id)).toEqual(["c9"]);
    expect(checked?.facility.doors).toEqual(present.doors);
    expect(checked?.facility.asOf).toBe(asOf);
  });
});

describe("the files of a bundle", () => {
  const written = (name: string, bytes: Uint8Array): string => {
    const at = path.join(folder, name);
    writeFileSync(at, bytes);
    return at;
  };
  const bytes = (text: string) => new TextEncoder().encode(text);

  it("come from a ZIP or a folder, whatever else lies there", async () => {
    const parts = Object.fromEntries([...writeBundle(small)].map(({ name, text }) => [`export/${name}`, bytes(text)]));
    const { files, close } = await zipFiles(
      written("good.zip", zipSync({ ...parts, "export/read me.txt": bytes("hello"), "__MACOSX/._sites.csv": bytes("x") })),
      usualLimits,
    );
    expect((await settled(files)).checked?.facility.name).toBe(small.name);
    close();
    for (const { name, text } of writeBundle(small)) writeFileSync(path.join(folder, name), text);
    expect((await settled((await folderFiles(folder, usualLimits)).files)).refused).toEqual([]);
  });

  it("are refused past limits that are set, by the sentence that names them", async () => {
    const two = written("two.zip", zipSync({ "sites.csv": bytes("id,name\n"), "doors.csv": bytes("id,name\n") }));
    await expect(zipFiles(two, { ...usualLimits, members: 1 })).rejects.toThrow(/more than 1 members/);
    await expect(zipFiles(two, { ...usualLimits, unpackedBytes: 9 })).rejects.toThrow(/expected at most/);
    const { files, close } = await zipFiles(two, usualLimits);
    const [first] = files;
    const table = first && (await openTable(first, { ...usualLimits, columns: 1 }));
    const refused: string[] = [];
    if (table) for await (const _row of rowsOfTable(table, ({ reason }) => refused.push(reason)));
    expect(refused).toEqual(["a table has at most 1 columns"]);
    close();
  });

  it("are refused with a reason where names lead elsewhere, sizes swell, or it is no ZIP", async () => {
    await expect(zipFiles(written("up.zip", zipSync({ "../sites.csv": bytes("id") })), usualLimits)).rejects.toThrow(/\.\.\/sites\.csv/);
    await expect(zipFiles(written("bomb.zip", zipSync({ "sites.csv": new Uint8Array(64 * 1024 ** 2) }, { level: 9 })), usualLimits)).rejects.toThrow(
      /would swell from .* bytes to 64 MiB/,
    );
    await expect(
      zipFiles(
        written("bombs.zip", zipSync(Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`t${i}.csv`, new Uint8Array(15 * 1024 ** 2)])), { level: 9 })),
        usualLimits,
      ),
    ).rejects.toThrow(/Its files would swell from .* bytes to 90 MiB; expected at most 400 times/);
    await expect(
      zipFiles(written("many.zip", zipSync(Object.fromEntries(Array.from({ length: 1001 }, (_, i) => [`t${i}.csv`, bytes("id\n")])))), usualLimits),
    ).rejects.toThrow(/more than 1,000 members/);
    await expect(zipFiles(written("no.zip", bytes("this is no archive at all")), usualLimits)).rejects.toThrow(/cannot be opened/);
    await expect(zipFiles(written("empty.zip", zipSync({ "a.pdf": bytes("x") })), usualLimits)).rejects.toThrow(/no CSV file/);
    const whole = zipSync({ "sites.csv": bytes("id,name\n".repeat(400)) });
    await expect(zipFiles(written("cut.zip", whole.slice(0, whole.length - 30)), usualLimits)).rejects.toThrow(/cannot be opened/);
  });
});
