import { readdirSync } from "node:fs";
import path from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { addAccount, signedIn } from "./people";

/** What each address answers to whom: "yes" a page or data, "no" nothing here, "way in" the sign-in page or 401. */
type Answer = "yes" | "no" | "way in" | "failed";
const roles = ["administrator", "reviewer", "auditor", "manager", "owner"] as const;

const reading: Record<(typeof roles)[number], Answer> = { administrator: "yes", reviewer: "yes", auditor: "yes", manager: "no", owner: "no" };
const working: Record<(typeof roles)[number], Answer> = { ...reading, auditor: "no" };
const nobody: Record<(typeof roles)[number], Answer> = { administrator: "no", reviewer: "no", auditor: "no", manager: "no", owner: "no" };
const certifying: Record<(typeof roles)[number], Answer> = { administrator: "yes", reviewer: "yes", auditor: "no", manager: "yes", owner: "yes" };

/** Every page and route of the application by its file; a new one fails the test until it is listed here. */
const addresses: Readonly<
  Record<string, { readonly at: string; readonly answers: Record<(typeof roles)[number], Answer> } | "open to all" | "walked elsewhere">
> = {
  "page.tsx": "walked elsewhere",
  "sign-in/page.tsx": "open to all",
  "sign-in/link/page.tsx": "open to all",
  // Without an identity provider both lead back to the sign-in page.
  "sign-in/on/route.ts": "open to all",
  "sign-in/on/back/route.ts": "open to all",
  "account/page.tsx": { at: "/account", answers: { administrator: "yes", reviewer: "yes", auditor: "yes", manager: "yes", owner: "yes" } },
  // Without a stand-in mail server there is no outbox.
  "(review)/outbox/page.tsx": { at: "/outbox", answers: nobody },
  "(review)/accounts/look-ups/page.tsx": {
    at: "/accounts/look-ups",
    answers: { administrator: "yes", reviewer: "no", auditor: "no", manager: "no", owner: "no" },
  },
  "(review)/accounts/page.tsx": { at: "/accounts", answers: { administrator: "yes", reviewer: "no", auditor: "no", manager: "no", owner: "no" } },
  "(review)/intake/page.tsx": { at: "/intake", answers: working },
  "(review)/intake/upload/route.ts": "walked elsewhere",
  // There is no such work going on, for anybody who is signed in.
  "(review)/intake/task/[task]/route.ts": {
    at: "/intake/task/none",
    answers: nobody,
  },
  "(review)/register/page.tsx": { at: "/register", answers: reading },
  "(review)/register/compare/page.tsx": { at: "/register/compare?before=1&after=1", answers: reading },
  "(review)/register/rows/route.ts": { at: "/register/rows?kind=door&page=0", answers: reading },
  "(review)/register/csv/route.ts": { at: "/register/csv?kind=door", answers: reading },
  "(review)/register/[kind]/[id]/page.tsx": { at: "/register/door/cellar-door", answers: reading },
  "(review)/register/[kind]/[id]/calendar/route.ts": { at: "/register/calendar/days/calendar", answers: reading },
  "(review)/register/sources/page.tsx": { at: "/register/sources", answers: reading },
  "(review)/register/drafts/page.tsx": { at: "/register/drafts", answers: reading },
  // Draft 1 is closed by now: whoever reads the register sees it. Drafts that are open are walked in their own test.
  "(review)/register/drafts/[draft]/page.tsx": { at: "/register/drafts/1", answers: reading },
  "(review)/register/drafts/[draft]/orders/route.ts": { at: "/register/drafts/1/orders", answers: reading },
  "(review)/register/drafts/[draft]/effect/route.ts": { at: "/register/drafts/1/effect", answers: reading },
  "(review)/register/drafts/withdraw/page.tsx": { at: "/register/drafts/withdraw?kind=cardholder&id=nora&door=cellar-door", answers: working },
  "(review)/register/drafts/[draft]/edit/page.tsx": "walked elsewhere",
  "(review)/register/drafts/[draft]/box/page.tsx": "walked elsewhere",
  "(review)/register/drafts/[draft]/people/page.tsx": "walked elsewhere",
  "(review)/register/drafts/[draft]/suggest/route.ts": { at: "/register/drafts/1/suggest?kind=door&text=", answers: working },
  "(review)/register/drafts/task/[task]/route.ts": {
    at: "/register/drafts/task/none",
    answers: nobody,
  },
  "(review)/glossary/page.tsx": { at: "/glossary", answers: reading },
  "(review)/register/departments/page.tsx": { at: "/register/departments", answers: reading },
  "(review)/first-steps/page.tsx": { at: "/first-steps", answers: reading },
  "(review)/inquiry/page.tsx": { at: "/inquiry", answers: reading },
  "(review)/inquiry/suggest/route.ts": { at: "/inquiry/suggest?part=who&text=", answers: reading },
  "(review)/inquiry/when/route.ts": { at: "/inquiry/when?text=tomorrow", answers: reading },
  "(review)/inquiry/trace/route.ts": { at: "/inquiry/trace?who=cardholder:nora&where=door:cellar-door", answers: reading },
  // Each keeps their own questions; these keep none.
  "(review)/inquiry/kept/route.ts": {
    at: "/inquiry/kept?id=1",
    answers: nobody,
  },
  "(review)/inquiry/rows/route.ts": { at: "/inquiry/rows?who=everybody&offset=0", answers: reading },
  "(review)/inquiry/charts/page.tsx": { at: "/inquiry/charts?who=everybody", answers: reading },
  "(review)/register/levels/page.tsx": { at: "/register/levels", answers: working },
  "(review)/register/units/page.tsx": { at: "/register/units", answers: reading },
  "(review)/register/units/[unit]/page.tsx": { at: "/register/units/mill", answers: reading },
  // A plan is there from its own test.
  "(review)/register/plans/upload/route.ts": "walked elsewhere",
  "(review)/register/plans/page.tsx": { at: "/register/plans", answers: reading },
  "(review)/register/plans/[plan]/page.tsx": { at: "/register/plans/1", answers: reading },
  "(review)/register/plans/[plan]/edit/page.tsx": { at: "/register/plans/1/edit", answers: working },
  "(review)/register/plans/[plan]/doors/route.ts": { at: "/register/plans/1/doors", answers: working },
  "(review)/register/plans/[plan]/picture/route.ts": { at: "/register/plans/1/picture", answers: nobody },
  "(review)/inquiry/plan/page.tsx": { at: "/inquiry/plan?when=now", answers: reading },
  "(review)/inquiry/trials/page.tsx": { at: "/inquiry/trials", answers: reading },
  "(review)/inquiry/forecast/page.tsx": { at: "/inquiry/forecast", answers: reading },
  "(review)/inquiry/routes/export/route.ts": { at: "/inquiry/routes/export?who=everybody", answers: reading },
  "(review)/inquiry/forecast/export/route.ts": { at: "/inquiry/forecast/export?days=30", answers: reading },
  "(review)/inquiry/routes/page.tsx": { at: "/inquiry/routes?who=everybody", answers: reading },
  "(review)/inquiry/charts/sensitivity/route.ts": { at: "/inquiry/charts/sensitivity?snapshot=1", answers: reading },
  "(review)/inquiry/sheet/route.ts": { at: "/inquiry/sheet?who=everybody&form=sheet", answers: reading },
  "(review)/inquiry/export/route.ts": { at: "/inquiry/export?who=everybody&as=csv", answers: reading },
  "(review)/inquiry/shut/route.ts": { at: "/inquiry/shut?who=cardholder:nora&where=door:cellar-door", answers: reading },
  "(review)/certification/[round]/pack/route.ts": { at: "/certification/1/pack", answers: reading },
  "(review)/evidence/task/[task]/route.ts": {
    at: "/evidence/task/none",
    answers: nobody,
  },
  "(review)/certification/[round]/lines/page.tsx": { at: "/certification/1/lines?decision=keep", answers: reading },
  "(review)/certification/[round]/lines/export/route.ts": { at: "/certification/1/lines/export", answers: reading },
  "(review)/findings/page.tsx": { at: "/findings", answers: reading },
  "(review)/findings/history/route.ts": { at: "/findings/history?finding=x", answers: reading },
  "(review)/findings/example/route.ts": { at: "/findings/example?rule=unused", answers: reading },
  "(review)/findings/export/route.ts": { at: "/findings/export?form=xlsx", answers: reading },
  "(review)/findings/print/page.tsx": { at: "/findings/print", answers: reading },
  "(review)/findings/house/page.tsx": { at: "/findings/house", answers: reading },
  "(review)/findings/trends/page.tsx": { at: "/findings/trends", answers: reading },
  "(review)/findings/settings/page.tsx": { at: "/findings/settings", answers: reading },
  "(review)/findings/settings/export/route.ts": { at: "/findings/settings/export", answers: reading },
  "(review)/findings/task/[task]/route.ts": {
    at: "/findings/task/none",
    answers: nobody,
  },
  "(review)/register/events/page.tsx": { at: "/register/events", answers: reading },
  "(review)/register/events/files/page.tsx": { at: "/register/events/files", answers: reading },
  "(review)/register/events/replay/page.tsx": { at: "/register/events/replay", answers: reading },
  "(review)/register/events/task/[task]/route.ts": {
    at: "/register/events/task/none",
    answers: nobody,
  },
  "(review)/findings/rules/page.tsx": { at: "/findings/rules?rule=two-places", answers: reading },
  "(review)/certification/page.tsx": { at: "/certification", answers: reading },
  "(review)/certification/occasions/page.tsx": { at: "/certification/occasions", answers: reading },
  "(review)/certification/new/page.tsx": { at: "/certification/new", answers: working },
  "(review)/certification/task/[task]/route.ts": {
    at: "/certification/task/none",
    answers: nobody,
  },
  "(review)/certification/[round]/page.tsx": { at: "/certification/1", answers: reading },
  "(review)/certification/[round]/sending/route.ts": { at: "/certification/1/sending", answers: working },
  "(review)/certification/[round]/orders/route.ts": { at: "/certification/1/orders", answers: reading },
  "(review)/evidence/page.tsx": { at: "/evidence", answers: reading },
  "(review)/evidence/retention/page.tsx": { at: "/evidence/retention", answers: reading },
  "(review)/intake/preview/[token]/route.ts": "walked elsewhere",
  "(review)/intake/refused/[token]/route.ts": {
    at: "/intake/refused/none",
    answers: nobody,
  },
  "(review)/evidence/snapshot/[id]/workbook/route.ts": { at: "/evidence/snapshot/1/workbook", answers: reading },
  "(review)/intake/templates/[form]/route.ts": { at: "/intake/templates/csv", answers: working },
  "(review)/intake/try/[token]/route.ts": "walked elsewhere",
  "(review)/evidence/snapshot/[id]/tables/route.ts": { at: "/evidence/snapshot/1/tables", answers: reading },
  "(review)/evidence/snapshot/[id]/route.ts": { at: "/evidence/snapshot/1", answers: reading },
  // Answers tokens of sources, and no session: sources.spec.ts.
  "scim/v2/[[...path]]/route.ts": "walked elsewhere",
  "docket/page.tsx": { at: "/docket", answers: certifying },
  "docket/line/narrowings/route.ts": { at: "/docket/line/narrowings?line=1", answers: reading },
  "docket/line/withdrawal/route.ts": { at: "/docket/line/withdrawal?line=1", answers: reading },
  // The docket is Dagmar's: those who read rounds see it, other certifiers do not.
  "docket/[docket]/page.tsx": { at: "/docket/1", answers: reading },
};

const appFiles = (readdirSync("src/app", { recursive: true }) as string[])
  .map((file) => file.split(path.sep).join("/"))
  .filter((file) => /(^|\/)(page\.tsx|route\.ts)$/.test(file));

async function answerTo(page: Page, address: string): Promise<Answer> {
  const response = await page.request.get(address);
  if (response.status() === 401 || new URL(response.url()).pathname === "/sign-in") return "way in";
  if (response.status() >= 500) return "failed";
  return response.status() === 404 ? "no" : response.ok() ? "yes" : "no";
}

test("every page and route is listed with who may see it", () => {
  expect(appFiles.sort()).toEqual(Object.keys(addresses).sort());
});

test("each role sees its own places and nothing else, and nobody sees any without a session", async ({ browser }) => {
  for (const role of roles) addAccount(`walk-${role}`, `Walking ${role}`, role);
  const nobody = await (await browser.newContext()).newPage();
  const pages = Object.fromEntries(await Promise.all(roles.map(async (role) => [role, await signedIn(browser, `walk-${role}`)] as const)));
  for (const entry of Object.values(addresses)) {
    if (typeof entry === "string") continue;
    expect([entry.at, "nobody", await answerTo(nobody, entry.at)]).toEqual([entry.at, "nobody", "way in"]);
    for (const role of roles) {
      const page = pages[role];
      expect([entry.at, role, page && (await answerTo(page, entry.at))]).toEqual([entry.at, role, entry.answers[role]]);
    }
  }
  for (const page of Object.values(pages)) await page.context().close();
});

/** What is there for an auditor who is limited to a site: what is answered of that alone. The rounds of this register are of all sites. */
const limitedTo = [
  "/account",
  "/register",
  "/register/rows?kind=door&page=0",
  "/register/csv?kind=door",
  "/register/door/cellar-door",
  "/glossary",
  "/register/departments",
  "/first-steps",
  "/inquiry",
  "/inquiry/suggest?part=who&text=",
  "/inquiry/when?text=tomorrow",
  "/inquiry/trace?who=cardholder:nora&where=door:cellar-door",
  "/inquiry/rows?who=everybody&offset=0",
  "/inquiry/charts?who=everybody",
  "/inquiry/routes?who=everybody",
  "/inquiry/routes/export?who=everybody",
  "/inquiry/forecast/export?days=30",
  "/inquiry/forecast",
  "/inquiry/trials",
  "/inquiry/plan?when=now",
  "/register/plans",
  "/register/plans/1",
  "/inquiry/charts/sensitivity?snapshot=1",
  "/inquiry/sheet?who=everybody&form=sheet",
  "/inquiry/export?who=everybody&as=csv",
  "/certification",
];

test("who is limited to a site finds nothing that speaks of all of them", async ({ browser }) => {
  addAccount("walk-limited", "Walking limited", "auditor", undefined, "orchard");
  const page = await signedIn(browser, "walk-limited");
  await page.goto("/inquiry");
  await expect(page.getByRole("link", { name: /^Findings/ })).toHaveCount(0);
  await expect(page.getByRole("link", { name: "Evidence" })).toHaveCount(0);
  for (const entry of Object.values(addresses)) {
    if (typeof entry === "string") continue;
    expect([entry.at, await answerTo(page, entry.at)]).toEqual([entry.at, limitedTo.includes(entry.at) ? "yes" : "no"]);
  }
  await page.context().close();
});

/** What the sign-in form sends without a script: the fields that say which action it is, and what was typed. */
async function signInFields(page: Page): Promise<Record<string, string>> {
  const html = await (await page.request.get("/sign-in")).text();
  const fields = [...html.matchAll(/<input type="hidden" name="([^"]+)"(?: value="([^"]*)")?/g)];
  return Object.fromEntries(fields.map(([, name = "", value = ""]) => [name, value.replaceAll("&quot;", '"').replaceAll("&amp;", "&")]));
}

test("sixty unknown names at once are all refused alike, and a docket is answered meanwhile", async ({ browser }) => {
  const page = await signedIn(browser, "walk-reviewer");
  const stranger = await (await browser.newContext()).newPage();
  const fields = await signInFields(stranger);
  expect(Object.keys(fields).length).toBeGreaterThan(0);
  const docket = async (): Promise<number> => {
    const began = performance.now();
    expect((await page.request.get("/docket/1")).status()).toBe(200);
    return performance.now() - began;
  };
  await docket();
  const began = performance.now();
  let answered = 0;
  const tries = Array.from({ length: 60 }, async (_, i) => {
    const multipart = { ...fields, signIn: `unknown-${i}`, password: `password ${i} of nobody`, code: "" };
    const response = await stranger.request.post("/sign-in", { multipart, headers: { "x-forwarded-for": `192.0.2.${i}` }, timeout: 60_000 });
    answered += 1;
    return response.text();
  });
  const under = await docket();
  const before = answered;
  for (const text of await Promise.all(tries)) expect(text).toContain("do not go together");
  // Hashing runs a few at a time, beside the pages: however slow the machine is, the docket is there long before all of them are. (A quiet one answers in
  // some 100 ms; how long a busy one takes says nothing.)
  expect(before).toBeLessThan(30);
  expect(under).toBeLessThan((performance.now() - began) / 2);
  await page.context().close();
  await stranger.context().close();
});

test("files can be sent only by who takes in, and not from another site", async ({ browser }) => {
  const send = async (page: Page, headers: Record<string, string> = {}) =>
    (
      await page.request.post("/intake/upload", { data: "{}", headers: { "x-file-name": "x.json", "content-type": "application/octet-stream", ...headers } })
    ).status();
  const nobody = await (await browser.newContext()).newPage();
  expect(await send(nobody)).toBe(401);
  const [manager, reviewer] = await Promise.all([signedIn(browser, "walk-manager"), signedIn(browser, "walk-reviewer")]);
  expect(await send(manager)).toBe(404);
  expect(await send(reviewer, { origin: "http://elsewhere.test" })).toBe(403);
  expect(await send(reviewer)).toBe(200);
});

test("a wrong password is refused without saying which part was wrong, and five of them bar the account for a while", async ({ page }) => {
  addAccount("barred", "To Be Barred", "auditor");
  await page.goto("/sign-in");
  for (let i = 0; i < 5; i++) {
    await page.getByLabel("Sign-in name").fill("barred");
    await page.locator("input[name=password]").fill("not the password");
    const answered = page.waitForResponse((response) => response.request().method() === "POST");
    await page.getByRole("button", { name: "Sign in" }).click();
    await answered;
    await expect(page.getByRole("main").getByRole("alert")).toContainText("do not go together");
  }
  await page.locator("input[name=password]").fill("a-password-for-tests");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("main").getByRole("alert")).toContainText("quarter of an hour");
  await expect(page.getByLabel("Sign-in name")).toHaveValue("barred");
});
