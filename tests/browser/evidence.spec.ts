import { expect, test } from "@playwright/test";
import { addAccount, signedIn } from "./people";

test("from a round to its entries in the record, from an entry to its docket, and back; the record is narrowed in words", async ({ browser }) => {
  addAccount("evidence-reader", "Elva Evidence", "auditor");
  const page = await signedIn(browser, "evidence-reader");
  await page.goto("/certification/1");
  await page.getByRole("link", { name: "In the record" }).click();
  await page.waitForURL(/\/evidence\?on=round/);
  await expect(page.getByText("Entries on round 1.")).toBeVisible();
  await expect(page.getByRole("link", { name: "round 1", exact: true }).first()).toHaveAttribute("href", "/certification/1");
  await page.goto("/evidence?on=docket%201");
  await page.getByRole("link", { name: "docket 1", exact: true }).first().click();
  await page.waitForURL(/\/docket\/1$/);
  await page.getByRole("link", { name: "In the record" }).click();
  await page.waitForURL(/\/evidence\?on=docket/);
  // What was done is a word of the page, and stands in no entry.
  await page.goto("/evidence");
  await page.getByLabel("Find in the record").fill("signed");
  await page.waitForURL(/text=signed/);
  await expect(page.getByRole("row").nth(1)).toContainText("signed");
  await page.getByRole("combobox", { name: "What was done" }).click();
  await page.getByRole("option", { name: "Signed", exact: true }).click();
  await page.waitForURL(/what=docket.signed/);
  for (const row of (await page.getByRole("row").all()).slice(1)) await expect(row).toContainText(/ signed docket \d+/);
  // What an address asks and is not understood is named, and not answered as something else.
  await page.goto("/evidence?from=yesterday&before=x&who=");
  await expect(page.getByRole("main").getByRole("alert")).toContainText("from=yesterday, before=x");
  await page.context().close();
});

test("for how long things are kept is set by an administrator, within bounds, and seen by an auditor", async ({ browser }) => {
  addAccount("evidence-keeper", "Kara Kept", "administrator");
  const keeper = await signedIn(browser, "evidence-keeper");
  await keeper.goto("/evidence/retention");
  await expect(keeper.getByRole("heading", { level: 1 })).toHaveText("Everything is kept for ever");
  const months = keeper.getByLabel("Months for which snapshots are kept");
  await months.fill("10");
  await keeper.getByRole("button", { name: "Set it" }).click();
  await expect(keeper.getByRole("main").getByRole("alert")).toHaveText("Expected from 14 to 1,200 months.");
  await months.fill("24");
  await keeper.getByRole("button", { name: "Set it" }).click();
  await expect(keeper.getByRole("heading", { level: 1 })).toHaveText("One of five kinds is kept for some time only");
  await expect(keeper.getByRole("row", { name: /Snapshots/ })).toContainText("Set by evidence-keeper");
  const auditor = await signedIn(browser, "evidence-reader");
  await auditor.goto("/evidence/retention");
  await expect(auditor.getByRole("row", { name: /Snapshots/ })).toContainText("24 months");
  await expect(auditor.getByRole("textbox", { name: /Months/ })).toHaveCount(0);
  await keeper.reload();
  await months.fill("");
  await keeper.getByRole("button", { name: "Set it" }).click();
  await expect(keeper.getByRole("heading", { level: 1 })).toHaveText("Everything is kept for ever");
  for (const one of [keeper, auditor]) await one.context().close();
});

test("a certifier reads their own account in their language", async ({ browser }) => {
  addAccount("lotte", "Lotte Landes", "manager", "leif");
  const page = await signedIn(browser, "lotte", { locale: "de-AT" });
  await page.goto("/account");
  await expect(page.getByRole("heading", { name: "Passwort" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Eine Anmeldung" })).toBeVisible();
  await page.getByLabel("Jetziges Passwort").fill("not the password");
  await page.getByLabel("Neues Passwort").fill("sieben Äpfel am Tag");
  await page.getByRole("button", { name: "Passwort ändern" }).click();
  await expect(page.getByRole("main").getByRole("alert")).toHaveText("Das jetzige Passwort stimmt nicht.");
  await page.context().close();
});
