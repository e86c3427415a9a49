import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import type { Browser, Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { read, utils } from "@e965/xlsx";
import { parse } from "csv-parse/sync";
import { strToU8, zipSync } from "fflate";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { writeBundle } from "@/intake/formats/tables/write-bundle";
import { verraneInstitute } from "~/demo/institute";
import { orchard, orchardEvents } from "./orchard";
import { addAccount, nomade, signedIn } from "./people";

/** The slice walked whole, each step on what the one before left: intake, question, finding, round, decision, order. */
test.describe.configure({ mode: "serial" });

let reviewer: Page;
let browserOf: Browser;

test.beforeAll(async ({ browser }) => {
  browserOf = browser;
  addAccount("tessa", "Tessa Reviewer", "reviewer");
  addAccount("dagmar", "Dagmar Holmwold", "manager", "dagmar");
  addAccount("agnes", "Agnes Auditor", "auditor");
  reviewer = await signedIn(browser, "tessa");
});

const file = (name: string, content: string) => ({ name, mimeType: "application/octet-stream", buffer: Buffer.from(content) });

test("a refused document names every error at its place and leaves nothing behind", async () => {
  await reviewer.goto("/intake");
  const broken = { ...orchard, doors: [{ id: "d", name: "D", site: "nowhere" }], credentials: [{ id: "c", kind: "key", status: "active" }] };
  await reviewer.getByLabel("File to take in").setInputFiles(file("broken.json", JSON.stringify(broken)));
  await expect(reviewer.getByRole("heading", { name: /broken.json is refused/ })).toBeVisible();
  const errors = reviewer.getByRole("region", { name: "Errors" }).or(reviewer.getByLabel("Errors"));
  await expect(errors.getByText("doors[0].site", { exact: true })).toBeVisible();
  await expect(errors.getByText("credentials[0].kind", { exact: true })).toBeVisible();
  await expect(errors.getByText(/"nowhere" is not an id in sites/)).toBeVisible();
  await reviewer.goto("/register");
  await expect(reviewer.getByText("No snapshot yet").first()).toBeVisible();
});

test("a document is previewed with its counts, then stored, and its hash is the file's that is exported", async () => {
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(file("orchard.json", JSON.stringify(orchard)));
  await expect(reviewer.getByRole("heading", { name: /Hazel Orchard, as of 1 Mar 2026/ })).toBeVisible();
  await expect(reviewer.getByRole("row", { name: /Cardholders 5/i })).toBeVisible();
  const shown = (await reviewer.locator("code").first().innerText()).trim();
  // Nobody's own: what a file brings belongs to the source that sends it, and no name of a file is one.
  await expect(reviewer.getByRole("button", { name: "Store" })).toBeDisabled();
  await reviewer.getByLabel("Name of the source").fill("orchard.json");
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByRole("status")).toContainText("as snapshot 1");
  const [saved] = await Promise.all([
    reviewer.waitForEvent("download"),
    reviewer
      .getByRole("link", { name: /^Document of snapshot/ })
      .first()
      .click(),
  ]);
  const bytes = await readFile(await saved.path());
  expect(createHash("sha256").update(bytes).digest("hex")).toBe(shown);
});

test("a long intake says how far it is, can be stopped, and then leaves nothing behind", async () => {
  test.setTimeout(120_000);
  await reviewer.goto("/intake");
  await reviewer
    .getByLabel("File to take in")
    .setInputFiles(file("large.json", JSON.stringify(verraneInstitute({ cardholders: 12_000, doors: 400, seed: 4 }))));
  await reviewer.getByLabel("Name of the source").fill("large.json", { timeout: 60_000 });
  await reviewer.getByRole("button", { name: "Store" }).click({ timeout: 60_000 });
  await expect(reviewer.getByRole("progressbar", { name: /Storing, table/ })).toBeVisible({ timeout: 30_000 });
  await reviewer.getByRole("button", { name: "Stop" }).click();
  await expect(reviewer.getByRole("status").filter({ hasText: "Stopped; nothing was stored" })).toBeVisible();
  expect(nomade(["snapshots"]).trim().split("\n")).toHaveLength(1);
  await reviewer.goto("/register");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("5 cardholders");
});

test("the register is searched, narrowed, broken up and followed from object to object; the address holds the list", async () => {
  await reviewer.goto("/register");
  await reviewer.getByLabel("Find among cardholders").pressSequentially("RUSH press");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("2 of 5 cardholders");
  await reviewer.waitForURL(/text=RUSH/);
  const rows = reviewer.getByRole("region", { name: "Rows" });
  await expect(rows.getByRole("link")).toHaveText(["=Otto Rushgaard", "Leif Rushdahl"]);
  await reviewer.getByRole("combobox", { name: "Status is" }).click();
  await reviewer.getByRole("option", { name: /left/ }).click();
  await expect(rows.getByRole("link")).toHaveText(["Leif Rushdahl"]);
  await reviewer.reload();
  await expect(rows.getByRole("link")).toHaveText(["Leif Rushdahl"]);
  await reviewer.getByLabel("Find among cardholders").fill("nobody at all");
  await expect(reviewer.getByRole("status")).toContainText("hide all 5");
  await reviewer.getByRole("button", { name: "Show all again" }).click();
  await expect(rows.getByRole("link")).toHaveCount(5);
  await reviewer.getByRole("combobox", { name: "Break up by" }).click();
  await reviewer.getByRole("option", { name: "by department" }).click();
  await expect(rows.getByRole("rowheader")).toHaveText([/Press house 4/, /None 1/]);

  await rows.getByRole("link", { name: "Nora Mosstrand" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Nora Mosstrand");
  await expect(reviewer.getByRole("row", { name: /Frost watch/ }).first()).toContainText("member from 2025-11-01");
  await expect(reviewer.getByText("Opens two doors")).toBeVisible();
  await reviewer.getByRole("link", { name: "Barn by day", exact: true }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Barn by day");
  await expect(reviewer.getByRole("row", { name: /Barn door/ })).toContainText("Day");
  await expect(reviewer.getByRole("row", { name: /Iris Almondfeld/ })).toContainText("Press house: department");
  await expect(reviewer.getByRole("complementary")).toContainText("It came into the register");
});

test("a list is saved as CSV as it is shown, harmless to a spreadsheet", async () => {
  await reviewer.goto("/register?kind=cardholder&sort=-staffNumber&columns=staffNumber,department");
  const [download] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "CSV" }).click()]);
  const text = await readFile(await download.path(), "utf8");
  // RFC 4180: lines end with CRLF.
  expect(text.split("\r\n")).toEqual([
    "Id,Name,Department,Staff number",
    "leif,Leif Rushdahl,Press house,0126",
    "otto,'=Otto Rushgaard,Press house,0125",
    "nora,Nora Mosstrand,Press house,0124",
    "iris,Iris Almondfeld,Press house,0123",
    "dagmar,Dagmar Holmwold,,0001",
    "",
  ]);
  // As a workbook nothing has to be made harmless: a text stays one, whatever it looks like.
  const [workbook] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "XLSX" }).click()]);
  const rows = await rowsOf(await workbook.path());
  expect([rows.length, rows[0], rows[2]]).toEqual([6, ["Id", "Name", "Department", "Staff number"], ["otto", "=Otto Rushgaard", "Press house", "0125"]]);
});

async function rowsOf(file: string): Promise<string[][]> {
  const book = read(await readFile(file));
  const sheet = book.Sheets[book.SheetNames[0] ?? ""];
  return sheet ? utils.sheet_to_json<string[]>(sheet, { header: 1 }) : [];
}

test("a schedule shows the coming days as they will be, a calendar its thirteen months", async () => {
  await reviewer.goto("/register/schedule/night");
  await expect(reviewer.getByRole("table", { name: "Coming days" }).locator("td[aria-label]")).toHaveCount(90);
  // In Vienna the clock is put forward on 29 March 2026 (IANA time zone database).
  await expect(reviewer.getByLabel(/^29 Mar 2026: .*the clock is put forward 60 min/)).toBeVisible();
  await reviewer.goto("/register/calendar/days");
  await expect(reviewer.getByText("All its entries repeat by themselves.")).toBeVisible();
  await reviewer.getByRole("button", { name: /Fri 1 May 2026: Labour Day/ }).click();
  await expect(reviewer.getByRole("status")).toContainText("day type public");
});

test("the same document again changes nothing and says so", async () => {
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(file("again.json", JSON.stringify(orchard, undefined, 2)));
  await expect(reviewer.getByRole("heading", { name: /Nothing would change/ })).toBeVisible();
  await reviewer.getByLabel("Name of the source").fill("orchard.json");
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByRole("status")).toContainText("Nothing changed");
});

test("events are taken in from CSV", async () => {
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(file("events.csv", orchardEvents()));
  await expect(reviewer.getByRole("heading", { name: /400 events/ })).toBeVisible();
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByRole("status")).toContainText("Stored 400 events");
});

test("a question asked from the keyboard is answered, and its address holds it", async () => {
  await reviewer.goto("/findings");
  await reviewer.locator("body").press("/");
  await reviewer.getByLabel("Opens where").pressSequentially("ellar doo");
  await expect(reviewer.getByRole("option", { name: /Cellar door/ })).toBeVisible();
  await reviewer.getByLabel("Opens where").press("Enter");
  await reviewer.waitForURL(/where=door(%3A|:)cellar-door/);
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Three can");
  await reviewer.getByRole("button", { name: /when: left open/ }).click();
  await reviewer.getByLabel("When").pressSequentially("28 November 2026 22:30");
  await reviewer.getByRole("option", { name: /28 Nov 2026, 22:30/ }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Two can");
  await expect(reviewer.getByRole("button", { name: "Iris Almondfeld" })).toBeVisible();
  await expect(reviewer.getByRole("button", { name: "Nora Mosstrand" })).toBeVisible();
  const address = reviewer.url();
  const other = await signedIn(browserOf, "agnes");
  await other.goto(address);
  await expect(other.getByRole("heading", { level: 1 })).toContainText("Two can");
  await other.context().close();
});

test("the margin says why: the path through the group, and what must go to shut the door", async () => {
  await reviewer.getByRole("button", { name: "Nora Mosstrand" }).click();
  const margin = reviewer.getByRole("complementary");
  await expect(margin).toContainText("in Frost watch");
  await expect(margin).toContainText("on Night");
  await expect(margin).toContainText("To shut it for good");
});

test("what a person opens is told in words, sleeping access apart", async () => {
  await reviewer.goto("/inquiry?who=cardholder:nora");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText(/Nora Mosstrand opens two doors/);
  await expect(reviewer.getByRole("row", { name: /Cellar door/ })).toContainText("Every night 20–06");
  await expect(reviewer.getByRole("row", { name: /Barn door/ })).toContainText("Mon–Fri 08–18, not on public holidays");
  await reviewer.goto("/inquiry?who=cardholder:leif");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText(/Leif Rushdahl opens no door/);
  await expect(reviewer.getByRole("heading", { name: /^Not live/ })).toBeVisible();
});

test("a verdict is given now and at a moment, with its reason", async () => {
  await reviewer.goto("/inquiry?who=cardholder:otto&where=door:cellar-door&when=2026-12-05T22:30");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("=Otto Rushgaard does not open it then");
  await expect(reviewer.getByText(/^Now,/)).toBeVisible();
  await reviewer.goto("/inquiry?who=cardholder:otto&where=door:cellar-door&when=2026-12-02T10:00");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("=Otto Rushgaard opens it then");
});

test("findings are listed by risk, each with its proof and the sum of its risk", async () => {
  await reviewer.goto("/findings");
  const rows = reviewer.getByRole("group", { name: "Findings" }).getByRole("row");
  await expect(rows.nth(1)).toContainText("Iris Almondfeld");
  await expect(rows.filter({ hasText: "Left on 15 Jan 2026; a credential is still marked active." })).toHaveCount(1);
  const risks = (await rows.locator("td:first-child").allInnerTexts()).map(Number);
  expect(risks).toEqual([...risks].sort((a, b) => b - a));
  expect(risks.length).toBeGreaterThanOrEqual(3);
  const points = (await reviewer.getByRole("complementary").getByRole("table").locator("td:last-child").allInnerTexts()).map(Number);
  expect(points.reduce((sum, n) => sum + n, 0)).toBe(risks[0]);
  await reviewer.getByRole("link", { name: "Rule", exact: true }).click();
  await reviewer.getByRole("link", { name: /Opens a sensitive area at all hours/ }).click();
  await expect(rows.nth(1)).toContainText("Iris Almondfeld");
  await expect(reviewer.getByText("Otto", { exact: false }).first()).not.toBeVisible();
});

test("a round is previewed and opened, one docket for the manager", async () => {
  await reviewer.goto("/certification/new");
  await expect(reviewer.getByRole("row", { name: /Dagmar Holmwold/ })).toContainText("signs in");
  await reviewer.getByLabel("Name").fill("Winter review");
  await reviewer.getByLabel("Due").fill("2027-01-31");
  await reviewer.getByLabel("Due").press("Tab");
  await reviewer.getByRole("button", { name: "Open the round" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Winter review: the one docket is not signed yet");
});

test("the manager decides on a phone: a flagged line needs a reason, and a signed docket does not change", async ({ browser }) => {
  const manager = await signedIn(browser, "dagmar", { viewport: { width: 390, height: 844 } });
  await expect(manager).toHaveURL(/\/docket/);
  await manager.getByRole("link", { name: /Winter review/ }).click();
  await manager.waitForURL(/\/docket\/\d+/);
  const said: string[] = [];
  for (let step = 0; step < 40; step++) {
    await expect(manager.getByRole("heading", { level: 1 })).toBeVisible();
    const title = await manager.getByRole("heading", { level: 1 }).innerText();
    if (title === "Sign your docket") break;
    said.push(title);
    for (const line of await manager
      .getByRole("region")
      .filter({ has: manager.getByRole("button", { name: /^(Withdraw|Return the card)$/ }) })
      .all()) {
      const name = (await line.getAttribute("aria-label")) ?? "";
      const withdraws = name === "Iris Almondfeld, Cider cellar" || name.startsWith("Leif Rushdahl, Card");
      await line.getByRole("button", { name: withdraws ? /^(Withdraw|Return the card)$/ : /^(Keep|Keep the card)$/ }).click();
      const reason = line.getByLabel("Why is it needed?");
      if (!withdraws && (await reason.isVisible())) {
        await reason.fill("Comes back for the harvest");
        await reason.blur();
      }
      if (withdraws) await expect(line).toContainText(/end|return/i);
    }
    const common = manager.getByRole("button", { name: /like most colleagues/ });
    const next = manager.getByRole("button", { name: /^(Next person|To the signature)$/ });
    await expect(common.or(next)).toBeVisible();
    if (await common.isVisible()) await common.click();
    await next.click();
    await expect(manager.getByRole("heading", { level: 1 })).not.toHaveText(title);
  }
  expect(new Set(said)).toEqual(new Set(["Iris Almondfeld", "Nora Mosstrand", "=Otto Rushgaard", "Leif Rushdahl"]));
  await manager.getByRole("button", { name: /^Sign \d+ lines/ }).click();
  await expect(manager.getByRole("heading", { name: "Signed" })).toBeVisible();
  await expect(manager.getByText(/I, Dagmar Holmwold, have looked at each/)).toBeVisible();
  await manager.reload();
  await expect(manager.getByRole("button", { name: /^Sign/ })).toHaveCount(0);
  await manager.context().close();
});

test("each withdrawal is an order in the CSV, in terms of the source, and nothing in it runs as a formula", async () => {
  await reviewer.goto("/certification");
  await reviewer.getByRole("link", { name: /Winter review/ }).click();
  const [saved] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: /Save the orders as CSV/ }).click()]);
  const orders = parse<Record<string, string>>(await readFile(await saved.path(), "utf8"), { columns: true });
  const told = orders.map(({ do: how, list, id, holder, staff_number }) => ({ how, list, id, holder, staff_number }));
  expect(told).toHaveLength(2);
  expect(told).toContainEqual({ how: "remove", list: "grants", id: "iris-cellar", holder: "Iris Almondfeld", staff_number: "0123" });
  expect(told).toContainEqual({ how: "alter", list: "credentials", id: "c-leif", holder: "Leif Rushdahl", staff_number: "0126" });
  for (const row of orders) for (const cell of Object.values(row)) expect(cell).not.toMatch(/^[=+@\t\r-]/);
  const [workbook] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "XLSX" }).click()]);
  const [header = [], ...rows] = await rowsOf(await workbook.path());
  expect(rows.map((cells) => cells[header.indexOf("id")]).sort()).toEqual(["c-leif", "iris-cellar"]);
});

test("every step stands in the record, which is whole", async () => {
  await reviewer.goto("/evidence");
  await expect(reviewer.getByText(/none of them altered/)).toBeVisible();
  await expect(reviewer.getByRole("cell", { name: /dagmar signed/i }).first()).toBeVisible();
  const verified = JSON.parse(nomade(["verify"])) as { sound: boolean; entries: number };
  expect(verified.sound).toBe(true);
  expect(verified.entries).toBeGreaterThan(15);
});

test("tables are taken in from a ZIP: the effect on access first, and rows that cannot be read only where that is accepted", async () => {
  const read = readFacility(JSON.stringify(orchard));
  if (!read.ok) throw new Error("the orchard is in order");
  const tables = Object.fromEntries([...writeBundle(read.value.facility)].map(({ name, text }) => [name, text]));
  // Otto no longer gets into the cellar, and somebody has typed a row that is none.
  tables["grants.csv"] = (tables["grants.csv"] ?? "")
    .split("\r\n")
    .filter((line) => !line.startsWith("otto-cellar"))
    .join("\r\n");
  tables["cardholders.csv"] += "edda,Edda Fernmoor,retired\r\n";
  const zip = zipSync(Object.fromEntries(Object.entries(tables).map(([name, text]) => [name, strToU8(text)])));
  const row = (tables["cardholders.csv"] ?? "").split("\r\n").findIndex((line) => line.startsWith("edda")) + 1;
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles({ name: "orchard.zip", mimeType: "application/zip", buffer: Buffer.from(zip) });
  await expect(reviewer.getByRole("heading", { name: /One person is concerned/i })).toBeVisible();
  await expect(reviewer.getByRole("region", { name: "Effect on access" }).getByRole("row", { name: /=Otto Rushgaard/ })).toContainText("no longer opens it");
  const refused = reviewer.getByRole("region", { name: "Rows that cannot be read" });
  await expect(refused.getByRole("row").last()).toContainText("cardholders.csv");
  await expect(refused.getByRole("row").last()).toContainText(String(row));
  const [download] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "Save them as CSV" }).click()]);
  const sentBack = parse<Record<string, string>>(await readFile(await download.path(), "utf8"), { columns: true });
  expect(sentBack.map(({ file: at, line, value }) => [at, line, value !== ""])).toEqual([["cardholders.csv", String(row), true]]);
  await expect(reviewer.getByRole("button", { name: "Store" })).toBeDisabled();
  await reviewer.getByRole("checkbox", { name: /Leave out one row/ }).check();
  await reviewer.getByLabel("Name of the source").fill("tables.zip");
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByRole("status")).toContainText("Stored Hazel Orchard as snapshot");
  await reviewer.goto("/inquiry?where=door:cellar-door");
  await expect(reviewer.getByRole("main")).toContainText("1 row not read");
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Two can");

  await reviewer.getByRole("combobox", { name: "As it was in" }).click();
  await reviewer.getByRole("option", { name: /^1,/ }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Three can");
  await expect(reviewer.getByText(/As it was\. Inquiry on snapshot 1/)).toBeVisible();
  await reviewer.goto("/register/cardholder/otto");
  await expect(reviewer.getByText("Opens one door")).toBeVisible();
  await reviewer.goto("/register/cardholder/otto?snapshot=1");
  await expect(reviewer.getByText("Opens two doors")).toBeVisible();
  await expect(reviewer.getByText("As it was in snapshot 1")).toBeVisible();
  await reviewer.goto("/intake");
  await reviewer.getByRole("link", { name: "What changed" }).first().click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText(/^From snapshot 1 to snapshot \d+$/);
  await expect(reviewer.getByRole("row", { name: /=Otto Rushgaard/ })).toContainText("Grant otto-cellar gone");
});

test("headers that are called otherwise are told what they are, and the source is remembered", async () => {
  const people = "Person No;Full name;Standing;Shoe size\r\nedda;Edda Fernmoor;active;40\r\n";
  const zip = (extra = "") => ({ name: "staff.zip", mimeType: "application/zip", buffer: Buffer.from(zipSync({ "people.csv": strToU8(people + extra) })) });
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(zip());
  await expect(reviewer.getByRole("region", { name: "What has to be said" })).toContainText("Shoe size");
  // What is plain is suggested: it is said otherwise by choosing, or by dragging a field onto its column.
  await expect(reviewer.getByRole("combobox", { name: "Person No is" })).toHaveValue("Person: staff number");
  const standing = reviewer.getByRole("row", { name: /^Standing/ });
  await standing.getByRole("combobox", { name: "Standing is" }).focus();
  await standing.locator("button[class*=CloseButton], .mantine-CloseButton-root, .mantine-InputClearButton-root").first().click();
  const chip = reviewer.getByRole("group", { name: "What no column is read as yet" }).getByText("Person: status", { exact: true });
  await chip.dragTo(standing, { steps: 10 });
  await expect(reviewer.getByRole("combobox", { name: "Standing is" })).toHaveValue("Person: status");
  await reviewer.getByRole("combobox", { name: "Shoe size is" }).click();
  await reviewer.getByRole("option", { name: "(leave aside)", exact: true }).click();
  await expect(reviewer.getByRole("region", { name: "What has to be said" })).toHaveCount(0);
  // That people who are not in it have left is suggested; here they are gone.
  await reviewer.getByRole("combobox", { name: "Cardholders not in this list" }).click();
  await reviewer.getByRole("option", { name: "are gone" }).click();
  await reviewer.getByRole("button", { name: "Read it so" }).click();
  // The list is complete: who is not in it is gone, but for those to whom something else still refers.
  await expect(reviewer.getByText(/objects are kept although the files do not bring them any more/)).toBeVisible();
  await reviewer.getByLabel("Name of the source").fill("Personnel");
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByRole("status")).toContainText("Stored Hazel Orchard as snapshot");
  await reviewer.goto("/register/cardholder/edda");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Edda Fernmoor");

  await reviewer.goto("/intake");
  await reviewer.getByRole("combobox", { name: /^Source/ }).click();
  await reviewer.getByRole("option", { name: "Personnel" }).click();
  await reviewer.getByLabel("File to take in").setInputFiles(zip("runa;Runa Ivystad;active;38\r\n"));
  await expect(reviewer.getByRole("heading", { name: /Hazel Orchard, as of/ })).toBeVisible();
  await expect(reviewer.getByRole("row", { name: /^Cardholders/ })).toContainText("1");
  await reviewer.getByRole("button", { name: "Leave it" }).click();
});

test("the tables of a snapshot, taken in again, give the hash that it had", async () => {
  await reviewer.goto("/intake");
  const [download] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "Tables of snapshot 1" }).click()]);
  await reviewer.getByLabel("File to take in").setInputFiles({ name: "back.zip", mimeType: "application/zip", buffer: await readFile(await download.path()) });
  await reviewer.getByLabel("Name of the source").fill("back.zip");
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByRole("status")).toContainText("Stored Hazel Orchard as snapshot");
  const snapshots = nomade(["snapshots"])
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as { id: number; hash: string });
  expect(snapshots[0]?.hash).toBe(snapshots.find(({ id }) => id === 1)?.hash);
});
