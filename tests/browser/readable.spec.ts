import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { violationsOf } from "./axe";
import { addAccount, signedIn } from "./people";

const views = [
  "/intake",
  "/register",
  "/register?kind=cardholder&of=level:barn-day&group=department",
  "/register/cardholder/nora",
  "/register/schedule/night",
  "/register/calendar/days",
  "/register/departments",
  "/register/compare?before=1&after=1",
  "/register/drafts",
  "/register/sources",
  "/findings?snapshot=1",
  "/register/drafts/1",
  "/inquiry",
  "/glossary",
  "/first-steps",
  "/inquiry?where=door:cellar-door",
  "/inquiry?who=cardholder:nora",
  "/inquiry?who=group:press",
  "/inquiry?who=everybody&where=anywhere",
  "/inquiry?who=everybody&form=sheet",
  "/inquiry?who=everybody&form=sheet&asIfLive=1",
  "/inquiry/charts?who=everybody",
  "/inquiry/routes?who=everybody",
  "/inquiry/forecast",
  "/inquiry/trials",
  "/inquiry/plan?when=now",
  "/register/plans",
  "/register/plans/1",
  "/register/plans/1/edit",
  "/register/units",
  "/register/units/mill",
  "/register/levels",
  "/inquiry?who=everybody&form=sheet&fold=both",
  "/inquiry?who=cardholder:nora&where=door:cellar-door&when=2026-11-28T22:30",
  "/findings",
  "/findings?by=rule",
  "/findings/rules",
  "/findings/settings",
  "/findings/trends",
  "/findings/house",
  "/findings/print",
  "/register/events",
  "/register/events?by=door",
  "/register/events/files",
  "/register/events/replay",
  "/certification",
  "/certification/new",
  "/certification/1",
  "/certification/1/lines?decision=decided",
  "/certification/occasions",
  "/evidence",
  "/evidence?on=round%201&who=tessa",
  "/evidence/retention",
  "/docket/1",
];

const editors = [
  "",
  "/edit?list=cardholders&key=nora",
  "/edit?list=levels&key=barn-day",
  "/edit?list=schedules&key=night",
  "/edit?list=calendars&key=days",
  "/edit?list=credentials",
  "/edit?list=grants",
  "/box",
  "/people",
];

const overflow = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

async function expectReadable(page: Page, view: string): Promise<void> {
  await page.emulateMedia({ colorScheme: "light" });
  await page.goto(view);
  await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
  expect([view, await overflow(page)]).toEqual([view, 0]);
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    await expect(page.locator("html")).toHaveAttribute("data-mantine-color-scheme", colorScheme);
    // The dark differs in its colours alone: what else a view is made of was looked at in the light.
    expect([view, colorScheme, await violationsOf(page, colorScheme === "light" ? undefined : ["color-contrast"])]).toEqual([view, colorScheme, []]);
  }
}

test("no view breaks a rule of WCAG 2.2 AA, in the light or in the dark, or is cut off or pushed out sideways at 1280×800", async ({ browser }) => {
  test.setTimeout(240_000);
  addAccount("reader", "Timeframe Reviewer", "reviewer");
  const page = await signedIn(browser, "reader", { colorScheme: "light", reducedMotion: "reduce" });
  for (const view of views) await expectReadable(page, view);
  await page.context().close();
});

test("nor does an editor of an open draft", async ({ browser }) => {
  test.setTimeout(120_000);
  const page = await signedIn(browser, "reader", { colorScheme: "light", reducedMotion: "reduce" });
  await page.goto("/register/drafts");
  await page.getByLabel("New draft").fill("To be read");
  await page.getByRole("button", { name: "Begin it" }).click();
  await page.waitForURL(/drafts\/\d+$/);
  const draft = new URL(page.url()).pathname;
  for (const editor of editors) await expectReadable(page, `${draft}${editor}`);
  await page.goto(draft);
  await page.getByRole("button", { name: "Drop" }).click();
  await page.getByRole("button", { name: "Drop it" }).click();
  await expect(page.getByText(/^Dropped/)).toBeVisible();
  await page.context().close();
});

test("the docket is not cut off or pushed out sideways on a phone", async ({ browser }) => {
  const page = await signedIn(browser, "reader");
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto("/docket/1");
  expect(await overflow(page)).toBe(0);
});

test("? says what a view shows and how it is reckoned, with the keys; single keys can be switched off", async ({ browser }) => {
  const page = await signedIn(browser, "reader");
  await page.goto("/findings");
  await page.locator("body").press("Shift+?");
  const keys = page.getByRole("dialog", { name: "Findings" });
  await expect(keys).toContainText("How it is reckoned.");
  await expect(keys.getByRole("heading", { name: "Keys" })).toBeVisible();
  await keys.getByRole("switch").click({ force: true });
  await keys.getByRole("button", { name: "Close" }).click();
  await expect(keys).toBeHidden();
  await page.locator("body").press("/");
  await expect(page.getByLabel("Opens where")).toHaveCount(0);
});
