import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { violationsOf } from "./axe";
import { addAccount, signedIn } from "./people";

// What would run, or fetch, if it were let through: neither may happen wherever the picture is shown.
const hostile = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"><script>document.title = "run"</script>
<image href="/inquiry?fetched-by-the-picture" width="5" height="5"/><rect x="20" y="20" width="360" height="260" fill="#eee" onload="document.title = 'run'"/></svg>`;

const board = (page: Page) => page.getByRole("group", { name: /^(Plan: )?Orchard yard/ });
/** Where a mark stands on its picture, in ten-thousandths of its width and height. */
const placeOf = async (page: Page, name: string) => {
  const [mark, picture] = await Promise.all([board(page).getByRole("button", { name }).boundingBox(), board(page).locator("img").boundingBox()]);
  if (!mark || !picture) throw new Error(`${name} is not on the plan`);
  return [(mark.x + mark.width / 2 - picture.x) / picture.width, (mark.y + mark.height / 2 - picture.y) / picture.height].map((share) =>
    Math.round(share * 100),
  );
};

test("a plan is drawn up from a picture, doors are set on it by keyboard and by pointer, and answers stand on it", async ({ browser }) => {
  addAccount("planner", "Petra Planner", "reviewer");
  const page = await signedIn(browser, "planner");
  const heading = page.getByRole("heading", { level: 1 });
  const asked: string[] = [];
  page.on("request", (request) => asked.push(request.url()));
  await page.goto("/register");
  await page.getByRole("link", { name: "Plans" }).press("Enter");
  await expect(heading).toHaveText("There is no plan of a building yet");

  // What is missing is said at its field; what a picture could do besides being looked at is left out, and said.
  const add = page.getByRole("button", { name: "Add it and set its doors" });
  await add.press("Enter");
  await expect(page.getByText("Choose a picture.")).toBeVisible();
  await expect(page.getByText("Give it a name.")).toBeVisible();
  await page.locator("input[type=file]").setInputFiles({ name: "yard.png", mimeType: "image/png", buffer: Buffer.from("no picture") });
  await page.getByRole("textbox", { name: "Name" }).fill("Orchard yard");
  await add.press("Enter");
  await expect(page.getByText("The picture was not taken: it is neither a PNG, nor a JPEG, nor an SVG drawing.")).toBeVisible();
  await page.locator("input[type=file]").setInputFiles({ name: "yard.svg", mimeType: "image/svg+xml", buffer: Buffer.from(hostile) });
  await add.press("Enter");
  await expect(page.getByText(/^Added\. Left out of the picture, .*: script, image from elsewhere, onload\./)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole("link", { name: "Set its doors" }).press("Enter");
  await expect(heading).toHaveText("Set doors on Orchard yard");

  // By keyboard: set in the middle, moved by arrow keys, taken off and taken back.
  await page.getByRole("button", { name: "Set Barn door on the plan" }).press("Enter");
  const barn = board(page).getByRole("button", { name: /^Barn door/ });
  await expect(barn).toBeFocused();
  expect(await placeOf(page, "Barn door")).toEqual([50, 50]);
  await barn.press("ArrowLeft");
  await barn.press("ArrowLeft");
  await barn.press("ArrowDown");
  await expect(page.getByText("Barn door: 48.0 % from the left, 51.0 % from the top")).toBeVisible();
  await barn.press("Delete");
  await expect(barn).toHaveCount(0);
  await page.getByRole("button", { name: "Take back the last step" }).press("Enter");
  expect(await placeOf(page, "Barn door")).toEqual([48, 51]);

  // By pointer: carried from the list, then along the plan, also where it was brought closer.
  const [row, area] = await Promise.all([page.getByRole("listitem").filter({ hasText: "Cellar door" }).boundingBox(), board(page).boundingBox()]);
  if (!row || !area) throw new Error("there is nothing to carry");
  const carry = async (from: readonly [number, number], to: readonly [number, number]): Promise<void> => {
    await page.mouse.move(...from);
    await page.mouse.down();
    await page.mouse.move(from[0] - 10, from[1] + 5);
    await page.mouse.move(...to, { steps: 5 });
    await page.mouse.up();
  };
  await carry([row.x + 20, row.y + 10], [area.x + area.width / 2 + 60, area.y + area.height / 2 - 40]);
  await expect(board(page).getByRole("button", { name: /^Cellar door/ })).toBeVisible();
  await page.getByRole("button", { name: "Closer" }).press("Enter");
  const before = await placeOf(page, "Cellar door");
  const mark = await board(page)
    .getByRole("button", { name: /^Cellar door/ })
    .boundingBox();
  if (!mark) throw new Error("the door is not on the plan");
  await carry([mark.x + 12, mark.y + 12], [mark.x - 60, mark.y + 12]);
  await expect.poll(async () => (await placeOf(page, "Cellar door"))[0]).toBeLessThan(before[0] ?? 0);
  const after = await placeOf(page, "Cellar door");
  expect(after[1]).toBe(before[1]);
  await expect(page.getByText("All doors of the site are on it.")).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole("button", { name: "Store two doors" }).press("Enter");
  await expect(page).toHaveURL(/\/register\/plans\/\d+$/);
  expect(await placeOf(page, "Cellar door")).toEqual(after);

  // From the keyboard the picture is brought closer, moved, and shown whole again.
  const scale = () =>
    board(page)
      .locator("img")
      .evaluate((image) => image.getBoundingClientRect().width);
  const whole = await scale();
  await board(page).press("+");
  await expect.poll(scale).toBeGreaterThan(whole * 1.3);
  const left = () =>
    board(page)
      .locator("img")
      .evaluate((image) => image.getBoundingClientRect().left);
  const stood = await left();
  await board(page).press("ArrowRight");
  await expect.poll(left).toBeLessThan(stood);
  await board(page).press("0");
  await expect.poll(scale).toBe(whole);

  // The answer stands on it by mark and by word; a door that is chosen says more, and leads on.
  await page.goto("/inquiry?who=cardholder:nora&when=2026-07-08T12:00");
  await page.getByRole("navigation", { name: "Answer as" }).getByRole("link", { name: "On the plan" }).press("Enter");
  await expect(heading).toHaveText("Nora Mosstrand opens 1 of 2 doors");
  await expect(board(page).getByRole("button", { name: "Barn door: opens" })).toBeVisible();
  await board(page).getByRole("button", { name: "Cellar door: shut" }).press("Enter");
  await expect(page.getByText("Nora Mosstrand does not open it.")).toBeVisible();
  await expect(page.getByText("One door opens; one door stays shut.")).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.emulateMedia({ colorScheme: "dark" });
  expect(await violationsOf(page, ["color-contrast"])).toEqual([]);
  await page.getByRole("link", { name: "Why" }).press("Enter");
  await expect(heading).toHaveText("Nora Mosstrand does not open it then");
  await page.goto("/inquiry/plan?who=everybody&when=2026-07-08T23:00");
  await expect(board(page).getByRole("button", { name: /^Cellar door: \d$/ })).toBeVisible();

  expect(await page.title()).not.toBe("run");
  expect(asked.filter((address) => address.includes("fetched-by-the-picture"))).toEqual([]);
  await page.context().close();
});

test("a plan is changed, its picture taken by itself runs nothing, and another site cannot send one", async ({ browser }) => {
  const page = await signedIn(browser, "planner");
  await page.goto("/register/plans");
  await page.getByRole("link", { name: "Orchard yard" }).press("Enter");
  const picture = await page.request.get((await page.getByRole("group", { name: "Plan: Orchard yard" }).locator("img").getAttribute("src")) ?? "");
  expect([picture.status(), picture.headers()["content-type"], picture.headers()["x-content-type-options"]]).toEqual([200, "image/svg+xml", "nosniff"]);
  expect(picture.headers()["content-security-policy"]).toMatch(/default-src 'none';.* sandbox/);
  const send = (headers: Record<string, string>) => page.request.post("/register/plans/upload?name=a&site=orchard&storey=0", { data: "x", headers });
  expect((await send({ origin: "http://elsewhere.test" })).status()).toBe(403);
  expect((await page.request.post("/register/plans/upload?name=a&storey=many", { data: "x" })).status()).toBe(400);
  expect((await page.request.post("/register/plans/upload?name=a&site=orchard&storey=0", { data: Buffer.alloc(9_500_000) })).status()).toBe(413);

  await page.getByText("Change what it is of, or its picture").click();
  await page.getByRole("textbox", { name: "Floor" }).fill("2");
  await page.getByRole("button", { name: "Change it" }).press("Enter");
  await expect(page.getByText(/^Hazel orchard, floor 2\. Two doors stand on it\./)).toBeVisible();
  // Whoever looks at how it stood before does not overwrite this.
  const late = await page.request.post("/register/plans/upload?plan=1&version=1", { data: hostile });
  expect(await late.json()).toEqual({ outcome: "refused", why: "outdated" });
  await page.context().close();
});
