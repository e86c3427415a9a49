import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import type { FacilityDocument } from "@/core/facility/document";
import type { Export } from "../exports/exports";
import { cardRows, germanCards, groupMatrix, levelMatrix, weekdayHours, workbookExport } from "../exports/exports";
import { violationsOf } from "./axe";
import { orchard } from "./orchard";
import { nomade, signedIn } from "./people";

/** What other systems write, taken in as it came, by keyboard: how much has to be said the first time, and the second. */
test.describe.configure({ mode: "serial" });

let reviewer: Page;
const folder = mkdtempSync(path.join(tmpdir(), "nomade-exports-"));

const present = (): FacilityDocument => {
  const out = path.join(folder, "out.json");
  nomade(["export", "--format", "document", "--out", out]);
  return JSON.parse(readFileSync(out, "utf8")) as FacilityDocument;
};

test.beforeAll(async ({ browser }) => {
  reviewer = await signedIn(browser, "tessa");
});

test.afterAll(() => {
  // The register is that of the other tests again.
  const file = path.join(folder, "orchard.json");
  writeFileSync(file, JSON.stringify(orchard));
  nomade(["intake", file, "--source", "orchard keys"]);
});

const upload = ({ name, bytes }: Export) => ({ name, mimeType: "application/octet-stream", buffer: bytes });

/** Moves on with the tabulator to what has this name, and counts nothing: looking is no choice. */
async function tabTo(name: RegExp, role: "button" | "radio" | "checkbox" | "textbox" | "combobox"): Promise<void> {
  const wanted = reviewer.getByRole(role, { name }).first();
  await expect(wanted).toBeVisible();
  await wanted.focus();
}

interface Said {
  readonly choices: number;
}

/** Takes an export in the first time; `choose` makes the choices that it needs, from the keyboard, and says how many these were. */
async function first(one: Export, source: string, choose: () => Promise<number>): Promise<Said> {
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(upload(one));
  await expect(reviewer.getByRole("heading", { name: "What its rows make" })).toBeVisible();
  expect(await violationsOf(reviewer)).toEqual([]);
  const choices = await choose();
  await expect(reviewer.getByRole("region", { name: "What has to be said" })).toHaveCount(0);
  await expect(reviewer.getByRole("button", { name: "Read it so" })).toBeEnabled();
  await tabTo(/^Read it so/, "button");
  await reviewer.keyboard.press("Enter");
  await expect(reviewer.getByLabel("Name of the source")).toBeVisible();
  await reviewer.getByLabel("Name of the source").focus();
  await reviewer.keyboard.type(source);
  await tabTo(/^Store$/, "button");
  await reviewer.keyboard.press("Enter");
  await expect(reviewer.getByRole("status")).toContainText("as snapshot");
  return { choices };
}

/** The same file again: its source is known by how it writes, and nothing is asked. */
async function second(one: Export, source: string): Promise<void> {
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(upload({ ...one, name: one.name.replace("2026-11-28", "2026-12-05") }));
  await expect(reviewer.getByRole("heading", { name: /as of|Nothing would change/ })).toBeVisible();
  await expect(reviewer.getByLabel("Name of the source")).toHaveValue(source);
  await expect(reviewer.getByRole("button", { name: "Store" })).toBeEnabled();
  await tabTo(/^Store$/, "button");
  await reviewer.keyboard.press("Enter");
  await expect(reviewer.getByRole("status")).toContainText(/as snapshot|Nothing changed/);
}

test("one row a card: nothing has to be chosen, the first time or the second", async () => {
  expect(await first(cardRows, "badge office", () => Promise.resolve(0))).toEqual({ choices: 0 });
  const { credentials = [], memberships = [] } = present();
  expect(credentials.map(({ facilityCode, number, status }) => [facilityCode, number, status])).toEqual([
    ["12", "4711", "active"],
    ["12", "4712", "lost"],
    ["12", "4713", "active"],
    ["12", "4714", "suspended"],
  ]);
  expect(memberships.map(({ group, cardholder }) => `${group} ${cardholder}`)).toEqual(
    expect.arrayContaining(["day-crew 1001", "key-holders 1001", "day-crew 1002", "day-crew 1004"]),
  );
  await second(cardRows, "badge office");
});

test("a matrix of people and groups: nothing has to be chosen", async () => {
  expect(await first(groupMatrix, "crew lists", () => Promise.resolve(0))).toEqual({ choices: 0 });
  expect((present().memberships ?? []).map(({ group, cardholder }) => `${group} ${cardholder}`).sort()).toEqual([
    "day-crew 1001",
    "day-crew 1002",
    "key-holders 1001",
    "night-crew 1003",
  ]);
  await second(groupMatrix, "crew lists");
});

test("weekday columns on a 12-hour clock: one choice, what hours over midnight mean", async () => {
  const choose = async (): Promise<number> => {
    await tabTo(/over midnight, into the next day/, "radio");
    await reviewer.keyboard.press("Space");
    return 1;
  };
  expect(await first(weekdayHours, "time server", choose)).toEqual({ choices: 1 });
  const { schedules = [] } = present();
  expect(schedules.find(({ id }) => id === "night-hours")?.week?.mon).toEqual([["22:00", "06:00"]]);
  expect(schedules.find(({ id }) => id === "day-hours")).toMatchObject({ from: "2024-03-25", week: { fri: [["07:00", "16:30"]] } });
  expect(schedules.find(({ id }) => id === "day-hours")).not.toHaveProperty("until");
  await second(weekdayHours, "time server");
});

test("a matrix of levels and doors: nothing has to be chosen once its schedules are there", async () => {
  const choose = async (): Promise<number> => {
    const asked = reviewer.getByRole("checkbox", { name: /Make these doors from their names/ });
    await expect(reviewer.getByRole("heading", { name: "What its rows make" })).toBeVisible();
    if ((await asked.count()) === 0) return 0;
    await asked.focus();
    await reviewer.keyboard.press("Space");
    return 1;
  };
  const { choices } = await first(levelMatrix, "level sheet", choose);
  expect(choices).toBeLessThanOrEqual(1);
  expect((present().levels ?? []).filter(({ id }) => id.endsWith("access")).map(({ id, rows = [] }) => [id, rows.length])).toEqual([
    ["all-access", 3],
    ["day-access", 2],
    ["night-access", 2],
  ]);
  await second(levelMatrix, "level sheet");
});

test("German headings, semicolons, Windows-1252, hexadecimal numbers: nothing has to be chosen", async () => {
  expect(await first(germanCards, "Ausweisstelle", () => Promise.resolve(0))).toEqual({ choices: 0 });
  const { credentials = [], cardholders = [] } = present();
  expect(cardholders.map(({ name }) => name)).toEqual(expect.arrayContaining(["Nora Mooßtränd", "Jörg Grünwald"]));
  expect(credentials.map(({ number }) => number)).toEqual(expect.arrayContaining(["4775", "4776", "255", "48879"]));
  await second(germanCards, "Ausweisstelle");
});

test("a workbook of five sheets with titles: nothing has to be chosen", async () => {
  const one = workbookExport();
  expect(await first(one, "access system", () => Promise.resolve(0))).toEqual({ choices: 0 });
  const { credentials = [], doors = [] } = present();
  expect(credentials.map(({ number, status }) => [number, status])).toEqual(
    expect.arrayContaining([
      ["4711", "active"],
      ["4713", "returned"],
    ]),
  );
  expect(doors.map(({ id }) => id)).toEqual(expect.arrayContaining(["main-gate", "cellar-door", "press-hall"]));
  await second(one, "access system");
});
