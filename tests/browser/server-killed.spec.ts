import { spawn } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { expect, test } from "@playwright/test";
import { QueryTypes } from "sequelize";
import { connect } from "@/data/connection";
import { orchard } from "./orchard";
import { nomade, password } from "./people";

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

const hashes = (): unknown[] =>
  nomade(["snapshots"])
    .trim()
    .split("\n")
    .map((line) => (JSON.parse(line) as { hash: string }).hash);

test("the register is the old one when the server is killed in the middle of an intake, and the next intake works", async ({ page }) => {
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  // A server of its own on the same database, so that the others live on.
  const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)], {
    stdio: "ignore",
    env: { ...process.env, NODE_ENV: "production" },
  });
  await expect
    .poll(
      () =>
        fetch(`${address}/sign-in`).then(
          (response) => response.ok,
          () => false,
        ),
      { timeout: 30_000 },
    )
    .toBe(true);
  const database = connect(
    {
      port: Number(process.env.NOMADE_DB_PORT),
      name: process.env.NOMADE_DB_NAME ?? "",
      user: process.env.NOMADE_DB_USER ?? "",
      password: process.env.NOMADE_DB_PASSWORD ?? "",
    },
    1,
  );
  const before = hashes();
  try {
    await page.goto(`${address}/sign-in`);
    await page.getByLabel("Sign-in name").fill("tessa");
    await page.locator("input[name=password]").fill(password);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL((url) => url.pathname !== "/sign-in");
    await page.goto(`${address}/intake`);
    await page
      .getByLabel("File to take in")
      .setInputFiles({ name: "killed.json", mimeType: "application/json", buffer: Buffer.from(JSON.stringify({ ...orchard, name: "Killed Orchard" })) });
    await expect(page.getByRole("heading", { name: /Killed Orchard/ })).toBeVisible();
    // Whoever stores something writes into the record last: as long as somebody else holds its turn, the intake cannot end.
    const holding = await database.transaction();
    await database.query("SELECT id FROM record_turn WHERE id = 1 FOR UPDATE", { type: QueryTypes.SELECT, transaction: holding });
    await page.getByLabel("Name of the source").fill("controller");
    await page.getByRole("button", { name: "Store" }).click();
    const waiting = () =>
      database
        .query<{ n: number }>("SELECT COUNT(*) AS n FROM information_schema.processlist WHERE info LIKE '%record_turn%FOR UPDATE%' AND id <> CONNECTION_ID()", {
          type: QueryTypes.SELECT,
          transaction: holding,
        })
        .then(([row]) => Number(row?.n));
    await expect.poll(waiting, { timeout: 30_000 }).toBeGreaterThan(0);
    server.kill("SIGKILL");
    await holding.rollback();
  } finally {
    server.kill("SIGKILL");
    await database.close();
  }
  await expect.poll(hashes).toEqual(before);
  expect(JSON.parse(nomade(["verify"]).trim())).toMatchObject({ sound: true });
  const next = path.join(mkdtempSync(path.join(tmpdir(), "nomade-killed-")), "next.json");
  writeFileSync(next, JSON.stringify({ ...orchard, name: "Next Orchard" }));
  expect(JSON.parse(nomade(["intake", next]).trim())).toMatchObject({ outcome: "stored" });
});
