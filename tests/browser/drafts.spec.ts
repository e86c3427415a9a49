import { readFile } from "node:fs/promises";
import { writeFileSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Browser, Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { parse } from "csv-parse/sync";
import type { FacilityDocument } from "@/core/facility/document";
import { orchard } from "./orchard";
import { addAccount, nomade, signedIn } from "./people";

/** Drafts from beginning to end, each step on what the one before left. */
test.describe.configure({ mode: "serial" });

let reviewer: Page;
let second: Page;
let browserOf: Browser;
let draft = "";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-drafts-"));

function takeIn(document: FacilityDocument): void {
  const file = path.join(folder, "register.json");
  writeFileSync(file, JSON.stringify(document));
  nomade(["intake", file, "--source", "orchard keys"]);
}

test.beforeAll(async ({ browser }) => {
  browserOf = browser;
  addAccount("vera", "Vera Second", "reviewer");
  // An intake that changes nothing says nothing about who owns what.
  takeIn({ ...orchard, name: "Hazel Orchard before" });
  takeIn(orchard);
  [reviewer, second] = await Promise.all([signedIn(browser, "tessa"), signedIn(browser, "vera")]);
});

const changeOf = (name: string) => reviewer.getByRole("row").filter({ has: reviewer.getByRole("button", { name: `Take back ${name}`, exact: true }) });
const effect = () => reviewer.getByRole("region", { name: "Effect" });
const put = async (page = reviewer): Promise<void> => {
  await page.getByRole("button", { name: "Put it into the draft" }).click();
  await page.waitForURL(/\/register\/drafts\/\d+$/);
};

test("something is changed on trial from its own page, and the draft says what it would do", async () => {
  await reviewer.goto("/register/grant/iris-cellar");
  await reviewer.getByRole("link", { name: "Try a change" }).click();
  await reviewer.getByLabel("New draft").fill("Cellar by day");
  await reviewer.getByRole("button", { name: "Begin it and change this" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Iris Almondfeld opens Cellar door");
  await reviewer.getByRole("combobox", { name: "Schedule" }).fill("Day");
  await reviewer.getByRole("option", { name: /^Day/ }).click();
  await expect(reviewer.getByRole("complementary")).toContainText("At all hours");
  await put();
  draft = new URL(reviewer.url()).pathname;
  await expect(effect()).toContainText("One person is concerned");
  await expect(effect()).toContainText("Iris Almondfeld, Cellar door");
  await expect(effect()).toContainText("Grant iris-cellar changed");
  await expect(reviewer.getByText("One order goes out to orchard keys.")).toBeVisible();
});

test("what is asked from the page of a draft is asked with its changes made, and of the present register when that is chosen; nobody else can ask on it", async () => {
  await reviewer.goto(draft);
  await reviewer.getByRole("button", { name: "Who: left open" }).press("Enter");
  await reviewer.keyboard.type("iris");
  await expect(reviewer.getByRole("option").first()).toContainText("Iris Almondfeld");
  await reviewer.keyboard.press("Enter");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Iris Almondfeld opens two doors");
  await reviewer.getByRole("button", { name: "what: left open" }).press("Enter");
  await reviewer.keyboard.type("cellar door");
  await expect(reviewer.getByRole("option").first()).toContainText("Cellar door");
  await reviewer.keyboard.press("Enter");
  const months = reviewer.getByText("In the 13 months from the export:").locator("..");
  await expect(months).toContainText("Mon–Fri 08–18");
  await expect(reviewer.getByText(/Inquiry on the draft “Cellar by day”/)).toBeVisible();
  await reviewer.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(reviewer.getByRole("alert").filter({ hasText: "A question on a draft is not kept" })).toBeVisible();
  const asked = new URL(reviewer.url());
  expect(asked.searchParams.get("draft")).toBe(draft.split("/").pop());
  expect((await second.goto(`${asked.pathname}${asked.search}`))?.status()).toBe(404);
  await reviewer.getByRole("combobox", { name: "As it was in, or would be with" }).click();
  await reviewer.getByRole("option", { name: /, now$/ }).click();
  await expect(months).toContainText("At all hours");
  expect(new URL(reviewer.url()).searchParams.has("draft")).toBe(false);
});

test("hours are drawn by dragging, copied to other days and typed to the minute", async () => {
  await reviewer.goto(`${draft}/edit?list=schedules`);
  await reviewer.getByLabel("Name").fill("Pressing");
  const strip = await reviewer.getByRole("img", { name: /^Monday/ }).boundingBox();
  if (!strip) throw new Error("Monday is not drawn.");
  const drag = async (from: number, to: number): Promise<void> => {
    const x = (hour: number): number => strip.x + (strip.width * hour) / 24;
    await reviewer.mouse.move(x(from), strip.y + strip.height / 2);
    await reviewer.mouse.down();
    await reviewer.mouse.move(x((from + to) / 2), strip.y + strip.height / 2);
    await reviewer.mouse.move(x(to), strip.y + strip.height / 2);
    await reviewer.mouse.up();
  };
  await drag(7, 16);
  const monday = reviewer.getByLabel("Hours of Monday");
  await expect(monday).toHaveValue("07:00–16:00");
  await drag(12, 13);
  await expect(monday).toHaveValue("07:00–12:00, 13:00–16:00");
  await reviewer.getByRole("button", { name: "Copy Monday to" }).click();
  await reviewer.getByRole("menuitem", { name: "Monday to Friday" }).click();
  await expect(reviewer.getByLabel("Hours of Friday")).toHaveValue("07:00–12:00, 13:00–16:00");
  await reviewer.getByLabel("Hours of Friday").fill("7-12; 22:00 to 1:30");
  await reviewer.getByLabel("Hours of Friday").press("Enter");
  await expect(reviewer.getByLabel("Hours of Friday")).toHaveValue("07:00–12:00, 22:00–01:30");
  await reviewer.getByLabel("Hours of Sunday").fill("noon");
  await reviewer.getByLabel("Hours of Sunday").press("Tab");
  await expect(reviewer.getByText("“noon” is no stretch of time")).toBeVisible();
  await reviewer.getByLabel("Hours of Sunday").fill("");
  await reviewer.getByLabel("Hours of Sunday").press("Tab");
  await reviewer.getByRole("combobox", { name: "A row for days of type" }).fill("public");
  await reviewer.getByRole("button", { name: "Add the row" }).click();
  await put();
  await expect(reviewer.getByRole("row", { name: /Pressing/ })).toContainText("Mon 07:00–12:00, 13:00–16:00");
});

test("a level is a sheet of doors by schedules, and can use what only the draft has", async () => {
  await reviewer.goto(`${draft}/edit?list=levels`);
  await reviewer.getByLabel("Name").fill("Press crew");
  await reviewer.getByRole("combobox", { name: "Add a schedule" }).click();
  await reviewer.getByRole("option", { name: "Pressing" }).click();
  await reviewer.getByRole("combobox", { name: "Add a door, door group or area" }).fill("cellar");
  await reviewer.getByRole("option", { name: /Cider cellar · area/ }).click();
  await reviewer.getByRole("combobox", { name: "Add a door, door group or area" }).fill("barn door");
  await reviewer.getByRole("option", { name: /Barn door/ }).click();
  await reviewer.getByRole("combobox", { name: "Add a schedule" }).click();
  await reviewer.getByRole("option", { name: "Night" }).click();
  await reviewer.getByRole("checkbox", { name: "Barn door by Night" }).check();
  const sheet = reviewer.getByRole("region", { name: "Doors and schedules" });
  await expect(sheet.getByRole("checkbox", { checked: true })).toHaveCount(3);
  await put();
  await expect(reviewer.getByRole("row", { name: /Press crew/ })).toContainText("Barn door: Night");
});

test("a new person gets groups with a window, and what is wrong is said at its field with nothing typed lost", async () => {
  await reviewer.goto(`${draft}/edit?list=cardholders`);
  await reviewer.getByLabel("Name").fill("Ute Birkholm");
  await reviewer.getByRole("textbox", { name: "Until", exact: true }).fill("31.13.2026");
  await reviewer.getByRole("combobox", { name: "Add a group" }).fill("frost");
  await reviewer.getByRole("option", { name: /Frost watch/ }).click();
  await reviewer.getByRole("textbox", { name: "Frost watch until" }).fill("2026-04-30");
  await reviewer.getByRole("button", { name: "Put it into the draft" }).click();
  await expect(reviewer.getByRole("alert").filter({ hasText: "Nothing was written yet" })).toContainText("Until");
  await expect(reviewer.getByLabel("Name")).toHaveValue("Ute Birkholm");
  await expect(reviewer.getByRole("textbox", { name: "Frost watch until" })).toHaveValue("30 Apr 2026");
  await reviewer.getByRole("textbox", { name: "Until", exact: true }).fill("31.12.2026");
  await put();
  await expect(reviewer.getByRole("row", { name: /Ute Birkholm in Frost watch/ })).toContainText("2026-04-30");
});

test("a box of cards is checked against the 26-bit format as it is typed, and put in whole", async () => {
  await reviewer.goto(draft);
  await reviewer.getByRole("link", { name: "A box of cards" }).click();
  await reviewer.getByLabel("Facility code").fill("300");
  await reviewer.getByLabel("First number").fill("40100");
  await reviewer.getByLabel("Last number").fill("40119");
  await expect(reviewer.getByText("Found 300; expected a number up to 255")).toBeVisible();
  await reviewer.getByLabel("Facility code").fill("87");
  // Facility code 87 and number 40100 with their parity bits, worked out by hand.
  await expect(reviewer.getByRole("complementary")).toContainText("1 01010111 1001110010100100 0");
  await reviewer.getByRole("button", { name: "Put 20 cards into the draft" }).click();
  await expect(reviewer.getByRole("alert").filter({ hasText: "there already" })).toContainText("40101 (c-iris)");
  await reviewer.getByLabel("First number").fill("40201");
  await reviewer.getByLabel("Last number").fill("40220");
  await reviewer.getByRole("button", { name: "Put 20 cards into the draft" }).click();
  await reviewer.waitForURL(/\/register\/drafts\/\d+$/);
  await expect(reviewer.getByRole("link", { name: "and 12 more of the kind" })).toBeVisible();
});

test("people are moved between departments by drag and drop, with the mouse and from the keyboard", async () => {
  await reviewer.goto(`${draft}/people?in=press&in=`);
  await reviewer.getByRole("button", { name: "Iris Almondfeld" }).dragTo(reviewer.getByRole("region", { name: "No department" }), { steps: 10 });
  await expect(reviewer.getByRole("status").filter({ hasText: "moved to No department" })).toBeVisible();
  await expect(reviewer.getByRole("region", { name: "No department" }).getByRole("button", { name: "Iris Almondfeld" })).toBeVisible();
  await reviewer.getByRole("checkbox", { name: "Choose Leif Rushdahl" }).check();
  await reviewer.getByRole("combobox", { name: "Send those chosen to" }).click();
  await reviewer.getByRole("option", { name: "No department" }).click();
  await expect(reviewer.getByRole("region", { name: "No department" }).getByRole("button", { name: "Leif Rushdahl" })).toBeVisible();
  await reviewer.getByRole("button", { name: "Nora Mosstrand" }).focus();
  for (const key of ["Space", "ArrowRight", "Space"]) {
    await reviewer.keyboard.press(key);
    // The library measures the departments anew after each step.
    await reviewer.waitForTimeout(150);
  }
  await expect(reviewer.getByRole("region", { name: "No department" }).getByRole("button", { name: "Nora Mosstrand" })).toBeVisible();
  await reviewer.goto(draft);
  await expect(changeOf("Iris Almondfeld")).toContainText("Press house");
  await expect(effect()).toContainText("no longer opens it");
});

test("nobody else sees a draft until it is shared; two who change one thing are shown the difference", async () => {
  for (const at of [draft, `${draft}/edit?list=cardholders&key=otto`, `${draft}/effect`, `${draft}/box`, `${draft}/people`])
    expect([at, (await second.request.get(at)).status()]).toEqual([at, 404]);
  const auditor = await signedIn(browserOf, "agnes");
  for (const at of [draft, `${draft}/edit?list=cardholders&key=otto`, `${draft}/box`, `${draft}/people`])
    expect([at, (await auditor.request.get(at)).status()]).toEqual([at, 404]);
  await auditor.context().close();
  await reviewer.getByRole("combobox", { name: "Share with" }).click();
  await reviewer.getByRole("option", { name: "Vera Second" }).click();
  await expect(reviewer.getByText("shared with Vera Second")).toBeVisible();
  await second.goto(`${draft}/edit?list=cardholders&key=otto`);
  await reviewer.goto(`${draft}/edit?list=cardholders&key=otto`);
  await reviewer.getByLabel("Company").fill("Rush & Sons");
  await put();
  await second.getByLabel("Company").fill("Rush Brothers");
  await second.getByRole("button", { name: "Put it into the draft" }).click();
  const difference = second.getByRole("alert").filter({ hasText: "Tessa Reviewer changed this meanwhile" });
  await expect(difference).toContainText("Rush & Sons");
  await expect(difference).toContainText("Rush Brothers");
  await difference.getByRole("button", { name: "Use mine" }).click();
  await second.waitForURL(new RegExp(`${draft}$`));
  await expect(second.getByRole("row", { name: /Otto Rushgaard/ })).toContainText("Rush Brothers");
});

test("closing waits for what clashes with the register, then sends orders that are done when the source says so", async () => {
  takeIn({
    ...orchard,
    cardholders: (orchard.cardholders ?? []).map((person) => (person.id === "otto" ? { ...person, company: "Rush & Daughters" } : person)),
  });
  await reviewer.goto(draft);
  await expect(reviewer.getByRole("button", { name: "Close the draft" })).toBeDisabled();
  const clash = changeOf("=Otto Rushgaard");
  await expect(clash).toContainText("the register has Rush & Daughters, this draft Rush Brothers");
  await clash.getByRole("button", { name: "Take the register’s" }).click();
  await expect(clash).toHaveCount(0);
  await reviewer.getByRole("button", { name: "Take back Nora Mosstrand", exact: true }).click();
  await expect(changeOf("Nora Mosstrand")).toHaveCount(0);
  await reviewer.getByRole("button", { name: "Close the draft" }).click();
  await expect(reviewer.getByRole("heading", { name: /27 orders, 27 not in the register yet/ })).toBeVisible({ timeout: 30_000 });
  const [saved] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "Save as CSV" }).click()]);
  const rows = parse<Record<string, string>>(await readFile(await saved.path()), { columns: true, bom: true });
  expect(
    rows.filter(({ id }) => id === "iris-cellar").map(({ change, source, field, before, after, done }) => ({ change, source, field, before, after, done })),
  ).toEqual([{ change: "change", source: "orchard keys", field: "schedule", before: "At all hours", after: "Day", done: "no" }]);
  const { department: _left, ...iris } = orchard.cardholders?.find(({ id }) => id === "iris") ?? { id: "", name: "", status: "active" as const };
  takeIn({
    ...orchard,
    cardholders: [...(orchard.cardholders ?? []).filter(({ id }) => id !== "iris"), iris],
    grants: (orchard.grants ?? []).map((grant) => (grant.id === "iris-cellar" ? { ...grant, schedule: "day" } : grant)),
  });
  await reviewer.goto(draft);
  await expect(reviewer.getByRole("heading", { name: /27 orders, 25 not in the register yet/ })).toBeVisible();
  await expect(reviewer.getByRole("row", { name: /Iris Almondfeld opens Cellar door/ })).toContainText("done: the register says so");
  takeIn(orchard);
});

test("a calendar is written entry by entry, and a dropped draft leaves nothing behind", async () => {
  await reviewer.goto("/register/drafts");
  await reviewer.getByLabel("New draft").fill("Doors together");
  await reviewer.getByRole("button", { name: "Begin it" }).click();
  await reviewer.waitForURL(/\/drafts\/\d+$/);
  await reviewer.getByRole("button", { name: "Add …" }).click();
  await reviewer.getByRole("menuitem", { name: "Block" }).click();
  await expect(reviewer.getByRole("combobox", { name: "Effect" })).toHaveValue("blocks");
  await reviewer.goBack();
  await reviewer.getByRole("button", { name: "Add …" }).click();
  await reviewer.getByRole("menuitem", { name: "Calendar" }).click();
  await reviewer.getByLabel(/^Name/).first().fill("Harvest");
  await reviewer.getByRole("button", { name: "Add an entry" }).click();
  await reviewer.getByLabel("Name of entry 1").fill("Harvest festival");
  await reviewer.getByRole("combobox", { name: "Rule of entry 1" }).click();
  await reviewer.getByRole("option", { name: "n-th weekday" }).click();
  await reviewer.getByRole("button", { name: "Add an entry" }).click();
  await reviewer.getByLabel("Name of entry 2").fill("Stocktaking");
  await reviewer.getByRole("combobox", { name: "Rule of entry 2" }).click();
  await reviewer.getByRole("option", { name: "a day every year" }).click();
  const yearly = reviewer.getByRole("textbox", { name: "Day of the year of entry 2" });
  await yearly.fill("Dec 25");
  await yearly.press("Tab");
  await expect(yearly).toHaveValue("25 Dec");
  await reviewer.getByRole("button", { name: "Add an entry" }).click();
  await reviewer.getByLabel("Name of entry 3").fill("Move");
  const once = reviewer.getByRole("textbox", { name: "Date of entry 3" });
  await once.fill("31.12.2026");
  await once.press("Tab");
  await expect(once).toHaveValue("31 Dec 2026");
  await put();
  await expect(reviewer.getByRole("row", { name: /Harvest/ })).toContainText("1. Mon of month 1");
  await reviewer.getByRole("button", { name: "Drop" }).click();
  await reviewer.getByRole("button", { name: "Drop it" }).click();
  await expect(reviewer.getByText(/^Dropped/)).toBeVisible();
});
