import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { QueryTypes } from "sequelize";
import { connect } from "@/data/connection";
import { orchard } from "./orchard";
import { freePort, startServer } from "./own-server";
import { nomade, password } from "./people";

const hashes = (): unknown[] =>
  nomade(["snapshots"])
    .trim()
    .split("\n")
    .map((line) => (JSON.parse(line) as { hash: string }).hash);

const openDatabase = () =>
  connect(
    {
      port: Number(process.env.NOMADE_DB_PORT),
      name: process.env.NOMADE_DB_NAME ?? "",
      user: process.env.NOMADE_DB_USER ?? "",
      password: process.env.NOMADE_DB_PASSWORD ?? "",
    },
    1,
  );

/** Whoever stores something writes into the record last: as long as this holds its turn, nothing that is stored can end. */
async function holdRecord(database: ReturnType<typeof openDatabase>) {
  const holding = await database.transaction();
  await database.query("SELECT id FROM record_turn WHERE id = 1 FOR UPDATE", { type: QueryTypes.SELECT, transaction: holding });
  const waiting = () =>
    database
      .query<{ n: number }>("SELECT COUNT(*) AS n FROM information_schema.processlist WHERE info LIKE '%record_turn%FOR UPDATE%' AND id <> CONNECTION_ID()", {
        type: QueryTypes.SELECT,
        transaction: holding,
      })
      .then(([row]) => Number(row?.n));
  return { letGo: () => holding.rollback(), isAwaited: () => expect.poll(waiting, { timeout: 30_000 }).toBeGreaterThan(0) };
}

async function signIn(page: Page, address: string, name: string): Promise<void> {
  await page.goto(`${address}/sign-in`);
  await page.getByLabel("Sign-in name").fill(name);
  await page.locator("input[name=password]").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL((url) => url.pathname !== "/sign-in");
}

test("the register is the old one when the server is killed in the middle of an intake, and the next intake works", async ({ page }) => {
  const { address, kill } = await startServer(await freePort());
  const database = openDatabase();
  const before = hashes();
  try {
    await signIn(page, address, "tessa");
    await page.goto(`${address}/intake`);
    await page
      .getByLabel("File to take in")
      .setInputFiles({ name: "killed.json", mimeType: "application/json", buffer: Buffer.from(JSON.stringify({ ...orchard, name: "Killed Orchard" })) });
    await expect(page.getByRole("heading", { name: /Killed Orchard/ })).toBeVisible();
    const { letGo, isAwaited } = await holdRecord(database);
    await page.getByLabel("Name of the source").fill("controller");
    await page.getByRole("button", { name: "Store" }).click();
    await isAwaited();
    kill();
    await letGo();
  } finally {
    kill();
    await database.close();
  }
  await expect.poll(hashes).toEqual(before);
  expect(JSON.parse(nomade(["verify"]).trim())).toMatchObject({ sound: true });
  const next = path.join(mkdtempSync(path.join(tmpdir(), "nomade-killed-")), "next.json");
  writeFileSync(next, JSON.stringify({ ...orchard, name: "Next Orchard" }));
  expect(JSON.parse(nomade(["intake", next]).trim())).toMatchObject({ outcome: "stored" });
});

test("nothing decided is lost when the server is killed while somebody decides, and a docket is signed whole or not at all", async ({ browser, page }) => {
  test.setTimeout(300_000);
  const port = await freePort();
  let { address, kill } = await startServer(port);
  const database = openDatabase();
  const manager = await (await browser.newContext()).newPage();
  try {
    await signIn(page, address, "tessa");
    await page.goto(`${address}/certification/new?area=barn`);
    await page.getByLabel("Name").fill("Killed review");
    await page.getByLabel("Due").fill("31 Jan 2027");
    await page.getByLabel("Due").press("Tab");
    await page.getByRole("button", { name: "Open the round" }).click();
    await expect(page.getByRole("heading", { level: 1 })).toContainText("Killed review:", { timeout: 60_000 });
    await signIn(manager, address, "dagmar");
    await manager.goto(`${address}/docket`);
    await manager.getByRole("link", { name: "Killed review" }).click();
    await manager.waitForURL(/\/docket\/\d+/);
    const title = manager.getByRole("heading", { level: 1 });
    const status = manager.getByRole("status").filter({ hasText: /saved/i });
    await expect(status).toHaveText("Saved");
    // From person to person, each line is decided; after the first the server goes away, and comes back after the second.
    let person = 0;
    for (; person < 10 && (await title.innerText()) !== "Sign your docket"; person++) {
      const before = await title.innerText();
      if (person === 1) kill();
      await manager.keyboard.press("a");
      for (const line of await manager
        .getByRole("region")
        .filter({ has: manager.getByRole("button", { name: /^(Withdraw|Return the card)$/ }) })
        .all())
        await line.getByRole("button", { name: /^(Withdraw|Return the card)$/ }).click();
      if (person === 1) {
        await expect(status).toHaveText(/waits? to be saved/, { timeout: 60_000 });
        ({ address, kill } = await startServer(port));
      }
      // A server that just came back opens the register first.
      await expect(status).toHaveText("Saved", { timeout: 60_000 });
      await manager.keyboard.press("ArrowRight");
      await expect(title).not.toHaveText(before);
    }
    expect(person).toBeGreaterThan(2);
    await manager.reload();
    await expect(title).toHaveText("Sign your docket");
    const sign = manager.getByRole("button", { name: /^Sign \d+ lines$/ });
    await expect(sign).toBeEnabled();
    const { letGo, isAwaited } = await holdRecord(database);
    await sign.click();
    await isAwaited();
    kill();
    await letGo();
    ({ address, kill } = await startServer(port));
    await manager.reload();
    await expect(title).toHaveText("Sign your docket");
    await sign.click();
    await expect(title).toHaveText("Signed");
    expect(JSON.parse(nomade(["verify"]).trim())).toMatchObject({ sound: true });
  } finally {
    kill();
    await manager.context().close();
    await database.close();
  }
});
