import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { read, utils } from "@e965/xlsx";
import { parse } from "csv-parse/sync";
import { addAccount, signedIn } from "./people";

/** Findings, and what is done about them; on the register that the whole way left. */
test.describe.configure({ mode: "serial" });

let reviewer: Page;
let second: Page;

test.beforeAll(async ({ browser }) => {
  addAccount("wanda", "Wanda Weigher", "reviewer");
  addAccount("viggo", "Viggo Second", "administrator");
  reviewer = await signedIn(browser, "wanda");
  second = await signedIn(browser, "viggo");
});

test.afterAll(async () => {
  await reviewer.context().close();
  await second.context().close();
});

const rowsOf = (page: Page) => page.getByRole("group", { name: "Findings" }).locator("tbody tr");
const margin = (page: Page) => page.getByRole("complementary");
const inDays = (days: number): string => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

/** Types a date, and lets the calendar beside it close. */
async function setUntil(page: Page, days: number): Promise<void> {
  const field = margin(page).getByLabel("Until, that date included");
  await field.fill(inDays(days));
  await field.press("Tab");
}

/** Chooses the first finding whose row says something. */
async function choose(page: Page, words: string | RegExp): Promise<void> {
  await rowsOf(page).filter({ hasText: words }).first().getByRole("button").click();
}

test("a finding of little weight is waived with a reason until a date, from the keyboard, and is hidden; ending the waiver brings it back", async () => {
  await reviewer.goto("/findings?by=rule&key=no-certifier");
  const before = await rowsOf(reviewer).count();
  expect(before).toBeGreaterThan(0);
  const about = await rowsOf(reviewer).first().getByRole("button").innerText();
  await rowsOf(reviewer).first().getByRole("button").click();
  await reviewer.keyboard.press("w");
  const reason = margin(reviewer).getByLabel("Why it may stay");
  await reason.fill("short");
  await margin(reviewer).getByRole("button", { name: "Waive it" }).click();
  await expect(margin(reviewer).getByRole("alert")).toContainText("at least ten letters");
  await reason.fill("The owner is named in spring.");
  await setUntil(reviewer, 800);
  await margin(reviewer).getByRole("button", { name: "Waive it" }).click();
  await expect(margin(reviewer).getByRole("alert")).toContainText("a year at most");
  await setUntil(reviewer, 90);
  await margin(reviewer).getByRole("button", { name: "Waive it" }).click();
  await expect(rowsOf(reviewer)).toHaveCount(before - 1);
  await reviewer.goto("/findings?waived=only");
  await expect(rowsOf(reviewer).filter({ hasText: about })).toContainText(`waived until ${inDays(90)}`);
  await choose(reviewer, about);
  await margin(reviewer).getByRole("button", { name: "End the waiver" }).click();
  await expect(rowsOf(reviewer)).toHaveCount(0);
  await reviewer.goto("/findings?by=rule&key=no-certifier");
  await expect(rowsOf(reviewer)).toHaveCount(before);
  await expect(margin(reviewer).getByRole("heading", { name: "What was said of it" })).toBeVisible();
});

test("a waiver of a finding that weighs much hides nothing before somebody else confirms it", async () => {
  const words = "Opens a sensitive area at all hours";
  await reviewer.goto("/findings");
  await choose(reviewer, words);
  await margin(reviewer).getByRole("button", { name: "Waive …" }).click();
  await margin(reviewer).getByLabel("Why it may stay").fill("Presses at night until the harvest is in.");
  await setUntil(reviewer, 30);
  await margin(reviewer).getByRole("button", { name: "Ask for the waiver" }).click();
  await expect(margin(reviewer)).toContainText("Somebody else has to confirm it");
  await expect(margin(reviewer).getByRole("button", { name: "Confirm it" })).toHaveCount(0);
  await expect(rowsOf(reviewer).filter({ hasText: words })).toContainText(["a waiver is asked for"]);

  await second.goto("/findings");
  await second.getByRole("link", { name: /Presses at night/ }).click();
  await expect(second.getByRole("heading", { level: 1 })).toHaveText("One finding");
  await margin(second).getByRole("button", { name: "Confirm it" }).click();
  await expect(margin(second)).toContainText("confirmed by viggo");
  await reviewer.goto("/findings");
  await expect(rowsOf(reviewer).filter({ hasText: words })).toHaveCount(0);
  await second.goto("/findings?waived=only");
  await choose(second, words);
  await margin(second).getByRole("button", { name: "End the waiver" }).click();
  await expect(rowsOf(second)).toHaveCount(0);
  await reviewer.goto("/evidence");
  await expect(reviewer.getByText(/none of them altered/)).toBeVisible();
});

test("a finding is noted, made a task, found among one's own, and has an address of its own", async () => {
  await reviewer.goto("/findings");
  const about = await rowsOf(reviewer).nth(1).getByRole("button").innerText();
  await rowsOf(reviewer).nth(1).getByRole("button").click();
  await reviewer.keyboard.press("n");
  await margin(reviewer).getByLabel("A note for whoever looks next").fill("Asked Dagmar on Monday.");
  await margin(reviewer).getByRole("button", { name: "Keep the note" }).click();
  await expect(margin(reviewer)).toContainText("Asked Dagmar on Monday.");
  await margin(reviewer).getByRole("heading", { level: 2 }).first().click();
  await reviewer.keyboard.press("t");
  await expect(rowsOf(reviewer).filter({ hasText: "wanda" })).toHaveCount(1);
  await reviewer.getByRole("link", { name: "My tasks" }).click();
  await expect(rowsOf(reviewer)).toHaveCount(1);
  await expect(rowsOf(reviewer)).toContainText(about);
  await margin(reviewer).getByRole("link", { name: "Its address" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("One finding");
  await second.goto(reviewer.url());
  await expect(margin(second)).toContainText("Asked Dagmar on Monday.");
});

test("findings go out as CSV, as a workbook with typed cells, and as JSON Lines: the same ones", async () => {
  await reviewer.goto("/findings");
  const save = async (name: string): Promise<Buffer> => {
    const [saved] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name, exact: true }).click()]);
    return readFile(await saved.path());
  };
  const csv = parse<Record<string, string>>((await save("CSV")).toString("utf8"), { columns: true, bom: true });
  const book = read(await save("XLSX"));
  const sheet = utils.sheet_to_json<Record<string, unknown>>(book.Sheets[book.SheetNames[0] ?? ""] ?? {});
  const lines = (await save("JSON Lines"))
    .toString("utf8")
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as { fingerprint: string; risk: number });
  expect(csv.length).toBeGreaterThan(5);
  expect(csv.map((row) => [row.Fingerprint, Number(row.Risk)])).toEqual(lines.map(({ fingerprint, risk }) => [fingerprint, risk]));
  expect(sheet.map((row) => [row.Fingerprint, row.Risk])).toEqual(lines.map(({ fingerprint, risk }) => [fingerprint, risk]));
  for (const row of csv) for (const cell of Object.values(row)) expect(cell).not.toMatch(/^[=+@\t\r-]/);
});

test("settings show which findings would come and go, are put in force by a second person, are recorded, and refuse what they cannot be", async () => {
  await reviewer.goto("/findings/settings");
  await reviewer
    .getByRole("row", { name: /An area without an owner/ })
    .getByLabel("Base of risk")
    .fill("33");
  await reviewer.getByLabel("Country").first().fill("q");
  await reviewer.getByRole("button", { name: "See what it would do" }).click();
  await expect(margin(reviewer).getByRole("alert")).toContainText("two letters");
  await reviewer.getByLabel("Country").first().fill("");
  await reviewer
    .getByRole("row", { name: /Opens a sensitive area at all hours/ })
    .getByLabel("Sensitivity")
    .fill("3");
  await reviewer.getByRole("button", { name: "See what it would do" }).click();
  await expect(
    margin(reviewer)
      .getByRole("status")
      .filter({ hasText: /would come/ }),
  ).toBeVisible({ timeout: 60_000 });
  await reviewer.getByRole("button", { name: "Propose it" }).click();
  await expect(margin(reviewer)).toContainText("has to confirm it");
  // Who proposes it cannot confirm it; somebody else sees on the first page that it waits.
  await expect(reviewer.getByRole("button", { name: "Take it back" })).toBeVisible();
  await expect(reviewer.getByRole("button", { name: "Confirm it" })).toHaveCount(0);
  await second.goto("/inquiry");
  await second.getByRole("link", { name: /A change by \w+ of how rules judge/ }).click();
  await expect(margin(second)).toContainText("proposes to change");
  await second.getByRole("button", { name: "Confirm it" }).click();
  await expect(margin(second)).toContainText("looked for anew", { timeout: 60_000 });
  await reviewer.goto("/findings?by=rule&key=no-certifier");
  await expect(margin(reviewer).getByRole("table")).toContainText("33");
  await reviewer.goto("/findings/settings");
  await reviewer
    .getByRole("row", { name: /An area without an owner/ })
    .getByLabel("Base of risk")
    .fill("");
  await reviewer
    .getByRole("row", { name: /Opens a sensitive area at all hours/ })
    .getByLabel("Sensitivity")
    .fill("");
  await reviewer.getByRole("button", { name: "See what it would do" }).click();
  await reviewer.getByRole("button", { name: "Propose it" }).click({ timeout: 60_000 });
  await expect(margin(reviewer)).toContainText("has to confirm it");
  await second.goto("/findings/settings");
  await second.getByRole("button", { name: "Confirm it" }).click();
  await expect(margin(second)).toContainText("looked for anew", { timeout: 60_000 });
  await reviewer.goto("/evidence");
  await expect(reviewer.getByRole("cell", { name: /viggo changed how rules judge/i }).first()).toBeVisible();
});

test("a finding is put into a round of its own, from the keyboard, and says so", async () => {
  await reviewer.goto("/findings?by=rule&key=around-the-clock");
  const name = await margin(reviewer).getByRole("heading", { level: 2 }).first().innerText();
  await margin(reviewer).getByRole("heading", { level: 2 }).first().click();
  await reviewer.keyboard.press("c");
  await expect(reviewer).toHaveURL(/\/certification\/new\?about=/);
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText(`A new round about ${name}`);
  await expect(margin(reviewer).getByLabel("Name")).toHaveValue(`About ${name}`);
  await margin(reviewer).getByLabel("Due").fill("31 Dec 2099");
  await reviewer.keyboard.press("Tab");
  await margin(reviewer).getByRole("button", { name: "Open the round" }).click();
  await expect(reviewer).toHaveURL(/\/certification\/\d+$/);
  await reviewer.goto("/findings?by=rule&key=around-the-clock");
  await expect(margin(reviewer).getByRole("link", { name: `About ${name}` })).toBeVisible();
  await expect(margin(reviewer)).toContainText("not decided yet by");
  // An address that asks for nobody that can be is not taken for everybody.
  expect((await reviewer.goto("/certification/new?about=door:1"))?.status()).toBe(404);
});

test("a finding leads to a draft that would end it", async () => {
  await reviewer.goto("/findings?by=rule&key=around-the-clock");
  await margin(reviewer).getByRole("link", { name: "What taking it away would do" }).click();
  await expect(reviewer).toHaveURL(/\/register\/drafts\/withdraw\?finding=/);
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Withdraw");
});

test("events are found, held against the record of their time, and lead to what they speak of", async () => {
  await reviewer.goto("/register/events");
  const rows = reviewer.getByRole("group", { name: "Events" }).locator("tbody tr");
  await expect(rows.first()).toBeVisible();
  const all = await rows.count();
  await reviewer.getByLabel("Find events").fill("ellar");
  await expect(reviewer).toHaveURL(/text=ellar/);
  for (const words of await rows.allInnerTexts()) expect(words).toContain("Cellar door");
  await reviewer.goto("/register/events?by=person");
  await expect(reviewer.getByRole("row").nth(1)).toBeVisible();
  await reviewer.goto("/register/events?result=never");
  await expect(reviewer.getByRole("alert").filter({ hasText: "Not understood" })).toContainText("result=never");
  await reviewer.goto("/register/door/cellar-door");
  await reviewer.getByRole("link", { name: "Events", exact: true }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Cellar door");
  expect(all).toBeGreaterThan(50);

  await reviewer.goto("/register/events/replay");
  await reviewer.getByRole("button", { name: "Hold them against the record" }).click();
  await expect(reviewer.getByText(/agree with the record of their time/)).toBeVisible({ timeout: 60_000 });
});
