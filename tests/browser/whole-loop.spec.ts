import { mkdtempSync, writeFileSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { parse } from "csv-parse/sync";
import type { FacilityDocument } from "@/core/facility/document";
import type { FacilityChange } from "@/core/facility/facility-change";
import { withChanges } from "@/core/facility/facility-change";
import type { Facility } from "@/core/facility/facility";
import { orchard } from "./orchard";
import { violationsOf } from "./axe";
import { addAccount, nomade, signedIn } from "./people";

/** The loop of certification walked whole in the browser, each step on what the one before left: round, dockets, orders, and what a later intake says. */
test.describe.configure({ mode: "serial" });

const folder = mkdtempSync(path.join(tmpdir(), "nomade-loop-"));
/** The orchard, whose cellar has an owner; everybody has a level that opens the barn. */
const owned: FacilityDocument = { ...orchard, areas: (orchard.areas ?? []).map((area) => (area.id === "cellar" ? { ...area, owner: "otto" } : area)) };
let round = "";
let reviewer: Page;

function intake(name: string, of: FacilityDocument): void {
  const file = path.join(folder, `${name}.json`);
  writeFileSync(file, JSON.stringify(of));
  nomade(["intake", file, "--source", "controller"]);
}

const line = (page: Page, name: string) => page.getByRole("region", { name });
const saved = (page: Page) => expect(page.getByRole("status").filter({ hasText: /^(Saved|Gespeichert)$/ })).toBeVisible();

/** Goes to the page of a person of the docket, forwards from wherever it is. */
async function goTo(page: Page, person: string): Promise<void> {
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toBeVisible();
  for (let step = 0; step < 10 && (await title.innerText()) !== person; step++) {
    const before = await title.innerText();
    await page.keyboard.press("ArrowRight");
    await expect(title).not.toHaveText(before);
  }
  await expect(title).toHaveText(person);
}

async function docketOf(page: Page): Promise<void> {
  await page.goto("/docket");
  await page.getByRole("link", { name: "Loop review" }).click();
  await page.waitForURL(/\/docket\/\d+/);
}

test.beforeAll(async ({ browser }) => {
  for (const [signIn, name, role, cardholder] of [
    ["loop-tessa", "Tessa Reviewer", "reviewer", undefined],
    ["loop-wilma", "Wilma Keeper", "administrator", undefined],
    ["loop-otto", "Otto Rushgaard", "owner", "otto"],
  ] as const)
    addAccount(signIn, name, role, cardholder);
  intake("before", { ...owned, asOf: "2026-04-10T06:00:00Z" });
  reviewer = await signedIn(browser, "loop-tessa");
});

test("a round is planned by what it covers and who certifies it, each choice with what it does and an address of its own", async () => {
  await reviewer.goto("/certification/new");
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("A new round:");
  await reviewer.getByRole("combobox", { name: "Certified by" }).click();
  await reviewer.getByRole("option", { name: /^both/ }).click();
  await expect(reviewer).toHaveURL(/by=both/);
  await expect(reviewer.getByRole("row", { name: /=Otto Rushgaard/ })).toContainText("signs in");
  await reviewer.getByRole("combobox", { name: "Which lines" }).click();
  await reviewer.getByRole("option", { name: /With something against them \(\d+\)/ }).click();
  await expect(reviewer).toHaveURL(/only=findings/);
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("A new round:");
  await reviewer.goto("/certification/new?by=both");
  await reviewer.getByLabel("Name").fill("Loop review");
  await reviewer.getByLabel("Due").fill("31 Jan 2027");
  await reviewer.getByLabel("Due").press("Tab");
  await reviewer.getByRole("combobox", { name: "One docket first" }).click();
  await reviewer.getByRole("option", { name: "=Otto Rushgaard" }).click();
  await reviewer.getByRole("button", { name: "Open the round" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Loop review: none of two dockets signed");
  round = new URL(reviewer.url()).pathname;
  // One docket goes first; the other begins when it is let.
  await expect(reviewer.getByRole("row", { name: /Dagmar Holmwold/ })).toContainText("waits");
  await reviewer.getByRole("button", { name: "Let the other docket begin" }).click();
  await expect(reviewer.getByRole("row", { name: /Dagmar Holmwold/ })).toContainText("not yet");
  // An address that cannot be understood is not taken for a round about everybody.
  expect((await reviewer.goto("/certification/new?site=orchard&oddly=1"))?.status()).toBe(404);
});

test("a manager narrows with the keyboard alone: what stays is drawn beside what goes, and it can be undone", async ({ browser }) => {
  const manager = await signedIn(browser, "dagmar");
  await docketOf(manager);
  await goTo(manager, "Iris Almondfeld");
  const cellar = line(manager, "Iris Almondfeld, Cider cellar");
  await manager.keyboard.press("ArrowDown");
  await expect(cellar).toBeFocused();
  // A reason that only agrees is refused, and stays to be made better.
  await manager.keyboard.press("k");
  await cellar.getByLabel("Why is it needed?").fill("ok");
  await cellar.getByLabel("Why is it needed?").blur();
  await expect(cellar.getByRole("alert")).toContainText("“ok” says nothing");
  await manager.reload();
  await expect(cellar.getByRole("button", { name: "Keep", exact: true })).toHaveAttribute("aria-pressed", "false");
  await manager.keyboard.press("ArrowDown");
  await expect(cellar).toBeFocused();
  await manager.keyboard.press("n");
  // Into the first field, open it, take "Day", write why, and press the button.
  await expect(cellar.getByText("What stays")).toBeVisible();
  await cellar.getByRole("combobox", { name: "Only in the hours of" }).focus();
  await manager.keyboard.press("ArrowDown");
  await manager.keyboard.type("Day");
  await manager.keyboard.press("ArrowDown");
  await manager.keyboard.press("ArrowDown");
  await manager.keyboard.press("Enter");
  await expect(cellar.getByRole("img", { name: /^Usual week: stays/ })).toBeVisible();
  await expect(cellar.getByRole("img", { name: /^Usual week: goes/ })).toBeVisible();
  for (const colorScheme of ["light", "dark"] as const) {
    await manager.emulateMedia({ colorScheme });
    expect([colorScheme, await violationsOf(manager)]).toEqual([colorScheme, []]);
  }
  await expect(cellar.getByRole("button", { name: "Narrow it so" })).toBeDisabled();
  await cellar.getByLabel("Why is it needed?").focus();
  await manager.keyboard.type("She presses by day.");
  await manager.keyboard.press("Tab");
  await expect(cellar.getByRole("button", { name: "Narrow it so" })).toBeFocused();
  await manager.keyboard.press("Enter");
  await expect(cellar).toContainText(/Stays in the hours of (Day|Night)\./);
  await saved(manager);
  await cellar.focus();
  await manager.keyboard.press("u");
  await expect(cellar.getByRole("button", { name: "Narrow …" })).toHaveAttribute("aria-pressed", "false");
  await saved(manager);
  await manager.context().close();
});

test("what is decided while the network is gone waits to be saved, and a second device sees it afterwards", async ({ browser }) => {
  const manager = await signedIn(browser, "dagmar");
  await docketOf(manager);
  await goTo(manager, "Iris Almondfeld");
  const cellar = line(manager, "Iris Almondfeld, Cider cellar");
  await manager.context().setOffline(true);
  await cellar.getByRole("button", { name: "Withdraw" }).click();
  await expect(manager.getByRole("status").filter({ hasText: "One decision waits to be saved" })).toBeVisible();
  await expect(cellar.getByRole("button", { name: "Withdraw" })).toHaveAttribute("aria-pressed", "true");
  await manager.context().setOffline(false);
  await saved(manager);
  const second = await signedIn(browser, "dagmar", { viewport: { width: 390, height: 844 } });
  await docketOf(second);
  await goTo(second, "Iris Almondfeld");
  await expect(line(second, "Iris Almondfeld, Cider cellar").getByRole("button", { name: "Withdraw" })).toHaveAttribute("aria-pressed", "true");
  await second.context().close();
  await manager.context().close();
});

test("a line is passed on to another certifier, who sees it at once, and a question goes to the reviewer", async ({ browser }) => {
  const manager = await signedIn(browser, "dagmar");
  await docketOf(manager);
  await goTo(manager, "Nora Mosstrand");
  const cellar = line(manager, "Nora Mosstrand, Cider cellar");
  await cellar.getByRole("button", { name: "Pass on …" }).click();
  await cellar.getByRole("combobox", { name: "Who should decide it?" }).click();
  await manager.getByRole("option", { name: "=Otto Rushgaard" }).click();
  await cellar.getByRole("button", { name: "Pass it on" }).click();
  await expect(cellar).toContainText("Passed on to =Otto Rushgaard, who decides it.");
  await saved(manager);
  await cellar.getByRole("button", { name: "Ask the reviewer" }).click();
  await cellar.getByRole("textbox", { name: "Comment" }).fill("Does the watch still need it?");
  await cellar.getByRole("button", { name: "Send" }).click();
  // As it is told once it was stored, not as it stands in the field.
  await expect(cellar.locator("p", { hasText: "Does the watch still need it?" })).toBeVisible();
  await reviewer.goto(round);
  await expect(reviewer.getByRole("row", { name: /Dagmar Holmwold/ })).toContainText("one comment");
  await manager.context().close();
});

test("an owner decides on a phone in German, and signs a German statement", async ({ browser }) => {
  const owner = await signedIn(browser, "loop-otto", { viewport: { width: 390, height: 844 }, locale: "de-AT" });
  await expect(owner.getByRole("heading", { level: 1 })).toContainText("auf Sie");
  await docketOf(owner);
  const said: string[] = [];
  for (let step = 0; step < 12; step++) {
    const title = await owner.getByRole("heading", { level: 1 }).innerText();
    if (title === "Ihre Mappe unterschreiben") break;
    for (const one of await owner
      .getByRole("region")
      .filter({ has: owner.getByRole("button", { name: "Behalten" }) })
      .all()) {
      said.push(await one.innerText());
      const goes = ((await one.getAttribute("aria-label")) ?? "").startsWith("Iris");
      await one.getByRole("button", { name: goes ? "Entziehen" : "Behalten", exact: true }).click();
      const reason = one.getByLabel("Wozu wird es gebraucht?");
      if (!goes && (await reason.isVisible())) {
        await reason.fill("Nachtwache bis zur Ernte");
        await reason.blur();
      }
    }
    expect(await owner.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0);
    const all = owner.getByRole("button", { name: /wie bei den meisten behalten$/ });
    if (await all.isVisible()) await all.click();
    await owner.getByRole("button", { name: /^(Nächste Person|Zur Unterschrift)$/ }).click();
    await expect(owner.getByRole("heading", { level: 1 })).not.toHaveText(title);
  }
  // Lines, hours, effects and the reasons that speak against them are all German.
  expect(said.join(" ")).toMatch(/Zu jeder Zeit|jede Nacht/);
  expect(said.join(" ")).toContain("An Sie weitergegeben.");
  expect(said.join(" ")).not.toMatch(/\b(the|every|holidays|colleagues|Opens)\b/);
  await saved(owner);
  await owner.getByRole("button", { name: /unterschreiben$/ }).click();
  await expect(owner.getByText(/^Ich, Otto Rushgaard, habe jede dieser \d+ Zeilen angesehen\./)).toBeVisible();
  await owner.getByRole("button", { name: "English" }).click();
  await expect(owner.getByRole("heading", { level: 1 })).toHaveText("Signed");
  await owner.context().close();
});

test("the manager signs; the orders go out, the source answers, and a later intake says what became of them", async ({ browser }) => {
  const manager = await signedIn(browser, "dagmar");
  await docketOf(manager);
  for (let step = 0; step < 12; step++) {
    const title = await manager.getByRole("heading", { level: 1 }).innerText();
    if (title === "Sign your docket") break;
    for (const one of await manager
      .getByRole("region")
      .filter({ has: manager.getByRole("button", { name: /^(Keep|Keep the card)$/ }) })
      .all()) {
      if ((await one.locator("[aria-pressed=true]").count()) > 0) continue;
      await one.getByRole("button", { name: /^(Keep|Keep the card)$/ }).click();
      const reason = one.getByLabel("Why is it needed?");
      if (await reason.isVisible()) {
        await reason.fill("Comes back for the harvest");
        await reason.blur();
      }
    }
    const all = manager.getByRole("button", { name: /like most colleagues/ });
    if (await all.isVisible()) await all.click();
    await manager.getByRole("button", { name: /^(Next person|To the signature)$/ }).click();
    await expect(manager.getByRole("heading", { level: 1 })).not.toHaveText(title);
  }
  await manager.getByRole("button", { name: /^Sign / }).click();
  await expect(manager.getByRole("heading", { name: "Signed" })).toBeVisible();
  await manager.context().close();

  await reviewer.goto(round);
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Loop review: all signed");
  await expect(reviewer.getByRole("row", { name: /Iris Almondfeld/ })).toContainText("not sent");
  await reviewer.getByRole("button", { name: /^Send .* …$/ }).click();
  await expect(reviewer.getByText(/Planned anew on snapshot \d+: just as they were ordered/)).toBeVisible();
  await reviewer.getByRole("button", { name: /^Mark .* as sent$/ }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("0 of 1 done, 1 open since today");
  const [download] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "Save the orders as CSV" }).click()]);
  const rows = parse<Record<string, string>>(await readFile(await download.path(), "utf8"), { columns: true });
  const answer = (said: string) => ({
    name: "answer.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(`order,answer,note\n${rows[0]?.order ?? ""},${said},in the night run\n`),
  });
  await reviewer.locator("input[type=file]").setInputFiles(answer("perhaps"));
  await expect(reviewer.getByText("Line 2, answer: found perhaps; expected done or refused.")).toBeVisible();
  await reviewer.locator("input[type=file]").setInputFiles(answer("done"));
  await expect(reviewer.getByText("they say it is done")).toBeVisible();
  // The controlling system carried them out as they were ordered.
  const changes = rows.map(({ do: what, list, id, object }) => ({ do: what, list, id, ...(object !== "" && { object: JSON.parse(object ?? "") as object }) }));
  intake("after", { ...withChanges(owned as Facility, changes as unknown as FacilityChange[]), asOf: new Date(Date.now() + 60_000).toISOString() });
  await reviewer.goto(round);
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Loop review: 1 of 1 done");
  await expect(reviewer.getByRole("row", { name: /Iris Almondfeld/ })).toContainText("Done as ordered: what was to go opens no more");
});

test("a round is closed before all is signed only with a reason and by a second person", async ({ browser }) => {
  await reviewer.goto("/certification/new?area=barn");
  await reviewer.getByLabel("Name").fill("Left open");
  await reviewer.getByLabel("Due").fill("31 Jan 2027");
  await reviewer.getByLabel("Due").press("Tab");
  await reviewer.getByRole("combobox", { name: "What nobody decides counts as" }).click();
  await reviewer.getByRole("option", { name: "withdrawn" }).click();
  await reviewer.getByRole("button", { name: "Open the round" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toContainText("Left open:");
  const address = reviewer.url();
  await reviewer.getByRole("button", { name: "Close the round before all is signed …" }).click();
  await reviewer.getByLabel("Why?").fill("Dagmar is on leave until spring.");
  await reviewer.getByRole("button", { name: "Ask to close it" }).click();
  await expect(reviewer.getByText("A second reviewer or an administrator has to confirm it.")).toBeVisible();
  const administrator = await signedIn(browser, "loop-wilma");
  await administrator.goto(address);
  await expect(administrator.getByText("“Dagmar is on leave until spring.”")).toBeVisible();
  await administrator.getByRole("button", { name: "Confirm, and close the round" }).click();
  await expect(administrator.getByText(/^Closed on/)).toBeVisible();
  await expect(administrator.getByRole("row", { name: /Dagmar Holmwold/ })).toContainText("closed unsigned");
  await expect(administrator.getByRole("row", { name: /Nora Mosstrand/ }).first()).toContainText("not sent");
  await administrator.context().close();
  expect((JSON.parse(nomade(["verify"])) as { sound: boolean }).sound).toBe(true);
});

test("the owner of an area certifies what levels open and which days are holidays; what needs changing goes out in words, and every number leads to its lines", async ({
  browser,
}) => {
  const asOf = new Date(Date.now() + 120_000).toISOString();
  intake("owned", { ...owned, asOf, areas: (owned.areas ?? []).map((area) => ({ ...area, owner: "otto" })) });
  await reviewer.goto("/certification/new");
  await reviewer.getByRole("combobox", { name: "Definitions" }).click();
  await reviewer.getByRole("option", { name: /^nothing else \(\d+\)$/ }).click();
  await expect(reviewer).toHaveURL(/definitions=only/);
  await expect(reviewer.getByText("lines are about definitions.")).toBeVisible();
  await reviewer.getByLabel("Name").fill("What is laid down");
  await reviewer.getByLabel("Due").fill("31 Jan 2027");
  await reviewer.getByLabel("Due").press("Tab");
  await reviewer.getByRole("button", { name: "Open the round" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("What is laid down: the one docket is not signed yet");
  const laidDown = new URL(reviewer.url()).pathname;

  const owner = await signedIn(browser, "loop-otto");
  await owner.goto("/docket");
  await owner.getByRole("link", { name: "What is laid down" }).click();
  await expect(owner.getByRole("heading", { level: 1 })).toHaveText("Access levels");
  const level = line(owner, "Barn by day");
  await expect(level).toContainText("Opens one door.");
  await expect(level).toContainText("Mon–Fri 08–18");
  await expect(level).toContainText("Not certified before.");
  // By the keyboard alone: what needs changing is said in words, and ok says nothing.
  await level.focus();
  await owner.keyboard.press("w");
  const task = level.getByLabel("What should be changed?");
  await task.fill("ok");
  await level.getByRole("button", { name: "Ask for this change" }).press("Enter");
  await expect(level.getByRole("alert")).toHaveText("Say in words what should be changed.");
  await task.fill("Open it from nine: nobody is there before.");
  await level.getByRole("button", { name: "Ask for this change" }).press("Enter");
  await expect(level.getByText("Goes out as a task when you sign.")).toBeVisible();
  await saved(owner);
  for (const colorScheme of ["light", "dark"] as const) {
    await owner.emulateMedia({ colorScheme });
    expect(await violationsOf(owner)).toEqual([]);
  }
  await owner.setViewportSize({ width: 390, height: 844 });
  expect(await owner.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0);
  await owner.getByRole("button", { name: "Next part" }).click();
  await expect(owner.getByRole("heading", { level: 1 })).toHaveText("Calendars");
  const calendar = line(owner, "Orchard days");
  await expect(calendar).toContainText("Labour Day");
  await calendar.getByRole("button", { name: "As it should be" }).click();
  await saved(owner);
  await owner.getByRole("button", { name: "To the signature" }).click();
  await expect(owner.getByText("One definition is as it should be, one needs changing.")).toBeVisible();
  await owner.getByRole("button", { name: "Sign 2 lines" }).click();
  await expect(
    owner.getByText(/^I, Otto Rushgaard, have looked at each of these 2 lines\. Of 2 definitions 1 is as it should be; 1 needs changing\./),
  ).toBeVisible();
  await owner.context().close();

  await reviewer.goto(laidDown);
  await expect(reviewer.getByRole("row", { name: /Access levels/ })).toContainText("Change Barn by day: “Open it from nine: nobody is there before.”");
  await reviewer
    .getByRole("row", { name: /Otto Rushgaard/ })
    .getByRole("link", { name: "1", exact: true })
    .click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Docket of =Otto Rushgaard, withdrawn: one line");
  await expect(reviewer.getByRole("row", { name: /Barn by day/ })).toContainText("needs changing");
  expect(await violationsOf(reviewer)).toEqual([]);
  const [download] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("link", { name: "Save these as CSV" }).click()]);
  const rows = parse<Record<string, string>>(await readFile(await download.path(), "utf8"), { columns: true });
  expect(rows.map(({ what, decision, reason }) => [what, decision, reason])).toEqual([
    ["Barn by day", "needs changing", "Open it from nine: nobody is there before."],
  ]);
  await reviewer.getByRole("link", { name: "Access levels" }).click();
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("Access levels");

  // The evidence of it all, as one file that is verified without the database.
  await reviewer.goto(laidDown);
  const [pack] = await Promise.all([reviewer.waitForEvent("download"), reviewer.getByRole("button", { name: "Make the evidence pack" }).click()]);
  const verified = JSON.parse(nomade(["verify", await pack.path()])) as { readonly sound: boolean; readonly packHash: string };
  expect(verified.sound).toBe(true);
  await expect(reviewer.getByText(`The SHA-256 of its SHA256SUMS is ${verified.packHash}; it stands in the record.`)).toBeVisible();
});
