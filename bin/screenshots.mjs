// Refreshes docs/screenshots from the demo as `npm start` serves it: node bin/screenshots.mjs
import { chromium } from "@playwright/test";
import { Buffer } from "node:buffer";
import path from "node:path";
import { settings } from "./database.mjs";
import { program, root } from "./prepare.mjs";

const address = `http://127.0.0.1:${settings.webPort}`;
const password = "verrane-2026";
const desk = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };
const browser = await chromium.launch({
  executablePath: program("chromium"),
  args: ["--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run", "--disable-dev-shm-usage"],
});

async function signedIn(who, viewport, colorScheme) {
  const context = await browser.newContext({ viewport, colorScheme, locale: "en-GB", timezoneId: "Europe/Vienna", reducedMotion: "reduce" });
  const page = await context.newPage();
  await page.goto(`${address}/sign-in`);
  await page.fill("input[name=signIn]", who);
  await page.fill("input[name=password]", password);
  await page.click("button[type=submit]");
  await page.waitForURL((url) => url.pathname !== "/sign-in");
  return page;
}

/** What another system might send: one row a card. */
const badgeOffice = [
  "Employee ID,Last name,First name,Department,Card number,Card status,Access groups,Valid from,Expires",
  '1001,Almondfeld,Iris,Press House,012-04711,Active,"Day crew; Key holders",2024-03-01,31/12/2099',
  '1002,Mosstrand,Nora,Cellar,012-04713,Active,Day crew,2025-01-15,30/11/2026',
  '1003,Quillmere,Tam,Cellar,012-04714,Parked,,2025-01-15,30/06/2027',
  '1004,Wickholm,Ada,Press House,012-04715,Active,Day crew,2025-02-01,31/12/2099',
].join("\r\n");

async function shoot(page, name, at) {
  if (at !== undefined) await page.goto(`${address}${at}`);
  await page.waitForLoadState("networkidle");
  await page.screenshot({ path: path.join(root, "docs/screenshots", `${name}.png`), animations: "disabled" });
  console.log(name);
}

/** The Saturday to come, so that nothing that is shown lies in the past. */
const today = new Date();
const saturdayNight = new Date(today.getTime() + ((6 - today.getUTCDay() + 7) % 7 || 7) * 86_400_000).toISOString().slice(0, 10);
const vault = `/inquiry?where=door:v-inner&when=${saturdayNight}T22:30`;
const reviewer = await signedIn("reviewer", desk, "light");
await shoot(reviewer, "inquiry", vault);
await shoot(reviewer, "reach", "/inquiry?who=cardholder:p-00017");
await shoot(reviewer, "verdict", `${vault}&who=cardholder:p-00017`);
await reviewer.goto(`${address}/inquiry/charts?who=everybody&where=anywhere`);
await reviewer.locator(".plot-container").nth(1).waitFor();
await shoot(reviewer, "charts");
await shoot(reviewer, "findings", "/findings");
await shoot(reviewer, "house", "/findings/house");
await shoot(reviewer, "routes", "/inquiry/routes?where=area:a-vault");
await shoot(reviewer, "forecast", "/inquiry/forecast");
await reviewer.goto(`${address}/inquiry/plan?who=group:d-horticulture&where=site:vault&when=${saturdayNight}T22:30&door=v-inner`);
await reviewer.getByRole("button", { name: /^Seed vault, inner door/ }).waitFor();
await reviewer.waitForTimeout(800);
await reviewer.screenshot({ path: path.join(root, "docs/screenshots", "plan.png"), animations: "disabled" });
console.log("plan");
await reviewer.goto(`${address}/register/events/replay`);
await reviewer.getByRole("button", { name: "Hold them against the record" }).click();
await reviewer.getByText("agree with the record of their time").waitFor();
await reviewer.waitForTimeout(1500);
await reviewer.screenshot({ path: path.join(root, "docs/screenshots", "replay.png"), animations: "disabled" });
console.log("replay");
await reviewer.goto(`${address}/intake`);
await reviewer.getByLabel("File to take in").setInputFiles({ name: "badge office 2026-11-28.csv", mimeType: "text/csv", buffer: Buffer.from(badgeOffice) });
await reviewer.getByRole("heading", { name: "What its rows make" }).waitFor();
await shoot(reviewer, "intake");
await shoot(reviewer, "register", "/register?kind=cardholder&group=department");
await shoot(reviewer, "calendar", "/register/calendar/mainland");
await shoot(reviewer, "unit", "/register/units/U-05");

/** A draft that gives the frost watch one door more, with hours that are drawn. */
await reviewer.goto(`${address}/register/drafts`);
await reviewer.getByLabel("New draft").fill("Frost watch at the cooling plant");
await reviewer.getByRole("button", { name: "Begin it" }).click();
await reviewer.waitForURL(/drafts\/\d+$/);
const draft = new URL(reviewer.url()).pathname;
await reviewer.goto(`${address}${draft}/edit?list=schedules&key=late`);
const saturday = await reviewer.getByRole("img", { name: /^Saturday/ }).boundingBox();
await reviewer.mouse.move(saturday.x + (saturday.width * 8) / 24, saturday.y + 10);
await reviewer.mouse.down();
await reviewer.mouse.move(saturday.x + (saturday.width * 13) / 24, saturday.y + 10, { steps: 5 });
await reviewer.mouse.up();
await reviewer.getByRole("button", { name: "Put it into the draft" }).click();
await reviewer.waitForURL(/drafts\/\d+$/);
await reviewer.goto(`${address}${draft}/edit?list=levels&key=l-glass-frost`);
await reviewer.getByRole("combobox", { name: "Add a door, door group or area" }).fill("cooling");
await reviewer.getByRole("option", { name: /Cooling plant · door/ }).click();
await reviewer.getByRole("button", { name: "Put it into the draft" }).click();
await reviewer.waitForURL(/drafts\/\d+$/);
await reviewer
  .getByText(/concerned/)
  .first()
  .waitFor();
await shoot(reviewer, "draft");
await reviewer.getByRole("button", { name: "Drop" }).click();
await reviewer.getByRole("button", { name: "Drop it" }).click();
await reviewer.getByText(/^Dropped/).waitFor();

await shoot(reviewer, "evidence", "/evidence");
await shoot(reviewer, "round", "/certification/1");
const inTheDark = await signedIn("reviewer", desk, "dark");
await inTheDark.goto(`${address}/inquiry?who=group:d-horticulture&form=sheet`);
await inTheDark.getByRole("grid").focus();
for (const key of ["ArrowDown", "ArrowDown", "ArrowRight", "ArrowRight"]) await inTheDark.keyboard.press(key);
await inTheDark.getByRole("link", { name: "The verdict on a page of its own" }).waitFor();
await shoot(inTheDark, "sheet");

// The docket of the demo's round under way in which a line was narrowed.
const certifier = await signedIn("facilities", phone, "light");
await certifier.getByRole("link", { name: /^November review/ }).click();
await certifier.waitForURL(/docket\/\d+/);
for (let person = 0; person < 12 && (await certifier.getByRole("button", { name: "Narrow …" }).count()) === 0; person++) await certifier.keyboard.press("ArrowRight");
await shoot(certifier, "docket");
await browser.close();
