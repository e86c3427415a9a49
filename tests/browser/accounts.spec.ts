import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { generate } from "otplib";
import { violationsOf } from "./axe";
import { addAccount, signedIn } from "./people";

async function expectReadable(page: Page): Promise<void> {
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    await expect(page.locator("html")).toHaveAttribute("data-mantine-color-scheme", colorScheme);
    expect(await violationsOf(page)).toEqual([]);
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0);
}

test("an administrator makes an account; its link signs in once, and a password and a second factor are set", async ({ browser }) => {
  addAccount("keeper", "Karla Keeper", "administrator");
  const keeper = await signedIn(browser, "keeper", { colorScheme: "light", reducedMotion: "reduce" });
  await keeper.goto("/accounts");
  await keeper.getByLabel("Sign-in name").fill("auditor-7");
  await keeper.getByLabel("Full name").fill("Aurel Seven");
  await keeper.getByRole("combobox", { name: "Role" }).click();
  await keeper.getByRole("option", { name: "Area owner" }).click();
  await keeper.getByRole("button", { name: "Add the account" }).click();
  await expect(keeper.getByText("Managers and area owners certify: say which cardholder they are.")).toBeVisible();
  await keeper.getByRole("combobox", { name: "Role" }).click();
  await keeper.getByRole("option", { name: "Auditor" }).click();
  await keeper.getByRole("button", { name: "Add the account" }).click();
  const link = await keeper.getByRole("status").locator("code").innerText();
  await expect(keeper.getByRole("row", { name: /Aurel Seven/ })).toContainText("has no password yet");
  await expectReadable(keeper);

  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: "light", reducedMotion: "reduce" });
  const page = await context.newPage();
  await page.goto(link);
  // Programs that read mail open what they find: only going on uses the link up.
  await page.goto(link);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Aurel Seven");
  await page.getByRole("button", { name: "Go on" }).click();
  await page.waitForURL(/\/account$/);
  await page.getByRole("textbox", { name: "Password" }).fill("too short");
  await page.getByRole("button", { name: "Set the password" }).click();
  await expect(page.getByText("Take at least twelve characters", { exact: false })).toBeVisible();
  await page.getByRole("textbox", { name: "Password" }).fill("seven apples a day");
  await page.getByRole("button", { name: "Set the password" }).click();
  await expect(page.getByRole("button", { name: "Change the password" })).toBeVisible();
  await page.getByRole("button", { name: "Set it up" }).click();
  const secret = await page.locator("code").innerText();
  await page.getByLabel("Code").fill("000000");
  await page.getByRole("button", { name: "Put it in force" }).click();
  await expect(page.getByText("This code is not right", { exact: false })).toBeVisible();
  await page.getByLabel("Code").fill(await generate({ secret }));
  await page.getByRole("button", { name: "Put it in force" }).click();
  await expect(page.getByRole("listitem")).toHaveCount(10);
  const recovery = await page.getByRole("listitem").first().innerText();
  await expectReadable(page);
  await page.goto(link);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("This link leads nowhere any more");

  // The password alone does not open the way any more; a recovery code does, once.
  const second = await (await browser.newContext()).newPage();
  await second.goto("/sign-in");
  await second.getByLabel("Sign-in name").fill("auditor-7");
  await second.locator("input[name=password]").fill("seven apples a day");
  await second.getByRole("button", { name: "Sign in" }).click();
  await second.getByLabel("Code of your authenticator").fill(recovery);
  await second.getByRole("button", { name: "Sign in" }).click();
  await second.waitForURL((url) => url.pathname !== "/sign-in");
  await second.goto("/account");
  await expect(second.getByRole("heading", { name: "Two sessions" })).toBeVisible();

  // Reset, all its sessions end at once.
  await keeper.reload();
  await keeper
    .getByRole("row", { name: /Aurel Seven/ })
    .getByRole("button", { name: "reset" })
    .click();
  await expect(keeper.getByRole("row", { name: /Aurel Seven/ })).toContainText("has no password yet");
  await second.goto("/account");
  await expect(second).toHaveURL(/sign-in/);
  await keeper
    .getByRole("row", { name: /Aurel Seven/ })
    .getByRole("button", { name: "end", exact: true })
    .click();
  await expect(keeper.getByRole("row", { name: /Aurel Seven/ })).toContainText("ended");
  // Who looked up whom is noted, and found.
  await keeper.goto("/register/cardholder/nora");
  await keeper.goto("/accounts/look-ups?text=karla");
  await expect(keeper.getByRole("row", { name: /Karla Keeper their page Nora Mosstrand/ }).first()).toBeVisible();
  await expectReadable(keeper);
  for (const one of [page, second, keeper]) await one.context().close();
});

test("a role that asks for a second factor sets one up before anything else", async ({ browser }) => {
  addAccount("late-auditor", "Late Auditor", "auditor");
  const keeper = await signedIn(browser, "keeper");
  await keeper.goto("/accounts");
  await keeper.getByRole("checkbox", { name: "Auditor" }).click();
  await expect(keeper.getByRole("checkbox", { name: "Auditor" })).toBeChecked();
  const auditor = await signedIn(browser, "late-auditor");
  await auditor.goto("/register");
  await expect(auditor).toHaveURL(/\/account$/);
  expect((await auditor.request.get("/register/csv?kind=door")).status()).toBe(403);
  await auditor.getByRole("button", { name: "Set it up" }).click();
  await auditor.getByLabel("Code").fill(await generate({ secret: await auditor.locator("code").innerText() }));
  await auditor.getByRole("button", { name: "Put it in force" }).click();
  await expect(auditor.getByRole("listitem")).toHaveCount(10);
  await auditor.goto("/register");
  await expect(auditor).toHaveURL(/\/register/);
  await keeper.getByRole("checkbox", { name: "Auditor" }).click();
  await expect(keeper.getByRole("checkbox", { name: "Auditor" })).not.toBeChecked();
  for (const one of [auditor, keeper]) await one.context().close();
});
