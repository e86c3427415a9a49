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
import type { FacilityDocument } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import { ownedPart } from "@/core/facility/ownership";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import { readFacility } from "../facility/read-facility";
import { folderFiles, zipFiles } from "./bundle-files";
import { harmless, readList, restored, writtenList } from "./cells";
import { readBundle } from "./read-bundle";
import type { BundleFile, RefusedRow } from "./read-table";
import { delimiterOf, encodingOf } from "./read-table";
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
    expect(await encodingOf(latin)).toBe("windows-1252");
    // In Windows-1252 byte 0x80 is the euro sign (WHATWG Encoding Standard).
    expect((await settled(withFiles(latin))).checked?.facility.cardholders[0]?.name).toBe("Müller €");
  });

  it("takes headers however they are spelled, and others as they are mapped or left aside", async () => {
    const people = file("staff-list.csv", "Person No,Full name,STATUS,Staff_Number,Favourite plant\niris,Iris,active,007,fern\n");
    const mapping = { "staff-list": { table: "cardholders", headers: { "Person No": "id", "Full name": "name", "Favourite plant": null } } };
    const bundle = await readBundle([...withFiles().filter(({ name }) => name !== "cardholders.csv"), people], mapping);
    expect(settleBundle(bundle, undefined, asOf).checked?.facility.cardholders).toEqual([{ id: "iris", name: "Iris", status: "active", staffNumber: "007" }]);
    const unmapped = await settled([...withFiles().filter(({ name }) => name !== "cardholders.csv"), file("cardholders.csv", "id,name,status,plant,Name\n")]);
    expect(told(unmapped.refused)).toEqual(expect.arrayContaining(["cardholders.csv:1 plant", "cardholders.csv:1 Name"]));
  });

  it("reads what a source writes its own way: end minutes, backward intervals, far ends, the order of dates", async () => {
    const tables = [
      file("schedules.csv", "id,name,from,until\nalways,Always,,\nw,W,3.4.2026,31.12.2099\n"),
      // 00:00–23:59 for a whole day, and an interval that ends before it starts for never: common practice, no source.
      file("schedule-hours.csv", "schedule,weekday,start,end\nw,mon,00:00,23:59\nw,tue,08:00,17:59\nw,wed,23:59,00:00\nw,thu,22:00,05:59\n"),
      file("cardholders.csv", "id,name,status,from,until\niris,Iris,active,12/31/2025,12/31/9999\notto,Otto,active,2026-01-02,13/31/2026\n"),
      file("credentials.csv", "id,cardholder,kind,status\n"),
    ];
    const hours = { endsIncluded: true, backwards: "never" as const };
    const read = async (writes: Parameters<typeof readBundle>[1]) => {
      const bundle = await readBundle(withFiles(...tables), writes);
      return { ...settleBundle(bundle, undefined, asOf), changed: Object.fromEntries(bundle.tables.map(({ file: name, changed }) => [name, changed])) };
    };
    const { checked, refused, changed } = await read({
      schedules: { writes: { dates: "dmy", endless: "2099-12-31" } },
      "schedule-hours": { writes: hours },
      cardholders: { writes: { dates: "mdy", endless: "2099-01-01" } },
    });
    expect(checked?.facility.schedules.find(({ id }) => id === "w")).toEqual({
      id: "w",
      name: "W",
      from: "2026-04-03",
      week: { mon: [["00:00", "24:00"]], tue: [["08:00", "18:00"]], wed: [], thu: [] },
    });
    expect(checked?.facility.cardholders).toEqual([{ id: "iris", name: "Iris", status: "active", from: "2025-12-31" }]);
    expect(told(refused)).toEqual(["cardholders.csv:3 until"]);
    expect(changed).toMatchObject({
      schedules: { dates: 1, endless: 1 },
      "schedule-hours": { endsIncluded: 2, backwards: 2 },
      cardholders: { dates: 1, endless: 1 },
    });
    const overnight = await read({ "schedule-hours": { writes: { endsIncluded: true } }, schedules: { writes: { dates: "dmy" } } });
    expect(overnight.checked?.facility.schedules.find(({ id }) => id === "w")?.week?.thu).toEqual([["22:00", "06:00"]]);
  });

  it("takes a date alone for endless: what is neither a date nor an instant is refused as what it is", async () => {
    const people = file(
      "cardholders.csv",
      "id,name,status,until\niris,Iris,active,30/11/2026 11:59 PM\notto,Otto,active,unknown\nuna,Una,active,2099-12-31T23:59:00Z\nada,Ada,active,2099-13-01\neva,Eva,active,9999-12-31\nmia,Mia,active,2026-11-30\n",
    );
    const { refused, checked } = settleBundle(
      await readBundle(withFiles(people, file("credentials.csv", "id,kind,status\n")), { cardholders: { writes: { endless: "2099-12-31" } } }),
      undefined,
      asOf,
    );
    expect(told(refused)).toEqual(["cardholders.csv:2 until", "cardholders.csv:3 until", "cardholders.csv:5 until"]);
    expect(checked?.facility.cardholders.map(({ id, until }) => [id, until])).toEqual([
      ["una", undefined],
      ["eva", undefined],
      ["mia", "2026-11-30"],
    ]);
  });

  it("names a column or a file that it does not know, whatever it is called", async () => {
    for (const name of ["__proto__", "constructor", "toString"]) {
      expect(
        told(settleBundle(await readBundle(withFiles(file("cardholders.csv", `id,name,status,${name}\niris,Iris,active,x\n`))), undefined, asOf).refused),
      ).toContain(`cardholders.csv:1 ${name}`);
      expect(told(settleBundle(await readBundle(withFiles(file(`${name}.csv`, "id\nx\n"))), undefined, asOf).refused)[0]).toMatch(name);
    }
  });

  it("reads times without an offset on the clock of the source's zone, the later of two for what ends", async () => {
    // Europe/Vienna: 2026-10-25 02:30 comes twice, at 00:30 and 01:30 UTC; 2026-03-29 02:30 never (IANA rules).
    const people = file(
      "cardholders.csv",
      "id,name,status,statusSince,from,until\niris,Iris,left,2026-07-01 08:00:30,25.10.2026 02:30,25.10.2026 2:30\notto,Otto,active,,2026-03-29 02:30,2026-03-02T08:00:00Z\nuna,Una,active,,1.7.2026,\n",
    );
    const read = settleBundle(
      await readBundle(withFiles(people, file("credentials.csv", "id,kind,status\n")), { cardholders: { writes: { zone: "Europe/Vienna", dates: "dmy" } } }),
      undefined,
      asOf,
    );
    expect(read.refused).toEqual([]);
    expect(read.checked?.facility.cardholders.map(({ statusSince, from, until }) => [statusSince, from, until])).toEqual([
      ["2026-07-01T06:00:30Z", "2026-10-25T00:30:00Z", "2026-10-25T01:30:00Z"],
      [undefined, "2026-03-29T01:00:00Z", "2026-03-02T08:00:00Z"],
      [undefined, "2026-07-01", undefined],
    ]);
  });

  it("turns PINs into tags while reading, equal for equal ones, and shows none in any message", async () => {
    const cards = file(
      "credentials.csv",
      "id,kind,status,Code\nc1,card,active,4711\nc2,card,active,4711\nc3,card,active,0000\nc4,card,active,\nc5,key,active,8151\nc6,card,active,9262,surplus\n",
    );
    const tags = new Map<string, string>();
    const tagOf = (pin: string): string => tags.set(pin, `tag${tags.size}`).get(pin) ?? "";
    // Four zeros for no PIN: common practice, no source.
    const { checked, refused } = settleBundle(
      await readBundle(withFiles(cards), { credentials: { headers: { Code: "pin" }, writes: { noPin: ["0000"] } } }, (pin) => tags.get(pin) ?? tagOf(pin)),
      undefined,
      asOf,
    );
    expect(checked?.facility.credentials.map(({ id, pinTag }) => [id, pinTag])).toEqual([
      ["c1", tags.get("4711")],
      ["c2", tags.get("4711")],
      ["c3", undefined],
      ["c4", undefined],
    ]);
    expect(tags.get("4711")).toMatch(/^tag/);
    expect(JSON.stringify(checked)).not.toMatch(/4711|0000"/);
    expect(told(refused)).toEqual(["credentials.csv:7", "credentials.csv:6 kind"]);
    expect(JSON.stringify(refused)).not.toMatch(/8151|9262/);
    expect(JSON.stringify(readFacility(JSON.stringify({ ...small, credentials: [{ id: "c", kind: "card", status: "active", pin: "4711" }] })))).not.toContain(
      "4711",
    );
    expect([...writeBundle(small)].find(({ name }) => name === "credentials.csv")?.text).not.toMatch(/,pin,/);
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
    );
    expect((await settled(files)).checked?.facility.name).toBe(small.name);
    close();
    for (const { name, text } of writeBundle(small)) writeFileSync(path.join(folder, name), text);
    expect((await settled(await folderFiles(folder))).refused).toEqual([]);
  });

  it("are refused with a reason where names lead elsewhere, sizes swell, or it is no ZIP", async () => {
    await expect(zipFiles(written("up.zip", zipSync({ "../sites.csv": bytes("id") })))).rejects.toThrow(/\.\.\/sites\.csv/);
    await expect(zipFiles(written("bomb.zip", zipSync({ "sites.csv": new Uint8Array(64 * 1024 ** 2) }, { level: 9 })))).rejects.toThrow(
      /would swell from .* bytes to 64 MiB/,
    );
    await expect(
      zipFiles(
        written("bombs.zip", zipSync(Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`t${i}.csv`, new Uint8Array(15 * 1024 ** 2)])), { level: 9 })),
      ),
    ).rejects.toThrow(/Its files would swell from .* bytes to 90 MiB; expected at most 400 times/);
    await expect(
      zipFiles(written("many.zip", zipSync(Object.fromEntries(Array.from({ length: 1001 }, (_, i) => [`t${i}.csv`, bytes("id\n")]))))),
    ).rejects.toThrow(/more than 1,000 members/);
    await expect(zipFiles(written("no.zip", bytes("this is no archive at all")))).rejects.toThrow(/cannot be opened/);
    await expect(zipFiles(written("empty.zip", zipSync({ "a.txt": bytes("x") })))).rejects.toThrow(/no CSV file/);
    const whole = zipSync({ "sites.csv": bytes("id,name\n".repeat(400)) });
    await expect(zipFiles(written("cut.zip", whole.slice(0, whole.length - 30)))).rejects.toThrow(/cannot be opened/);
  });
});
