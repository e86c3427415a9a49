import { expect, test } from "@playwright/test";
import { violationsOf } from "./axe";
import { addAccount, signedIn } from "./people";

test("routes on foot lead from everybody to one person's ways, and say what a door out of use cuts off", async ({ browser }) => {
  addAccount("walker", "Wim Walker", "reviewer");
  const page = await signedIn(browser, "walker");
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto("/inquiry?where=area:cellar");
  await page.getByRole("navigation", { name: "Answer as" }).getByRole("link", { name: "Routes" }).press("Enter");
  // Three open the cellar's only door, straight from outside.
  await expect(heading).toHaveText("Three get to Cider cellar on foot");
  await expect(page.getByRole("img", { name: /^Places and the doors between them/ })).toContainText("Cellar door");
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole("link", { name: "If it were out of use: Cellar door out of use" }).press("Enter");
  await expect(page.getByRole("heading", { name: "If Cellar door were out of use" })).toBeVisible();
  await expect(page.getByText(/^Three would no longer get there: .*Nora Mosstrand/)).toBeVisible();
  await page.getByRole("link", { name: "With all doors in use" }).press("Enter");
  await page.getByRole("link", { name: "Nora Mosstrand" }).press("Enter");
  await expect(heading).toHaveText("Nora Mosstrand gets to Cider cellar through one door");
  await expect(page.getByRole("heading", { name: "One way" })).toBeVisible();
  // A question of another time is asked from the line, and stays a question about routes.
  await page.getByRole("button", { name: "When: left open" }).press("Enter");
  await page.keyboard.type("tomorrow 12:00");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/inquiry\/routes\?/);
  await page.goto("/inquiry/routes?who=everybody&without=nowhere");
  await expect(page.getByText("There is nothing here")).toBeVisible();
  await page.context().close();
});

test("a rule of the house is tried, written down, told as a finding, and ended by two people", async ({ browser }) => {
  addAccount("house-one", "Hanna House", "reviewer");
  addAccount("house-two", "Hugo House", "reviewer");
  const page = await signedIn(browser, "house-one");
  await page.goto("/findings");
  await page.getByRole("link", { name: "House rules" }).press("Enter");
  await page.goto("/findings/house?who=group:press&where=area:cellar");
  const write = page.getByRole("region", { name: "Write a rule" });
  await expect(write).toContainText("Nobody of Press house opens Cider cellar");
  await write.getByRole("button", { name: "Check it against the present register" }).press("Enter");
  await expect(write.getByRole("status")).toContainText("It would be broken by 3.");
  expect(await violationsOf(page)).toEqual([]);
  await write.getByRole("combobox", { name: "What must hold" }).click();
  await page.getByRole("option", { name: "At most this many can open it, at any time" }).click();
  await write.getByRole("textbox", { name: "How many" }).fill("2");
  await write.getByRole("button", { name: "Write it down" }).click();
  await expect(write.getByRole("alert")).toHaveText("Give the rule a name: findings are told by it.");
  await write.getByRole("textbox", { name: "Name" }).fill("Two of the press house in the cellar");
  await write.getByRole("button", { name: "Write it down" }).click();
  await expect(write.getByText("Written down; the findings of the present register were looked for anew.")).toBeVisible();
  const rule = page.getByRole("article").filter({ hasText: "Two of the press house in the cellar" });
  await expect(rule).toContainText("broken once");
  await page.getByRole("link", { name: "Findings of house rules" }).click();
  await expect(page.getByText(/Breaks the house rule “Two of the press house in the cellar”: three holders open it, and it allows two/).first()).toBeVisible();
  await page.goBack();
  await rule.getByRole("button", { name: "Ask to end it" }).press("Enter");
  await expect(rule).toContainText("house-one asks to end it");
  await expect(rule.getByRole("button", { name: "End it" })).toBeHidden();
  const other = await signedIn(browser, "house-two");
  await other.goto("/findings/house");
  await other.getByRole("article").filter({ hasText: "Two of the press house in the cellar" }).getByRole("button", { name: "End it" }).press("Enter");
  await expect(other.getByText("Two of the press house in the cellar")).toBeHidden();
  await other.goto("/findings?rule=house-rule");
  await expect(other.getByText("Breaks the house rule")).toBeHidden();
  await page.context().close();
  await other.context().close();
});

test("the forecast says what ends by itself and what the calendar does, for as many days as are asked", async ({ browser }) => {
  const page = await signedIn(browser, "walker");
  await page.goto("/inquiry");
  await page.getByRole("link", { name: "what comes by itself" }).press("Enter");
  const heading = page.getByRole("heading", { level: 1 });
  await expect(heading).toHaveText(/^In the coming 90 days/);
  // From the export of 1 March 2026 on, Labour Day comes once, and shuts the barn to its day crew.
  await expect(page.getByText(/^Labour Day \(public\), Fri 1 May 2026, Hazel orchard: .*for less of it/)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  const days = page.getByRole("textbox", { name: "Days ahead" });
  await days.fill("30");
  await days.press("Enter");
  await expect(heading).toHaveText(/^In the coming 30 days/);
  await expect(page.getByText("Labour Day")).toBeHidden();
  await page.goto("/inquiry/forecast?days=0");
  await expect(page.getByText("There is nothing here")).toBeVisible();
  await page.context().close();
});

test("a card is tried at a door through time, written down, and run again", async ({ browser }) => {
  const page = await signedIn(browser, "walker");
  const heading = page.getByRole("heading", { level: 1 });
  // A Wednesday in summer: Nora comes in with the frost watch, by night.
  await page.goto("/inquiry/trials?who=credential:c-nora&where=door:cellar-door&when=2026-07-08T22:30");
  await expect(heading).toHaveText("The door opens");
  expect(await violationsOf(page)).toEqual([]);
  const write = page.getByRole("form", { name: "Write a trial down" });
  await write.getByRole("textbox", { name: "Note" }).fill("the watch by night");
  await write.getByRole("button", { name: "Write it down" }).press("Enter");
  await expect(page.getByRole("heading", { name: "One trial, one as expected" })).toBeVisible();
  await page.getByRole("link", { name: /^The change after, Thu 9 Jul 06:00/ }).press("Enter");
  await expect(heading).toHaveText("The door stays shut");
  await expect(page.getByText("It does not open for the card: outside the hours granted.")).toBeVisible();
  // What is expected otherwise stands out.
  await write.getByRole("combobox", { name: "Expected: for this card it" }).click();
  await page.getByRole("option", { name: "opens", exact: true }).click();
  await write.getByRole("button", { name: "Write it down" }).click();
  await expect(page.getByRole("heading", { name: "Two trials, one as expected" })).toBeVisible();
  await expect(page.getByRole("row", { name: /✗ does not open for it outside the hours granted/ })).toBeVisible();
  await page
    .getByRole("button", { name: /^Take out the trial of/ })
    .last()
    .press("Enter");
  await expect(page.getByRole("heading", { name: "One trial, one as expected" })).toBeVisible();
  await page.goto("/inquiry/trials");
  await expect(heading).toHaveText("One trial, one as expected");
  await page.context().close();
});

test("levels are put right by a step that is proved, and tried as a draft", async ({ browser }) => {
  const page = await signedIn(browser, "walker");
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto("/register/drafts");
  await page.getByRole("link", { name: /^Put levels right/ }).press("Enter");
  await expect(heading).toHaveText("Put levels right");
  await page.getByRole("button", { name: "Look for steps" }).press("Enter");
  await expect(heading).not.toHaveText("Put levels right");
  expect(await violationsOf(page)).toEqual([]);
  await page.context().close();
});
