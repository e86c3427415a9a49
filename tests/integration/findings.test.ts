import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it, jest } from "@jest/globals";
import { findings as command } from "@/cli/findings";
import { facilityDraft } from "~/tests/builders";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-findings-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const fileOf = (name: string, content: unknown): string => {
  const file = path.join(folder, name);
  writeFileSync(file, typeof content === "string" ? content : JSON.stringify(content));
  return file;
};

function findings(...args: readonly string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["dist/nomade.mjs", "findings", ...args], { encoding: "utf8" });
  const lines = (text: string): string[] => text.split("\n").filter(Boolean);
  return { status, printed: lines(stdout).map((line) => JSON.parse(line) as Record<string, unknown>), said: lines(stderr) };
}

/** The command within this process: as a process of its own each case would take a second. */
async function printedHere(...args: readonly string[]) {
  let text = "";
  const write = jest.spyOn(process.stdout, "write").mockImplementation((piece) => {
    text += String(piece);
    return true;
  });
  try {
    const status = await command(args);
    return [
      status,
      text
        .split("\n")
        .filter(Boolean)
        .map((line) => JSON.parse(line) as unknown),
    ];
  } finally {
    write.mockRestore();
  }
}

interface Case {
  readonly rule: string;
  readonly facility: object;
  readonly rules: object;
  readonly events?: string;
  readonly earlier?: readonly object[];
  readonly decisions?: string | readonly object[];
  readonly lines: readonly object[];
}

/** Worked out by hand from the text of the catalogue. */
const cases = readdirSync("tests/cases/findings").map((name) => [name, JSON.parse(readFileSync(`tests/cases/findings/${name}`, "utf8")) as Case] as const);

describe("findings of a document", () => {
  it.each(cases)("are those of the case %s", async (name, { rule, facility, rules, events, earlier = [], decisions, lines }) => {
    const asLines = (all: string | readonly object[]): string => (typeof all === "string" ? all : all.map((one) => JSON.stringify(one)).join("\n"));
    const done = await printedHere(
      fileOf(name, facility),
      ...["--rule", rule, "--settings", fileOf(`settings-${name}`, rules)],
      ...(events === undefined ? [] : ["--events", fileOf(`${name}.csv`, events)]),
      ...earlier.flatMap((document, i) => ["--earlier", fileOf(`${i}-${name}`, document)]),
      ...(decisions === undefined ? [] : ["--decisions", fileOf(`${name}.jsonl`, asLines(decisions))]),
    );
    expect(done).toEqual([0, lines]);
  });

  const plain = facilityDraft({
    sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "k" }],
    calendars: [{ id: "k", name: "K", days: [{ name: "Nationalfeiertag", dayType: "public", on: "2026-10-25" }] }],
  });
  const document = fileOf("plain.json", plain);

  it("know the public holidays of a country by an independent library (date-holidays 3.37.0): Austria's of 26 October", () => {
    const settings = fileOf("country.json", { format: "nomade.rules/1", sites: { garden: { country: "AT" } } });
    const { printed } = findings(document, "--settings", settings, "--rule", "holiday-missing", "--risk");
    const dates = printed.map(({ distinct }) => (distinct as string[])[0]);
    expect(dates).toEqual([...dates].sort());
    expect(printed.find(({ distinct }) => (distinct as string[])[0] === "2026-10-26")).toMatchObject({
      subject: { kind: "site", id: "garden" },
      proof: { name: "Nationalfeiertag", other: "2026-10-25" },
      risk: { sum: 12, base: 12, sensitivity: 0, outOfHours: 0, weeklyHours: 0, standing: 0 },
    });
    // Easter Monday and Whit Monday of 2026, in the days from the export on for 13 months.
    expect(dates).toEqual(expect.arrayContaining(["2026-04-06", "2026-05-25", "2026-12-25", "2027-03-29"]));
  });

  it("are refused with all that is wrong with the settings, at its place", () => {
    const settings = fileOf("wrong.json", {
      format: "nomade.rules/2",
      horizonDays: 0,
      parameters: { unused: { dayz: 3, days: -1 }, "tried-again": { times: 0 }, "right-unused": { percent: 101 }, nothing: {} },
      duties: [
        { id: "one", a: { area: "none" }, b: { area: "x", level: "y" } },
        { id: "one", a: { level: null }, b: { level: "none" } },
      ],
      sites: { nowhere: { country: "Austria", business: { week: { mon: [["25:00", "26:00"]] } } } },
      weights: { base: { unused: 101 } },
      more: null,
    });
    const { status, printed, said } = findings(document, "--settings", settings);
    expect([status, printed]).toEqual([1, []]);
    const paths = said.map((line) => (JSON.parse(line) as { path: string }).path);
    for (const place of [
      "format",
      "horizonDays",
      "parameters.unused.dayz",
      "parameters.unused.days",
      "parameters.tried-again.times",
      "parameters.right-unused.percent",
      "parameters.nothing",
      "duties[0].a.area",
      "duties[0].b",
      "duties[1].id",
      "duties[1].a.level",
      "duties[1].b.level",
      "sites.nowhere",
      "sites.nowhere.country",
      "sites.nowhere.business.week.mon[0][0]",
      "weights.base.unused",
      "more",
    ])
      expect(paths).toContain(place);
  });

  it("are refused where events or decisions are, with the line, and where earlier documents are not earlier, as wrong usage", () => {
    const events = fileOf(
      "events.jsonl",
      '{"at":"2026-02-27T10:00:00Z","door":"gate","result":"granted","credential":"c1"}\n{"at":"yesterday","door":"gate"}\n',
    );
    const refused = findings(document, "--events", events);
    expect([refused.status, refused.printed, refused.said[0]]).toEqual([1, [], expect.stringContaining("line 2")]);
    const decisions = findings(document, "--decisions", fileOf("decisions.jsonl", '{"at":"2026-01-01","area":"vault","decision":"keep"}'));
    expect([decisions.status, decisions.said.length]).toEqual([1, 2]);
    expect(findings(document, "--earlier", document).status).toBe(2);
    expect(findings(document, "--rule", "no-such-rule").status).toBe(2);
    expect(findings(document, "--events", path.join(folder, "none.csv")).status).toBe(2);
  });

  it("say on standard error which events are of nobody", () => {
    const events = fileOf(
      "unknown.csv",
      "result,door,at,number,credential\r\nrefused,gate,2026-02-27T10:00:00Z,17,\r\nrefused,elsewhere,2026-02-27T10:00:00Z,,c1\r\n",
    );
    const { status, said } = findings(document, "--events", events, "--rule", "unknown-tried");
    expect([status, said.length]).toEqual([0, 2]);
  });
});
