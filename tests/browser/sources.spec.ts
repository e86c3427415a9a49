import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { strToU8, zipSync } from "fflate";
import type { FacilityDocument } from "@/core/facility/document";
import { orchard } from "./orchard";
import { addAccount, nomade, signedIn } from "./people";

/** What a source brings, owns and states, each step on what the one before left. */
test.describe.configure({ mode: "serial" });

let reviewer: Page;
const folder = mkdtempSync(path.join(tmpdir(), "nomade-sources-"));

const written = (name: string, document: FacilityDocument): string => {
  const file = path.join(folder, name);
  writeFileSync(file, JSON.stringify(document));
  return file;
};
const takeIn = (document: FacilityDocument) => nomade(["intake", written("keys.json", document), "--source", "orchard keys"]);
const present = (): FacilityDocument => {
  const out = path.join(folder, "out.json");
  nomade(["export", "--format", "document", "--out", out]);
  return JSON.parse(readFileSync(out, "utf8")) as FacilityDocument;
};

test.beforeAll(async ({ browser }) => {
  reviewer = await signedIn(browser, "tessa");
  takeIn({ ...orchard, name: "Hazel Orchard before" });
  takeIn(orchard);
});

const zip = (name: string, files: Readonly<Record<string, string>>) => ({
  name,
  mimeType: "application/zip",
  buffer: Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([file, text]) => [file, strToU8(text)])))),
});

test("PINs become tags while they are read; none lies on the disk while the bundle waits, nor stands in the register", async () => {
  const credentials =
    "id,cardholder,kind,status,pin\nc-iris,iris,card,active,48151623\nc-nora,nora,card,active,48151623\nc-otto,otto,card,active,0000\nc-leif,leif,card,active,\n";
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles(zip("cards.zip", { "credentials.csv": credentials, "totals.csv": "table,rows\ncredentials,5\n" }));
  await expect(reviewer.getByRole("heading", { name: /One row cannot be read/ })).toBeVisible();
  await expect(reviewer.getByRole("region", { name: "Rows that cannot be read" })).toContainText(
    "credentials.csv has 4 rows; expected as many as the source states",
  );
  await reviewer.locator("summary", { hasText: "How this source writes" }).click();
  await reviewer.getByRole("button", { name: "How pin is written" }).click();
  await reviewer
    .getByRole("textbox", { name: "PINs that mean there is none" })
    .or(reviewer.getByRole("combobox", { name: "PINs that mean there is none" }))
    .first()
    .fill("0000");
  await reviewer.keyboard.press("Enter");
  await reviewer.getByRole("button", { name: "Read it so" }).click();
  await expect(reviewer.getByRole("heading", { name: /One row cannot be read/ })).toBeVisible();
  await expect(reviewer.getByRole("row", { name: /^pin not shown/ })).toContainText("1 changed");
  const uploads = path.join(process.env.NOMADE_DATA ?? "", "uploads");
  expect(existsSync(uploads)).toBe(true);
  for (const file of readdirSync(uploads)) expect([file, readFileSync(path.join(uploads, file)).includes("48151623")]).toEqual([file, false]);
  await reviewer.getByLabel("Name of the source").fill("cards");
  await reviewer.getByLabel(/Leave out one row/).check();
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByText(/as snapshot \d/)).toBeVisible();
  const tags = (present().credentials ?? []).map(({ id, pinTag }) => [id, pinTag] as const);
  const tagOf = Object.fromEntries(tags);
  expect(tagOf["c-iris"]).toMatch(/^[\w-]{43}$/);
  expect([tagOf["c-nora"] === tagOf["c-iris"], tagOf["c-otto"], tagOf["c-leif"]]).toEqual([true, undefined, undefined]);
  // What a bundle has no column for is the register's still.
  expect(present().credentials?.[0]).toMatchObject({ id: "c-iris", number: "40101", from: "2025-01-01" });
  await reviewer.goto("/intake");
  await reviewer.getByText("2 files").or(reviewer.getByText("two files")).first().click();
  await expect(reviewer.getByRole("table", { name: /^Files of snapshot/ }).first()).toContainText("5 !");
});

test("what a source shall not own stays Nomade's: a draft changes it here, and the source's next file does not undo it", async () => {
  await reviewer.goto("/register/sources");
  // Files that came under other names brought areas, too; their names are no sources any more.
  const others = nomade(["snapshots"])
    .trim()
    .split("\n")
    .map((line) => (JSON.parse(line) as { source: string }).source);
  for (const name of new Set(others.filter((one) => one !== "orchard keys"))) {
    const other = reviewer.getByRole("region", { name, exact: true });
    const areas = other.getByRole("combobox", { name: "What it owns of areas" });
    if ((await areas.count()) === 0) continue;
    await areas.click();
    await reviewer.getByRole("option", { name: "nothing of it" }).click();
    await other.getByRole("button", { name: "Keep this" }).click();
    await expect(other.getByRole("status")).toContainText("from the next intake on");
  }
  const source = reviewer.getByRole("region", { name: "orchard keys", exact: true });
  await source.getByRole("combobox", { name: "What it owns of areas" }).click();
  await reviewer.getByRole("option", { name: "only these fields" }).click();
  await expect(source.getByText("Inside", { exact: true })).toBeVisible();
  await source.getByRole("button", { name: "Keep this" }).click();
  await expect(source.getByRole("status")).toContainText("it goes from the next intake on");
  takeIn({ ...orchard, name: "Hazel Orchard after" });

  await reviewer.goto("/register/area/barn");
  await reviewer.getByRole("link", { name: "Try a change" }).click();
  await reviewer.getByLabel("New draft").fill("How sensitive the barn is");
  await reviewer.getByRole("button", { name: "Begin it and change this" }).click();
  await reviewer.getByRole("combobox", { name: "Sensitivity" }).click();
  await reviewer.getByRole("option", { name: "2, sensitive" }).click();
  await reviewer.getByRole("combobox", { name: "Owner" }).fill("dagmar");
  await reviewer.getByRole("option", { name: /Dagmar/ }).click();
  await reviewer.getByRole("button", { name: "Put it into the draft" }).click();
  await expect(reviewer.getByText("One change is applied here, as Nomade owns what it changes.")).toBeVisible();
  await reviewer.getByRole("button", { name: "Close the draft" }).click();
  await expect(reviewer.getByText(/its own part became snapshot/)).toBeVisible({ timeout: 30_000 });
  expect(present().areas).toContainEqual({ id: "barn", name: "Barn", site: "orchard", sensitivity: 2, owner: "dagmar" });
  takeIn({ ...orchard, areas: (orchard.areas ?? []).map((area) => (area.id === "barn" ? { ...area, name: "Great barn" } : area)) });
  expect(present().areas).toContainEqual({ id: "barn", name: "Great barn", site: "orchard", sensitivity: 2, owner: "dagmar" });
});

test("each event of a calendar is given a day type, and that is kept with the source", async () => {
  const event = (name: string, date: string): string[] => [
    "BEGIN:VEVENT",
    `UID:${date}@test`,
    "DTSTAMP:20260101T000000Z",
    `SUMMARY:${name}`,
    `DTSTART;VALUE=DATE:${date}`,
    "END:VEVENT",
  ];
  const ics = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//test//EN",
    ...event("Founders’ day", "20260918"),
    ...event("Midsummer", "20260624"),
    "END:VCALENDAR",
    "",
  ].join("\r\n");
  await reviewer.goto("/intake");
  await reviewer.getByLabel("File to take in").setInputFiles({ name: "extra.ics", mimeType: "text/calendar", buffer: Buffer.from(ics) });
  await reviewer.getByRole("combobox", { name: "Day type of Founders’ day" }).or(reviewer.getByLabel("Day type of Founders’ day")).first().fill("company");
  await reviewer.getByRole("button", { name: "Read it so" }).click();
  await expect(reviewer.getByLabel("Day type of Founders’ day").first()).toHaveValue("company");
  await reviewer.getByLabel("Name of the source").fill("wall calendar");
  await reviewer.getByRole("button", { name: "Store" }).click();
  await expect(reviewer.getByText(/as snapshot \d/)).toBeVisible();
  expect(
    present()
      .calendars?.find(({ id }) => id === "extra")
      ?.days?.map(({ name, dayType }) => [name, dayType]),
  ).toEqual([
    ["Founders’ day", "company"],
    ["Midsummer", "public"],
  ]);
  await reviewer.goto("/register/sources");
  await expect(reviewer.getByRole("region", { name: "wall calendar" })).toContainText("It is kept how extra is written and called");
});

test("the findings of an earlier snapshot are shown as they were", async () => {
  await reviewer.goto("/findings?snapshot=1");
  await expect(reviewer.getByText(/As they were, findings of snapshot 1/)).toBeVisible();
  await reviewer
    .getByRole("link", { name: /^All/ })
    .or(reviewer.getByText(/^All \d/))
    .first()
    .click();
  await reviewer.getByRole("combobox", { name: "As they were in" }).click();
  await reviewer.getByRole("option", { name: /now$/ }).click();
  await expect(reviewer).toHaveURL(/\/findings$/);
});

test("a source pushes people with a token; what came is looked at before it is stored, and nothing comes once the token is revoked", async ({ browser }) => {
  addAccount("push-admin", "Ada Pushfield", "administrator");
  const page = await signedIn(browser, "push-admin");
  await page.goto("/register/sources");
  await page.getByLabel("Name of the source").fill("staff office");
  await page.getByRole("button", { name: "Make a token" }).click();
  const token = await page
    .locator("pre, code")
    .filter({ hasText: /^[\w-]{43}$/ })
    .first()
    .innerText();
  const stranger = await (await browser.newContext()).newPage();
  const enterprise = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  const push = (body: object, bearer = token) =>
    stranger.request.post("/scim/v2/Users", {
      data: JSON.stringify(body),
      headers: { authorization: `Bearer ${bearer}`, "content-type": "application/scim+json" },
    });
  const person = (userName: string, employeeNumber: string, active = true) => ({
    schemas: ["urn:ietf:params:scim:schemas:core:2.0:User", enterprise],
    userName,
    active,
    name: { formatted: `${userName} of the office` },
    [enterprise]: { employeeNumber },
  });
  // A session is no token, and neither is another token.
  expect((await page.request.get("/scim/v2/Users")).status()).toBe(401);
  expect((await push(person("nobody", "1"), "x".repeat(43))).status()).toBe(401);
  expect((await stranger.request.post("/scim/v2/Users", { data: "{", headers: { authorization: `Bearer ${token}` } })).status()).toBe(400);
  const created = await push(person("nora", "0124", false));
  expect([created.status(), created.headers()["content-type"]]).toEqual([201, "application/scim+json; charset=utf-8"]);
  expect((await push(person("paula", "0900"))).status()).toBe(201);
  expect((await push(person("PAULA", "0901"))).status()).toBe(409);
  const found = await stranger.request.get(`/scim/v2/Users?filter=${encodeURIComponent('userName eq "Nora"')}`, {
    headers: { authorization: `Bearer ${token}` },
  });
  expect(((await found.json()) as { totalResults: number }).totalResults).toBe(1);

  await page.reload();
  const office = page.getByRole("region", { name: "staff office" });
  await expect(office).toContainText("two people and no groups so far");
  await expect(office).toContainText("Two changes since it was looked at last");
  await office.getByRole("button", { name: "See what it would bring" }).click();
  await expect(page.getByRole("heading", { name: /as of/ })).toBeVisible();
  await expect(page.getByLabel("Name of the source").first()).toHaveValue("staff office");
  await page.goto("/intake");
  await expect(page.getByRole("region", { name: "What arrived" })).toContainText("collected on request");
  await page.getByRole("button", { name: "Look at pushed by staff office from staff office" }).click();
  await expect(page.getByRole("heading", { name: /as of/ })).toBeVisible();
  await page.getByRole("button", { name: "Store", exact: true }).click();
  await expect(page.getByText(/as snapshot \d/)).toBeVisible();
  const people = present().cardholders ?? [];
  // She is known by her staff number, and keeps her id; whom the office does not know stays.
  expect(people.find(({ id }) => id === "nora")).toMatchObject({ name: "nora of the office", status: "suspended" });
  expect(people.find(({ id }) => id === "0900")).toMatchObject({ name: "paula of the office", status: "active", staffNumber: "0900" });
  expect(people.map(({ id }) => id)).toContain("dagmar");

  await page.goto("/register/sources");
  await expect(office).toContainText("All of it was looked at.");
  await office.getByLabel("Overdue after (hours)").fill("24");
  await office.getByLabel("Its folder is watched").check();
  await office.getByRole("combobox", { name: "What arrives is checked" }).or(office.getByLabel("What arrives is checked")).first().click();
  await page.getByRole("option", { name: "once a day" }).click();
  await office.getByLabel("At", { exact: true }).fill("25:00");
  await office.getByRole("button", { name: "Keep the rhythm" }).click();
  await expect(office.getByRole("alert")).toContainText("expected one such as 06:00");
  await office.getByLabel("At", { exact: true }).fill("05:30");
  await office.getByRole("button", { name: "Keep the rhythm" }).click();
  await expect(office).toContainText("Put files into");
  await expect(office).toContainText("It is expected again by");
  await office.getByRole("button", { name: /^Revoke token/ }).click();
  await expect(office).toContainText("No token of it works");
  expect((await push(person("late", "0902"))).status()).toBe(401);
  await page.context().close();
  await stranger.context().close();
});
