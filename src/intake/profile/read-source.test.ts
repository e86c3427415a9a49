import { readFileSync } from "node:fs";
import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { cardRows, germanCards, groupMatrix, levelMatrix, weekdayHours, workbookExport } from "~/tests/exports/exports";
import { filesOf, readBy, suggested, tablesOf, textFile } from "~/tests/exports/read-export";
import { facilityDraft } from "~/tests/builders";
import { listKeys } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import { readFacility } from "../formats/facility/read-facility";
import { lookAtTable } from "./looked-at";
import { openQuestions } from "./open-questions";
import { profileSchema } from "./profile-schema";
import type { FieldSource, SourceProfile, TableProfile } from "./source-profile";
import { momentForms } from "./source-profile";
import { targetTables } from "./target-fields";

const present = (extra: object = {}): Facility => {
  const read = readFacility(
    JSON.stringify({ ...facilityDraft(), cardholders: [], credentials: [], levels: [], groups: [], memberships: [], grants: [], ...extra }),
  );
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return read.value.facility;
};
const told = (rows: readonly RefusedRow[]): string[] => rows.map(({ file, line, column }) => `${file}:${line} ${column}`.trim());
const byOne = (table: Partial<TableProfile> & Pick<TableProfile, "name" | "makes">, rest: Partial<SourceProfile> = {}): SourceProfile => ({
  format: "nomade.profile/1",
  ...rest,
  tables: [{ headers: [], ...table }],
});
const people = (fields: Readonly<Record<string, FieldSource>>, aside: readonly string[] = []): SourceProfile =>
  byOne({ name: "people", aside, makes: [{ table: "cardholders", fields }] });
const own = (name: string): FieldSource => ({ columns: [name] });

describe("an export of another system", () => {
  it("of one row a card makes people, departments, cards and memberships, each once", async () => {
    const profile = await suggested(cardRows, present());
    const { checked, refused, read } = await readBy(filesOf(cardRows), profile, present());
    expect(refused).toEqual([]);
    expect(checked?.facility.cardholders).toEqual([
      { id: "1001", name: "Iris Almondfeld", status: "active", staffNumber: "1001", department: "press-house" },
      { id: "1002", name: "Nora Mosstrand", status: "active", staffNumber: "1002", department: "cellar" },
      { id: "1003", name: "Tam Quillmere", status: "active", staffNumber: "1003", department: "cellar" },
      { id: "1004", name: "Ada Wickholm", status: "active", staffNumber: "1004", department: "press-house" },
    ]);
    expect(
      checked?.facility.credentials.map(({ facilityCode, number, status, cardholder, from, until }) => [facilityCode, number, status, cardholder, from, until]),
    ).toEqual([
      ["12", "4711", "active", "1001", "2024-03-01", undefined],
      ["12", "4712", "lost", "1001", "2024-03-01", undefined],
      ["12", "4713", "active", "1002", "2025-01-15", "2026-12-31"],
      ["12", "4714", "suspended", "1003", "2025-01-15", "2026-06-30"],
    ]);
    expect(checked?.facility.memberships).toEqual([
      { group: "day-crew", cardholder: "1001" },
      { group: "key-holders", cardholder: "1001" },
      { group: "day-crew", cardholder: "1002" },
      { group: "day-crew", cardholder: "1004" },
    ]);
    expect(read.madeFromNames.map(({ name }) => name)).toEqual(["Day crew", "Key holders", "Press House", "Cellar"]);
  });

  it("of people × groups makes a membership for each cross, and none for a dash", async () => {
    const { checked, refused } = await readBy(filesOf(groupMatrix), await suggested(groupMatrix, present()), present());
    expect(refused).toEqual([]);
    expect(checked?.facility.memberships).toEqual([
      { group: "day-crew", cardholder: "1001" },
      { group: "key-holders", cardholder: "1001" },
      { group: "day-crew", cardholder: "1002" },
      { group: "night-crew", cardholder: "1003" },
    ]);
  });

  it("of what known people are given makes nobody, and says nothing of them", async () => {
    const cardholders = ["Iris Almondfeld", "Nora Mosstrand", "Tam Quillmere", "Ada Wickholm"].map((name, at) => ({
      id: `p${at}`,
      name,
      status: "suspended",
      staffNumber: `${1001 + at}`,
    }));
    const there = present({ cardholders });
    const { checked, refused } = await readBy(filesOf(groupMatrix), await suggested(groupMatrix, there), there);
    expect(refused).toEqual([]);
    expect(checked?.facility.cardholders.map(({ id, status }) => `${id} ${status}`)).toEqual(["p0 suspended", "p1 suspended", "p2 suspended", "p3 suspended"]);
    expect(checked?.facility.memberships).toHaveLength(4);
  });

  it("of levels × doors makes a row for each schedule that a cell names", async () => {
    const schedules = [
      { id: "d", name: "Day hours", week: { mon: [["07:00", "18:00"]] } },
      { id: "n", name: "night hours", week: { mon: [["22:00", "06:00"]] } },
    ];
    const there = present({ schedules });
    const { checked, refused } = await readBy(filesOf(levelMatrix), await suggested(levelMatrix, there), there);
    expect(refused).toEqual([]);
    expect(checked?.facility.levels).toEqual([
      {
        id: "day-access",
        name: "Day access",
        rows: [
          { door: "main-gate", schedule: "d" },
          { door: "press-hall", schedule: "d" },
        ],
      },
      {
        id: "night-access",
        name: "Night access",
        rows: [
          { door: "main-gate", schedule: "n" },
          { door: "cellar-door", schedule: "n" },
        ],
      },
      {
        id: "all-access",
        name: "All access",
        rows: [
          { door: "main-gate", schedule: "d" },
          { door: "cellar-door", schedule: "n" },
          { door: "press-hall", schedule: "d" },
        ],
      },
    ]);
    // Without these schedules they are named as what nothing brings, and nothing is made of a name unseen.
    const without = await readBy(filesOf(levelMatrix), await suggested(levelMatrix, present()), present());
    expect(new Set(without.read.unknownNames.map(({ list, text }) => `${list} ${text}`))).toEqual(new Set(["schedules Day hours", "schedules Night hours"]));
  });

  it("of weekday columns makes the hours of schedules, once somebody says what backward intervals mean", async () => {
    const profile = await suggested(weekdayHours, present());
    const open = await readBy(filesOf(weekdayHours), profile, present());
    expect(open.refused.every(({ reason }) => /never or overnight/.test(reason))).toBe(true);
    const [table] = profile.tables;
    if (!table) throw new Error("no table");
    const said: SourceProfile = {
      ...profile,
      tables: [
        {
          ...table,
          makes: table.makes.map((one) =>
            one.fields.hours
              ? { ...one, fields: { ...one.fields, hours: { ...one.fields.hours, hours: { ...one.fields.hours.hours, backwards: "overnight" } } } }
              : one,
          ),
        },
      ],
    };
    const { checked, refused } = await readBy(filesOf(weekdayHours), said, present({ schedules: [], doors: [] }));
    expect(refused).toEqual([]);
    const day = [["07:00", "18:00"]];
    const night = [["22:00", "06:00"]];
    expect(checked?.facility.schedules).toEqual([
      { id: "day-hours", name: "Day hours", from: "2024-03-25", week: { mon: day, tue: day, wed: day, thu: day, fri: [["07:00", "16:30"]] } },
      { id: "night-hours", name: "Night hours", from: "2024-03-25", week: { mon: night, tue: night, wed: night, thu: night, fri: night, sat: [], sun: [] } },
      {
        id: "split-hours",
        name: "Split hours",
        from: "2024-03-25",
        until: "2027-09-30",
        week: {
          mon: [
            ["08:00", "12:00"],
            ["13:00", "17:00"],
          ],
        },
      },
    ]);
  });

  it("in German, with semicolons, Windows-1252 and hexadecimal numbers, is read by its words", async () => {
    const { checked, refused } = await readBy(filesOf(germanCards), await suggested(germanCards, present()), present());
    expect(refused).toEqual([]);
    expect(checked?.facility.cardholders.map(({ name, status }) => [name, status])).toEqual([
      ["Iris Almondfeld", "active"],
      ["Nora Mooßtränd", "active"],
      ["Tam Quillmere", "suspended"],
      ["Jörg Grünwald", "active"],
    ]);
    expect(checked?.facility.credentials.map(({ number, from, until }) => [number, from, until])).toEqual([
      ["4775", "2024-03-01", "2026-12-31"],
      ["4776", "2025-01-15", undefined],
      ["255", "2025-01-15", "2026-06-30"],
      ["48879", undefined, undefined],
    ]);
    expect(checked?.facility.groups.map(({ id, kind }) => [id, kind])).toEqual([
      ["kelterei", "department"],
      ["kellerei", "department"],
    ]);
  });

  it("of five sheets with titles above each header is one document", async () => {
    const one = workbookExport();
    const { checked, refused } = await readBy(filesOf(one), await suggested(one, present()), present({ doors: [] }));
    expect(refused).toEqual([]);
    expect(checked?.facility.credentials.map(({ number, cardholder, status, until }) => [number, cardholder, status, until])).toEqual([
      ["4711", "1001", "active", "2027-05-01"],
      ["4712", "1002", "active", "2027-05-31"],
      ["4713", "1003", "returned", "2026-01-31"],
    ]);
    expect(checked?.facility.cardholders.map(({ id, type, status }) => [id, type, status])).toEqual([
      ["1001", "employee", "active"],
      ["1002", "employee", "active"],
      ["1003", "contractor", "left"],
    ]);
    expect(checked?.facility.doors.map(({ id, kind }) => [id, kind])).toEqual([
      ["main-gate", "gate"],
      ["cellar-door", "door"],
      ["press-hall", "door"],
    ]);
    expect(checked?.facility.memberships).toHaveLength(3);
  });
});

describe("a profile", () => {
  it("is well-formed where it is suggested, and names what is wrong where it is not", async () => {
    for (const one of [cardRows, groupMatrix, levelMatrix, weekdayHours, germanCards, workbookExport()])
      expect(profileSchema.validate(await suggested(one, present())).error).toBeUndefined();
    const wrong = profileSchema.validate({ format: "nomade.profile/1", tables: [{ name: "a", headers: [], makes: [{ table: "nothing", fields: {} }] }] });
    expect(wrong.error?.message).toMatch(/tables\[0\]\.makes\[0\]\.table/);
    const pattern = profileSchema.validate(people({ name: { columns: ["a"], part: { pattern: "no place" } } }));
    expect(pattern.error?.message).toMatch(/\{part\} just once/);
  });

  it("is described with all that it can say, and the documentation's example reads a file", async () => {
    const page = readFileSync("docs/profiles.md", "utf8");
    const [, example = "{}"] = /```json\n([\s\S]*?)```/.exec(page) ?? [];
    const profile = JSON.parse(example) as SourceProfile;
    expect(profileSchema.validate(profile).error).toBeUndefined();
    const described = profileSchema.describe() as unknown as { readonly keys: Readonly<Record<string, unknown>> };
    const keysIn = (value: unknown): string[] =>
      typeof value !== "object" || value === null
        ? []
        : Array.isArray(value)
          ? value.flatMap(keysIn)
          : Object.entries(value).flatMap(([key, inner]) => [...(key === "keys" ? Object.keys(inner as object) : []), ...keysIn(inner)]);
    // Two keys are the description's own.
    const lists = new Set<string>([...listKeys, "type", "patterns"]);
    expect([...new Set(keysIn(described))].filter((key) => !lists.has(key) && !page.includes(`\`${key}\``) && !page.includes(`"${key}"`))).toEqual([]);
    const file = textFile("badges.csv", "No,Last,First,Dept,Card,State,Groups,Expires\n7,Almondfeld,Iris,Press,12-4711,On,Day; Key,31/12/2199\n");
    const { checked, refused } = await readBy([file], profile, present());
    expect([refused, checked?.facility.credentials.map(({ number, status, until }) => [number, status, until])]).toEqual([[], [["4711", "active", undefined]]]);
  });

  it("reads what a source writes its own way: end minutes, backward intervals, far ends, the order of dates", async () => {
    const files = [
      textFile("schedules.csv", "id,name,from,until\nw,W,3.4.2026,31.12.2099\n"),
      // 00:00–23:59 for a whole day, and an interval that ends before it starts for never: common practice, no source.
      textFile("schedule-hours.csv", "schedule,weekday,start,end\nw,mon,00:00,23:59\nw,tue,08:00,17:59\nw,wed,23:59,00:00\nw,thu,22:00,05:59\n"),
      textFile("cardholders.csv", "id,name,status,from,until\niris,Iris,active,12/31/2025,12/31/9999\notto,Otto,active,1/2/2026,13/31/2026\n"),
    ];
    const hours = (backwards: "never" | "overnight"): FieldSource["hours"] => ({ endsIncluded: true, backwards });
    const profile = (backwards: "never" | "overnight"): SourceProfile => ({
      format: "nomade.profile/1",
      tables: [
        {
          name: "schedules",
          headers: [],
          makes: [
            {
              table: "schedules",
              fields: {
                id: own("id"),
                name: own("name"),
                from: { columns: ["from"], moment: { forms: ["dmy"] } },
                until: { columns: ["until"], moment: { forms: ["dmy"], neverFrom: 2099 } },
              },
            },
          ],
        },
        {
          name: "schedule-hours",
          headers: [],
          makes: [
            {
              table: "schedule-hours",
              fields: {
                schedule: own("schedule"),
                weekday: own("weekday"),
                start: { columns: ["start"], hours: hours(backwards) },
                end: { columns: ["end"], hours: hours(backwards) },
              },
            },
          ],
        },
        {
          name: "cardholders",
          headers: [],
          makes: [
            {
              table: "cardholders",
              fields: {
                id: own("id"),
                name: own("name"),
                status: own("status"),
                from: { columns: ["from"], moment: { forms: ["mdy"] } },
                until: { columns: ["until"], moment: { forms: ["mdy"], neverFrom: 2099 } },
              },
            },
          ],
        },
      ],
    });
    const { checked, refused } = await readBy(files, profile("never"), present({ doors: [] }));
    expect(checked?.facility.schedules).toEqual([
      { id: "w", name: "W", from: "2026-04-03", week: { mon: [["00:00", "24:00"]], tue: [["08:00", "18:00"]], wed: [], thu: [] } },
    ]);
    expect(checked?.facility.cardholders).toEqual([{ id: "iris", name: "Iris", status: "active", from: "2025-12-31" }]);
    expect(told(refused)).toEqual(["cardholders.csv:3 until"]);
    const overnight = await readBy(files, profile("overnight"), present({ doors: [] }));
    expect(overnight.checked?.facility.schedules[0]?.week?.thu).toEqual([["22:00", "06:00"]]);
  });

  it("takes a date alone for endless: what is neither a date nor an instant is refused as what it is", async () => {
    const file = textFile(
      "people.csv",
      "id,name,status,until\niris,Iris,active,30/11/2026 11:59 PM\notto,Otto,active,unknown\nuna,Una,active,2099-12-31T23:59:00Z\nada,Ada,active,2099-13-01\neva,Eva,active,9999-12-31\nmia,Mia,active,2026-11-30\n",
    );
    const { refused, checked } = await readBy(
      [file],
      people({ id: own("id"), name: own("name"), status: own("status"), until: { columns: ["until"], moment: { forms: ["iso"], neverFrom: 2099 } } }),
      present(),
    );
    expect(told(refused)).toEqual(["people.csv:2 until", "people.csv:3 until", "people.csv:5 until"]);
    expect(checked?.facility.cardholders.map(({ id, until }) => [id, until])).toEqual([
      ["una", undefined],
      ["eva", undefined],
      ["mia", "2026-11-30"],
    ]);
  });

  it("reads times without an offset on the clock of the source's zone, the later of two for what ends", async () => {
    // Europe/Vienna: 2026-10-25 02:30 comes twice, at 00:30 and 01:30 UTC; 2026-03-29 02:30 never (IANA rules).
    const file = textFile(
      "people.csv",
      "id,name,status,statusSince,from,until\niris,Iris,left,2026-07-01 08:00:30,25.10.2026 02:30,25.10.2026 2:30\notto,Otto,active,,2026-03-29 02:30,2026-03-02T08:00:00Z\nuna,Una,active,,1.7.2026,\n",
    );
    const moment = { forms: ["iso", "dmy"], zone: "Europe/Vienna" } as const;
    const fields = {
      id: own("id"),
      name: own("name"),
      status: own("status"),
      statusSince: { columns: ["statusSince"], moment },
      from: { columns: ["from"], moment },
      until: { columns: ["until"], moment },
    };
    const { refused, checked } = await readBy([file], people(fields), present());
    expect(refused).toEqual([]);
    expect(checked?.facility.cardholders.map(({ statusSince, from, until }) => [statusSince, from, until])).toEqual([
      ["2026-07-01T06:00:30Z", "2026-10-25T00:30:00Z", "2026-10-25T01:30:00Z"],
      [undefined, "2026-03-29T01:00:00Z", "2026-03-02T08:00:00Z"],
      [undefined, "2026-07-01", undefined],
    ]);
  });

  it("turns PINs into tags while reading, equal for equal ones, and shows none in any message", async () => {
    const cards = textFile(
      "cards.csv",
      "id,kind,status,Code\nc1,card,active,4711\nc2,card,active,4711\nc3,card,active,0000\nc4,card,active,\nc5,key,active,8151\nc6,card,active,9262,surplus\n",
    );
    const tags = new Map<string, string>();
    const tagOfPin = (pin: string): string => tags.get(pin) ?? tags.set(pin, `tag${tags.size}`).get(pin) ?? "";
    // Four zeros for no PIN: common practice, no source.
    const profile = byOne({
      name: "cards",
      makes: [{ table: "credentials", fields: { id: own("id"), kind: own("kind"), status: own("status"), pin: { columns: ["Code"], noPin: ["0000"] } } }],
    });
    const { read, checked, refused } = await readBy([cards], profile, present(), { tagOfPin });
    expect(checked?.facility.credentials.map(({ id, pinTag }) => [id, pinTag])).toEqual([
      ["c1", tags.get("4711")],
      ["c2", tags.get("4711")],
      ["c3", undefined],
      ["c4", undefined],
    ]);
    expect(tags.get("4711")).toMatch(/^tag/);
    expect(JSON.stringify([read.lists, checked])).not.toMatch(/4711|0000"/);
    expect(told(refused)).toEqual(["cards.csv:6 kind", "cards.csv:7"]);
    expect(JSON.stringify(refused)).not.toMatch(/8151|9262/);
  });

  it("refuses both of two rows that contradict each other, and takes those that add to each other", async () => {
    const file = textFile("people.csv", "no,name,mail\n1,Iris,\n1,Iris,iris@orchard.example\n2,Nora,a@orchard.example\n2,Nora,b@orchard.example\n3,Tam,\n");
    const profile = {
      ...people({ staffNumber: own("no"), name: own("name"), email: own("mail"), status: { constant: "active" } }),
      keys: { cardholders: ["staffNumber"] },
    };
    const { checked, refused } = await readBy([file], profile, present());
    expect(checked?.facility.cardholders.map(({ id, email }) => [id, email])).toEqual([
      ["1", "iris@orchard.example"],
      ["3", undefined],
    ]);
    expect(refused.map(({ line }) => line).sort()).toEqual([4, 5]);
  });

  it("takes an empty end for no end, which contradicts a date", async () => {
    const until: FieldSource = { columns: ["until"], moment: { forms: ["iso"], never: [""] } };
    const profile = { ...people({ staffNumber: own("no"), name: own("no"), status: { constant: "active" }, until }), keys: { cardholders: ["staffNumber"] } };
    const rows = async (text: string) => (await readBy([textFile("people.csv", `no,until\n${text}`)], profile, present())).refused.length;
    expect([await rows("1,\n1,\n"), await rows("1,2026-01-01\n1,2026-01-01\n"), await rows("1,\n1,2026-01-01\n")]).toEqual([0, 0, 2]);
  });

  it("knows objects of the register by the key that it names, and refuses one that fits two", async () => {
    const there = present({
      cardholders: [
        { id: "p-7", name: "Iris", status: "active", email: "iris@orchard.example" },
        { id: "a", name: "Twin", status: "active", email: "twin@orchard.example" },
        { id: "b", name: "Twin", status: "active", email: "twin@orchard.example" },
      ],
    });
    const profile = { ...people({ name: own("name"), email: own("mail"), status: { constant: "suspended" } }), keys: { cardholders: ["email"] } };
    const { checked, refused } = await readBy([textFile("people.csv", "name,mail\nIris A,IRIS@orchard.example\nTwin,twin@orchard.example\n")], profile, there);
    expect(checked?.facility.cardholders.map(({ id, status }) => [id, status])).toEqual([["p-7", "suspended"]]);
    expect(told(refused)).toEqual(["people.csv:3 mail"]);
  });

  it("takes nobody of the register for another: an id that a number or a name would give and something else has is refused", async () => {
    const there = present({ cardholders: [{ id: "1001", name: "Somebody else", status: "active" }], groups: [{ id: "cellar", name: "Wine cellar" }] });
    const profile = { ...people({ staffNumber: own("no"), name: own("name"), status: { constant: "active" } }), keys: { cardholders: ["staffNumber"] } };
    const { refused } = await readBy([textFile("people.csv", "no,name\n1001,Iris\n1002,Nora\n")], profile, there);
    expect(told(refused)).toEqual(["people.csv:2 no"]);
    const groups = byOne({ name: "groups", makes: [{ table: "groups", fields: { name: own("name") } }] });
    expect(told((await readBy([textFile("groups.csv", "name\nCellar\n")], groups, there)).refused)).toEqual(["groups.csv:2 name"]);
    // The column read as the id says that it is the same.
    const asId = people({ id: own("no"), name: own("name"), status: { constant: "active" } });
    expect((await readBy([textFile("people.csv", "no,name\n1001,Iris\n")], asId, there)).refused).toEqual([]);
  });

  it("refuses a text that is the id of one and the number of another, unless the profile says which it is", async () => {
    const there = present({
      cardholders: [
        { id: "7", name: "A", status: "active", staffNumber: "8" },
        { id: "9", name: "B", status: "active", staffNumber: "7" },
      ],
    });
    const cards = (by?: string): SourceProfile =>
      byOne({
        name: "cards",
        makes: [
          {
            table: "credentials",
            fields: {
              number: own("n"),
              cardholder: { columns: ["who"], ...(by !== undefined && { by }) },
              kind: { constant: "card" },
              status: { constant: "active" },
            },
          },
        ],
      });
    const holder = async (profile: SourceProfile) => {
      const { checked, refused } = await readBy([textFile("cards.csv", "n,who\n1,7\n")], profile, there);
      return refused.length > 0 ? "refused" : checked?.facility.credentials[0]?.cardholder;
    };
    expect([await holder(cards()), await holder(cards("id")), await holder(cards("staffNumber"))]).toEqual(["refused", "7", "9"]);
    expect(await holder({ ...cards(), keys: { cardholders: ["staffNumber"] } })).toBe("9");
  });

  it("refuses two names that would give one id, and takes ids that it states", async () => {
    const makes = [{ table: "groups", fields: { name: own("name") } }];
    const file = textFile("groups.csv", "name\nPress House\nPress-House\n");
    expect(told((await readBy([file], byOne({ name: "groups", makes }), present())).refused)).toEqual(["groups.csv:3 name", "groups.csv:2 name"]);
    const stated = byOne({ name: "groups", makes }, { madeFromNames: { groups: { ids: { "Press-House": "press-2" } } } });
    expect((await readBy([file], stated, present())).checked?.facility.groups.map(({ id }) => id)).toEqual(["press-house", "press-2"]);
  });

  it("says precisely what is new in a file that it does not fit any more", async () => {
    const profile = people({ name: own("name"), status: { columns: ["status"], values: { A: "active" } } });
    const file = textFile("people.csv", "name,shoe size,status\nIris,40,A\nNora,39,Z\n");
    const { refused } = await readBy([file], profile, present());
    expect(refused.filter(({ whole }) => whole).map(({ column }) => column)).toEqual(["shoe size"]);
    const looks = [];
    for (const table of await tablesOf([file])) looks.push({ ...(await lookAtTable(table)), isHidden: false });
    expect(openQuestions(looks, profile, [])).toEqual([
      { kind: "values", table: "people", makes: "cardholders", field: "status", column: "status", values: [{ text: "Z", count: 1 }] },
      { kind: "columns", table: "people", columns: ["shoe size"] },
    ]);
    const without = people({ name: own("name"), status: own("state") });
    expect(openQuestions(looks, without, []).map(({ kind }) => kind)).toEqual(["columns", "gone"]);
  });

  it("says that there is nothing of a list of which its table has no row", async () => {
    const there = present({ cardholders: [{ id: "a", name: "A", status: "active" }] });
    const { checked } = await readBy([textFile("people.csv", "name,status\n")], people({ name: own("name"), status: own("status") }), there);
    expect(checked?.facility.cardholders).toEqual([]);
  });

  it("says what missing means: gone, kept, or, of people, left since the moment of the list", async () => {
    const there = present({
      cardholders: [
        { id: "a", name: "A", status: "active" },
        { id: "b", name: "B", status: "left" },
      ],
    });
    const said = async (means?: "gone" | "left" | "kept") => {
      const profile = { ...people({ name: own("name"), status: own("status") }), ...(means && { missing: { cardholders: means } }) };
      const { checked } = await readBy([textFile("people.csv", "name,status\nC,active\n")], profile, there, { asOf: "2026-11-28T09:00:00Z" });
      return checked?.facility.cardholders.map(({ id, status, statusSince }) => [id, status, statusSince].filter(Boolean).join(" "));
    };
    expect([await said(), await said("gone"), await said("kept"), await said("left")]).toEqual([
      ["c active"],
      ["c active"],
      ["c active", "a active", "b left"],
      ["c active", "a left 2026-11-28T09:00:00Z", "b left"],
    ]);
  });

  it("never leaves a schedule without hours to be taken for one that never opens", async () => {
    const makes = [{ table: "schedules", fields: { name: own("name") } }];
    const { refused, checked } = await readBy([textFile("s.csv", "name\nNew hours\n")], byOne({ name: "s", makes }), present());
    expect([told(refused), checked?.facility.schedules.some(({ name }) => name === "New hours")]).toEqual([["s.csv:2 name"], false]);
    const both: SourceProfile = {
      format: "nomade.profile/1",
      tables: [
        { name: "s", headers: [], makes },
        { name: "h", headers: [], makes: [{ table: "schedule-hours", fields: { schedule: own("s"), weekday: own("d"), hours: own("h") } }] },
      ],
    };
    const read = await readBy([textFile("s.csv", "name\nA\nB\n"), textFile("h.csv", "s,d,h\nA,Mon-Fri,08:00-17:00\n")], both, present());
    expect(read.refused.map(({ value }) => value)).toContain("B");
  });
});

describe("any profile on any table", () => {
  const header = fc.constantFrom("id", "name", "__proto__", "constructor", "Mon", "PIN", "a b");
  const cell = fc.oneof(
    fc.constantFrom("", "x", "1", "2026-01-01", "31/12/2199", "07:00-18:00", "active", "Iris", "__proto__", "constructor", "=1+1", "a;b", "0x1F"),
    fc.string({ maxLength: 6 }),
  );
  const source: fc.Arbitrary<FieldSource> = fc.oneof(
    fc.record({ constant: fc.constantFrom("active", "x", "__proto__") }),
    fc.record(
      {
        columns: fc.uniqueArray(fc.oneof(header, fc.constantFrom("(heading)", "(cell)")), { minLength: 1, maxLength: 2 }),
        split: fc.constantFrom(";", ""),
        turned: fc.constant(true as const),
        otherwise: fc.constantFrom("x", "active"),
        values: fc.dictionary(cell, fc.option(cell)),
        part: fc.constantFrom({ delimiter: ";", nth: 1 }, { from: 1, to: 2 }, { pattern: "a{part}" }),
        moment: fc.record({ forms: fc.uniqueArray(fc.constantFrom(...momentForms)), midnight: fc.constantFrom("date" as const, "instant" as const) }),
        number: fc.constantFrom("hexadecimal" as const, "26-bit" as const, "code-and-number" as const),
      },
      { requiredKeys: ["columns"] },
    ),
  );
  const makes = fc
    .constantFrom(...targetTables.values())
    .chain((target) =>
      fc.record({ table: fc.constant(target.table), fields: fc.dictionary(fc.constantFrom(...target.fields.keys()), source, { minKeys: 1, maxKeys: 5 }) }),
    );

  it("is read in good time, whatever is in a cell, and makes no more of a row than there may be", async () => {
    const blank = " ".repeat(900_000);
    const many = Array.from({ length: 400 }, (_, at) => at).join(";");
    const kinds: readonly (readonly [string, Readonly<Record<string, FieldSource>>])[] = [
      ["cardholders", { name: own("a"), status: { constant: "active" }, until: { columns: ["b"], moment: { forms: [...momentForms] } } }],
      ["schedule-hours", { schedule: own("a"), weekday: { columns: ["b"] }, hours: { columns: ["b"], hours: { backwards: "overnight" } } }],
      ["credentials", { number: { columns: ["b"], number: "code-and-number" }, kind: { constant: "card" }, status: { constant: "active" } }],
      ["memberships", { cardholder: { columns: ["a"] }, group: { columns: ["b"], split: "" } }],
    ];
    const began = process.hrtime.bigint();
    for (const [table, fields] of kinds) {
      const used = new Set(Object.values(fields).flatMap(({ columns = [] }) => columns));
      const { read } = await readBy(
        [textFile("t.csv", `a,b\nx,1${blank}2\n`)],
        byOne({ name: "t", aside: ["a", "b"].filter((one) => !used.has(one)), makes: [{ table, fields }] }),
        present(),
      );
      expect([table, read.outcomes[0]?.rows]).toEqual([table, 1]);
    }
    const product = byOne({
      name: "t",
      makes: [{ table: "grants", fields: { group: { columns: ["a"], split: ";" }, level: { columns: ["b"], split: ";" } } }],
    });
    const { refused } = await readBy([textFile("t.csv", `a,b\n${many},${many}\n`)], product, present());
    expect(refused.map(({ reason }) => reason)).toEqual([expect.stringMatching(/would make 160,000 of grants/)]);
    // A pattern that tries every place of a long cell would take minutes: this is no measure of speed.
    expect(Number(process.hrtime.bigint() - began) / 1e9).toBeLessThan(30);
  });

  it("never fails but by name, and accounts for every row", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(header, { minLength: 1, maxLength: 4 }).chain((headers) =>
          fc.record({
            headers: fc.constant(headers),
            rows: fc.array(fc.array(cell, { minLength: headers.length, maxLength: headers.length }), { maxLength: 6 }),
            made: fc.array(makes, { minLength: 1, maxLength: 3 }),
            unfold: fc.option(fc.constant(headers.slice(-1).map((column) => ({ heading: column, columns: [column] }))), { nil: undefined }),
            names: fc.boolean(),
          }),
        ),
        async ({ headers, rows, made, unfold, names }) => {
          const used = new Set(made.flatMap(({ fields }) => Object.values(fields).flatMap(({ columns = [] }) => columns)));
          const unfolded = new Set(unfold?.flatMap(({ columns }) => columns));
          const profile = byOne(
            {
              name: "t",
              text: { skip: 0, header: true, delimiter: ",", encoding: "utf-8" },
              ...(unfold && { unfold }),
              aside: headers.filter((one) => !used.has(one) && !unfolded.has(one)),
              makes: made,
            },
            names ? { madeFromNames: { groups: {}, doors: {}, schedules: {} } } : {},
          );
          const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;
          const text = [headers, ...rows].map((row) => row.map(quoted).join(",")).join("\n");
          const { read, refused } = await readBy([textFile("t.csv", text)], profile, present());
          if (refused.some(({ whole }) => whole)) return;
          const filled = rows.filter((row) => row.some((one) => one.trim() !== "")).length;
          const [outcome] = read.outcomes;
          expect(outcome?.rows).toBe(filled);
          expect((outcome?.refused ?? 0) <= filled).toBe(true);
        },
      ),
      { numRuns: 400 },
    );
  });
});
