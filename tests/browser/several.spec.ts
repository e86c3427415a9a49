import { expect, test } from "@playwright/test";
import { addAccount, signedIn } from "./people";

test("several people and several doors are asked about with the keyboard alone, from the question line to a verdict", async ({ browser }) => {
  addAccount("asker", "Ava Asker", "reviewer");
  addAccount("other-asker", "Otis Asker", "reviewer");
  const page = await signedIn(browser, "asker");
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto("/inquiry");
  await page.getByRole("button", { name: "Who: left open" }).press("Enter");
  await page.keyboard.type("press hou");
  await expect(page.getByRole("option").first()).toContainText("Press house");
  await page.keyboard.press("Enter");
  // What a department opens is told by doors: the four who open the barn by day, and the cellar, which three of them open.
  await expect(heading).toHaveText("Everybody of Press house: four holders open two doors between them");
  await expect(page.getByRole("row", { name: /^Cellar door/ })).toContainText("3 open it");
  await page.getByRole("link", { name: "By person" }).press("Enter");
  await expect(heading).toHaveText("Three of the four (Everybody of Press house) can open something");
  await page
    .getByRole("row", { name: /^Iris Almondfeld/ })
    .getByRole("link", { name: "2 doors" })
    .press("Enter");
  await expect(heading).toHaveText("Iris Almondfeld opens two doors");
  await page.goBack();
  await page.getByRole("link", { name: "People by doors" }).press("Enter");
  await expect(heading).toHaveText("Three holders open something of two doors");
  const grid = page.getByRole("grid", { name: "People by doors" });
  await grid.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowRight");
  const chosen = page.getByRole("gridcell", { selected: true });
  await expect(chosen).toHaveAttribute("aria-label", /^.+, Cellar door: [0-9.]+ h in an ordinary week, [0-9.]+ h of them out of hours$/);
  await page.getByRole("link", { name: "The verdict on a page of its own" }).press("Enter");
  await expect(heading).toHaveText(/opens it now$|does not open it now$/);
  await page.context().close();
});

test("a sheet is folded by department and by area, leads from a cell to its rows, and comes as CSV; an address with a form that it cannot have is refused by name", async ({
  browser,
}) => {
  const page = await signedIn(browser, "asker");
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto("/inquiry?who=everybody&form=sheet");
  await page.getByRole("link", { name: "Both", exact: true }).click();
  await expect(heading).toHaveText(/department/);
  await page.getByRole("gridcell", { name: /^Press house, Cider cellar: / }).click();
  await page.getByRole("link", { name: "Ask about these, with all groups and areas below them" }).click();
  await expect(heading).toHaveText("Three of the four (Everybody of Press house) can");
  const file = await page.request.get("/inquiry/export?who=group:press&where=area:cellar&as=csv");
  expect(file.headers()["content-type"]).toContain("text/csv");
  const lines = (await file.text()).trim().split("\r\n");
  expect(lines[0]).toContain("who,kind,id,of,doors");
  expect(
    lines
      .slice(1)
      .map((line) => line.split(",")[2])
      .sort(),
  ).toEqual(["iris", "nora", "otto"]);
  // Somebody at a door comes date by date, over the 13 months from the export of 1 March.
  const year = await page.request.get("/inquiry/export?who=cardholder:nora&where=door:barn-door&as=csv");
  const dates = (await year.text())
    .trim()
    .split("\r\n")
    .map((line) => line.split(","));
  expect([dates.length - 1 > 395, dates[1]?.slice(0, 3)]).toEqual([true, ["2026-03-01", "Sun", "stays shut"]]);
  expect(dates.find(([date]) => date === "2026-03-02")?.slice(1, 5)).toEqual(["Mon", "08:00–18:00", "10", "0"]);
  await page.goto("/inquiry?who=cardholder:nora&form=sheet");
  await expect(heading).toHaveText("One part of this question is not understood");
  await expect(page.getByText("form=sheet", { exact: true })).toBeVisible();
  // Nobody is said to open nothing of what is not there.
  expect((await page.goto("/inquiry?who=group:nowhere"))?.status()).toBe(404);
  expect((await page.goto("/inquiry?where=site:nowhere&when=nights"))?.status()).toBe(404);
  await page.context().close();
});

test("a question is kept with its time in the words in which it was typed, watched, asked again, and dropped; what was asked before stands there, too", async ({
  browser,
}) => {
  const page = await signedIn(browser, "asker");
  await page.goto("/inquiry?where=door:cellar-door");
  await page.getByRole("button", { name: "when: left open" }).click();
  await page.keyboard.type("nights");
  await expect(page.getByRole("option").first()).toContainText("nights");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^(One|Two) can, /);
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("status").filter({ hasText: "Kept" })).toBeVisible();
  await page.goto("/inquiry");
  const kept = page.getByRole("region", { name: "Kept questions" });
  await expect(kept.getByRole("link")).toHaveText("Who opens Cellar door, nights?");
  await expect(kept.getByRole("link")).toHaveAttribute("href", /when=nights/);
  await expect(page.getByRole("region", { name: "Asked before" }).getByRole("link").first()).toHaveText(/^Who opens Cellar door, /);
  await kept.getByRole("button", { name: "Watch" }).click();
  await expect(kept.getByRole("status")).toHaveText(/^(The same as in snapshot \d+\.|Since snapshot \d+: .+|There is no earlier snapshot to compare with\.)$/);
  // Nobody else keeps it, and nobody else is told of it.
  const other = await signedIn(browser, "other-asker");
  await other.goto("/inquiry");
  await expect(other.getByRole("region", { name: "Kept questions" })).toHaveCount(0);
  await kept.getByRole("link").click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^(One|Two) can, /);
  await page.goBack();
  await kept.getByRole("button", { name: "Drop" }).click();
  await expect(kept).toHaveCount(0);
  for (const one of [page, other]) await one.context().close();
});

test("when alone is answered: who opens anything then", async ({ browser }) => {
  const page = await signedIn(browser, "asker");
  await page.goto("/inquiry?when=Sunday%20night");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^(One|Two|Three) can open something, /);
  await expect(page.getByRole("row", { name: /^Iris Almondfeld/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /^=Otto Rushgaard/ })).toHaveCount(0);
  await page.context().close();
});

test("asked as if every card were live, a verdict says what would open and what does as things stand; one key asks so and back", async ({ browser }) => {
  const page = await signedIn(browser, "asker");
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto("/inquiry?who=cardholder:leif&where=door:barn-door&when=2026-11-25T10:00");
  await expect(heading).toHaveText("Leif Rushdahl does not open it then");
  // The answer came in a stream: a key is heard once the page is at rest.
  await page.waitForLoadState("networkidle");
  await page.keyboard.press("l");
  await expect(heading).toHaveText("Leif Rushdahl would open it then if every card were live");
  await expect(page.getByRole("paragraph").filter({ hasText: "As things stand, Wed 25 Nov 2026, 10:00. It stays shut:" })).toBeVisible();
  await expect(page.getByRole("img", { name: /^It would open on [0-9,]+ dates of [0-9]+, for / })).toBeVisible();
  await page.waitForLoadState("networkidle");
  await page.keyboard.press("l");
  await expect(heading).toHaveText("Leif Rushdahl does not open it then");
  expect(new URL(page.url()).searchParams.has("asIfLive")).toBe(false);
  await page.context().close();
});

test("a question about several leads to its charts, and each row of their tables to its own question", async ({ browser }) => {
  const page = await signedIn(browser, "asker");
  const heading = page.getByRole("heading", { level: 1 });
  await page.goto("/inquiry?who=everybody&where=anywhere");
  await page.getByRole("link", { name: "Charts" }).click();
  await expect(heading).toHaveText("Everybody at anything, in charts");
  const figure = (title: RegExp) => page.getByRole("figure").filter({ hasText: title });
  const hours = figure(/by the hour of an ordinary week/);
  await hours.getByText("The table behind it").click();
  // By day Iris, Nora and Otto open the barn, on weekends Iris alone the cellar; at night she and Nora of the watch do.
  const at = (row: RegExp) => hours.getByRole("row", { name: row }).getByRole("cell").allTextContents();
  expect(await at(/^10–11/)).toEqual(["10–11", "3", "3", "3", "3", "3", "1", "1"]);
  expect(await at(/^02–03/)).toEqual(["02–03", "2", "2", "2", "2", "2", "2", "2"]);
  const departments = figure(/^Out of hours, by department/);
  await departments.getByText("The table behind it").click();
  await departments.getByRole("link", { name: "Press house" }).click();
  await expect(heading).toHaveText(/^Everybody of Press house: /);
  await page.context().close();
});

test("departments stand as a tree, and the people of one are moved in a draft", async ({ browser }) => {
  const page = await signedIn(browser, "asker");
  await page.goto("/register");
  await page.getByRole("link", { name: "Tree", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/people in one department$/);
  await expect(page.getByRole("row", { name: /^Press house/ })).toContainText("Dagmar Holmwold");
  await page.getByRole("button", { name: "Move people of Press house, in a draft" }).press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Move people between departments");
  await expect(page.getByRole("region", { name: "Press house" })).toContainText("Nora Mosstrand");
  await page.context().close();
});
