// `npm run trial -- --pages`: the demo's main pages through Lighthouse, each signed in as who uses it; fails below what the product promises.
import { chromium } from "@playwright/test";
import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { freePort } from "./database.mjs";
import { ensureDebianPackages, ensureNodeModules, program, root, say } from "./prepare.mjs";

/** Large, and used by nothing else: fetched when it is asked for instead of with every installation. */
const lighthouse = "lighthouse@12.8.2";
const flags = ["--no-sandbox", "--headless=new", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run"];
const pages = [
  [undefined, "/sign-in"],
  ["reviewer", "/register?kind=cardholder"],
  ["reviewer", "/register/door/v-inner"],
  ["reviewer", "/inquiry?where=door:v-inner&when=2026-11-28T22:30"],
  ["reviewer", "/inquiry"],
  ["reviewer", "/inquiry?who=cardholder:p-00017&where=door:v-inner&when=2026-11-28T22:30"],
  ["reviewer", "/inquiry?who=group:d-horticulture"],
  ["reviewer", "/inquiry?who=group:d-horticulture&form=sheet"],
  ["reviewer", "/inquiry/charts?who=group:d-horticulture"],
  ["reviewer", "/inquiry/plan?who=group:d-horticulture&when=2026-11-28T22:30"],
  ["reviewer", "/inquiry/routes?where=area:a-vault"],
  ["reviewer", "/inquiry/trials"],
  ["reviewer", "/register/plans"],
  ["reviewer", "/register/departments"],
  ["reviewer", "/register/events"],
  ["reviewer", "/register/compare?before=2&after=3"],
  ["reviewer", "/register/drafts"],
  ["reviewer", "/findings"],
  ["reviewer", "/findings/trends"],
  ["reviewer", "/findings/house"],
  ["reviewer", "/intake"],
  ["reviewer", "/certification"],
  ["reviewer", "/evidence"],
  ["seedbank", "/docket"],
];
/** Least scores, and the greatest shift of what is on the page ("good" is up to 0.1: web.dev, Core Web Vitals, from memory). */
const least = { accessibility: 1, "best-practices": 1, performance: 0.95 };
const greatestShift = 0.1;

ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server", chromium: "chromium" });
ensureNodeModules();
const folder = mkdtempSync(path.join(os.tmpdir(), "nomade-pages-"));
const webPort = await freePort();
const address = `http://127.0.0.1:${webPort}`;
const started = spawn(process.execPath, ["bin/start.mjs"], {
  cwd: root,
  stdio: ["ignore", "pipe", "inherit"],
  env: { ...process.env, NOMADE_DATA: path.join(folder, "data"), NOMADE_DB_PORT: String(await freePort()), NOMADE_WEB_PORT: String(webPort) },
});
await new Promise((resolve, reject) => {
  let shown = "";
  started.stdout.on("data", (text) => (shown += text).includes("Ctrl-C stops it.") && resolve());
  started.once("exit", () => reject(new Error("The demo did not start.")));
});

async function cookieOf(who) {
  const browser = await chromium.launch({ executablePath: program("chromium"), args: flags.filter((flag) => flag !== "--headless=new") });
  const page = await browser.newPage();
  await page.goto(`${address}/sign-in`);
  await page.fill("input[name=signIn]", who);
  await page.fill("input[name=password]", "verrane-2026");
  await page.click("button[type=submit]");
  await page.waitForURL((url) => url.pathname !== "/sign-in");
  const cookies = await page.context().cookies();
  await browser.close();
  return cookies.map(({ name, value }) => `${name}=${value}`).join("; ");
}

function measured(at, cookie) {
  const out = path.join(folder, "report.json");
  const more = cookie === undefined ? [] : [`--extra-headers=${JSON.stringify({ Cookie: cookie })}`];
  const done = spawnSync(
    "npm",
    [
      ...["exec", "--yes", `--package=${lighthouse}`, "--", "lighthouse", `${address}${at}`, "--quiet", "--preset=desktop", "--output=json"],
      ...[`--output-path=${out}`, `--only-categories=${Object.keys(least).join(",")}`, `--chrome-flags=${flags.join(" ")}`, ...more],
    ],
    // Outside of the repository: nothing of it is to be found there, and nothing left.
    { cwd: folder, encoding: "utf8", env: { ...process.env, CHROME_PATH: program("chromium") } },
  );
  if (done.status !== 0) throw new Error(`Lighthouse failed at ${at}:\n${done.stderr}`);
  return JSON.parse(readFileSync(out, "utf8"));
}

let failed = 0;
try {
  const cookies = new Map();
  for (const [who, at] of pages) {
    if (who !== undefined && !cookies.has(who)) cookies.set(who, await cookieOf(who));
    const { categories, audits } = measured(at, cookies.get(who));
    const shift = audits["cumulative-layout-shift"].numericValue;
    const wanting = Object.entries(least).filter(([category, score]) => (categories[category].score ?? 0) < score);
    const isFine = wanting.length === 0 && shift <= greatestShift;
    if (!isFine) failed++;
    const scores = Object.keys(least).map((category) => `${category} ${Math.round((categories[category].score ?? 0) * 100)}`);
    say(`${isFine ? "  " : "! "}${at} (${who ?? "nobody"}): ${scores.join(", ")}, shift ${shift.toFixed(3)}`);
    const found = wanting.flatMap(([category]) =>
      categories[category].auditRefs.filter(({ id, weight }) => weight > 0 && (audits[id].score ?? 1) < 0.9).map(({ id }) => id),
    );
    if (found.length > 0) say(`    ${found.join(", ")}`);
  }
} finally {
  started.kill("SIGTERM");
  await new Promise((resolve) => (started.exitCode === null ? started.once("exit", resolve) : resolve()));
  rmSync(folder, { recursive: true, force: true });
}
process.exit(failed === 0 ? 0 : 1);
