import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { startControllers } from "@/standins/controller/controllers";
import { violationsOf } from "./axe";
import { freePort, startServer } from "./own-server";
import { addAccount, password } from "./people";

const token = "the token of this unit";
const folder = mkdtempSync(path.join(tmpdir(), "nomade-unit-browser-"));
let controllers: Awaited<ReturnType<typeof startControllers>>;
let server: Awaited<ReturnType<typeof startServer>>;

test.beforeAll(async () => {
  controllers = await startControllers({ port: 0, folder, token, units: [{ id: "mill", limits: { cards: 40 } }] });
  server = await startServer(await freePort(), { NOMADE_STANDIN_CONTROLLERS: controllers.address, NOMADE_STANDIN_CONTROLLERS_TOKEN: token });
  addAccount("unit-keeper", "Ursel Keeper", "administrator");
});
test.afterAll(async () => {
  server.kill();
  await controllers.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function signedInThere(page: Page): Promise<void> {
  await page.goto(`${server.address}/sign-in`);
  await page.getByLabel("Sign-in name").fill("unit-keeper");
  await page.locator("input[name=password]").fill(password);
  await page.getByRole("button", { name: "Sign in" }).press("Enter");
  await page.waitForURL((url) => url.pathname !== "/sign-in");
}

/** Chooses one of a list by its keyboard. */
async function choose(page: Page, label: string, option: RegExp): Promise<void> {
  await page.getByRole("combobox", { name: label }).press("ArrowDown");
  await page.getByRole("option", { name: option }).click();
}

test("a unit is made known, sent and read; cards are presented at its door, and what it never heard is told", async ({ page }) => {
  await signedInThere(page);
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto(`${server.address}/register`);
  await page.getByRole("link", { name: "Units" }).press("Enter");
  await expect(heading).toHaveText("One of one unit needs to be looked at");
  await page.getByRole("link", { name: "mill" }).press("Enter");
  await expect(heading).toHaveText("mill is not known here");
  expect(await violationsOf(page)).toEqual([]);

  // What is missing or wrong is said before anything is kept.
  const keep = page.getByRole("button", { name: "Make it known" });
  await keep.press("Enter");
  await expect(page.getByText("Type its address.")).toBeVisible();
  const address = page.getByRole("textbox", { name: "Address" });
  await address.fill("ftp://unit");
  await keep.press("Enter");
  await expect(page.getByText("begins with http://")).toBeVisible();
  await address.fill(`${controllers.address}/units/mill`);
  await keep.press("Enter");
  await expect(page.getByText(/answers to its token only/)).toBeVisible();
  await page.getByLabel("Token").first().fill(token);
  await page.getByRole("switch", { name: "What it holds is sent from here" }).press("Space");
  await keep.press("Enter");
  await expect(page.getByRole("button", { name: "Keep it so" })).toBeVisible();

  // Units are visited every few seconds.
  const again = page.getByRole("button", { name: "Read and send it again" });
  await expect(again).toBeVisible();
  await expect
    .poll(
      async () => {
        await page.reload();
        return heading.textContent();
      },
      { timeout: 120_000, intervals: [3000] },
    )
    .toBe("mill holds what the register says");
  await expect(page.getByRole("heading", { name: "It decides as the register says" })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);

  // Known, and unknown with a number: each comes back as an event in words.
  await choose(page, "Card", /Iris Almondfeld/);
  await page.getByRole("button", { name: "Present it" }).press("Enter");
  await expect(page.getByRole("status").first()).toContainText("Let in at Cellar door: has the right.");
  await choose(page, "Card", /another number/);
  await page.getByRole("button", { name: "Present it" }).press("Enter");
  await expect(page.getByText("Type a number.")).toBeVisible();
  await page.getByRole("textbox", { name: "Number" }).fill("4711");
  await page.getByRole("button", { name: "Present it" }).press("Enter");
  await expect(page.getByRole("status").first()).toContainText("Refused at Cellar door: not known to the unit.");
  await page.getByRole("link", { name: "Events of this door" }).press("Enter");
  await expect(heading).toContainText("Events of Cellar door");
  await expect(page.getByText("4711").first()).toBeVisible();
  await expect(page.getByText("not known to the unit").first()).toBeVisible();
  await expect(page.getByText("Iris Almondfeld").first()).toBeVisible();
  await page.getByRole("switch", { name: "As they come" }).press("Space");

  // From the unknown number to a draft in which it stands.
  await page.getByRole("row", { name: /4711/ }).first().click();
  await page.getByRole("button", { name: "Enter this card in a draft" }).press("Enter");
  await page.waitForURL(/\/register\/drafts\/\d+\/edit/);
  await expect(page.getByRole("textbox", { name: "Number", exact: true }).first()).toHaveValue("4711");

  // In a lockdown the record and the unit say the same of who gets in: nobody.
  await page.goto(`${server.address}/register/units/mill`);
  await page.getByRole("button", { name: "Raise a lockdown" }).press("Enter");
  await expect(page.getByText("It is in a lockdown.")).toBeVisible();
  await choose(page, "Card", /Iris Almondfeld/);
  await page.getByRole("button", { name: "Present it" }).press("Enter");
  await expect(page.getByRole("status").first()).toContainText("Refused at Cellar door: shut in a lockdown.");
  await page.getByRole("button", { name: "Lift the lockdown" }).press("Enter");
  await expect(page.getByText("It is in a lockdown.")).toHaveCount(0);

  // The verdict says what the unit would do beside what the register says.
  await page.goto(`${server.address}/inquiry?who=cardholder:iris&where=door:cellar-door&when=now`);
  await expect(page.getByText(/The unit at the door, mill, decides the same/)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);

  await page.goto(`${server.address}/register/units/mill`);
  await page.getByRole("button", { name: "Forget it" }).press("Enter");
  await expect(heading).toHaveText("mill is not known here");
});
