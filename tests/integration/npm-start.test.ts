import { spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import net from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, expect, it } from "@jest/globals";
import { isAlive } from "./is-alive";
import { freePort } from "./free-port";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-start-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const listens = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = net.connect(port, "127.0.0.1");
    socket.once("connect", () => (socket.destroy(), resolve(true)));
    socket.once("error", () => resolve(false));
  });

async function until(holds: () => Promise<boolean>, withinMs: number): Promise<void> {
  for (const began = Date.now(); !(await holds()); await new Promise((resolve) => setTimeout(resolve, 100)))
    if (Date.now() - began > withinMs) throw new Error("It did not come to that.");
}

it("starts empty where that is said, with two accounts to begin with and no demo", async () => {
  const [databasePort, webPort] = [await freePort(), await freePort()];
  const started = spawn(process.execPath, ["bin/start.mjs", "--empty", "--without-standins"], {
    stdio: ["ignore", "pipe", "ignore"],
    env: { ...process.env, NOMADE_DATA: path.join(folder, "empty"), NOMADE_DB_PORT: String(databasePort), NOMADE_WEB_PORT: String(webPort) },
  });
  let shown = "";
  started.stdout.on("data", (chunk: Buffer) => (shown += chunk.toString()));
  try {
    await until(() => Promise.resolve(shown.includes("Ctrl-C stops it.")), 120_000);
    expect(shown.match(/^ {2}(administrator|reviewer) {2}\S{16}$/gm)?.length).toBe(2);
    expect(shown).not.toContain("Demo sign-ins");
  } finally {
    started.kill("SIGTERM");
    await new Promise((resolve) => started.once("exit", resolve));
  }
}, 240_000);

it("starts a killed database again, and leaves nothing running where it is killed itself", async () => {
  const [databasePort, webPort] = [await freePort(), await freePort()];
  const data = path.join(folder, "data");
  // As if the demo had been loaded: what is tried here needs no register.
  mkdirSync(data);
  writeFileSync(path.join(data, "demo-loaded"), "");
  const started = spawn(process.execPath, ["bin/start.mjs"], {
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, NOMADE_DATA: data, NOMADE_DB_PORT: String(databasePort), NOMADE_WEB_PORT: String(webPort) },
  });
  let said = "";
  let shown = "";
  started.stdout.on("data", (chunk: Buffer) => (shown += chunk.toString()));
  started.stderr.on("data", (chunk: Buffer) => (said += chunk.toString()));
  const served = (): Promise<boolean> =>
    fetch(`http://127.0.0.1:${webPort}/sign-in`).then(
      (page) => page.ok,
      () => false,
    );
  const pid = (): number => (JSON.parse(readFileSync(path.join(data, "mariadb.json"), "utf8")) as { pid: number }).pid;
  try {
    await until(() => Promise.resolve(shown.includes("Ctrl-C stops it.")), 120_000);
    expect(await served()).toBe(true);
    const killed = pid();
    process.kill(killed, "SIGKILL");
    await until(async () => pid() !== killed && (await listens(databasePort)), 60_000);
    expect(said).toContain("The database ended unexpectedly; it is started again.");
    expect(await served()).toBe(true);
    started.kill("SIGKILL");
    // It listens no more before it has written everything down.
    const running = pid();
    await until(async () => !isAlive(running) && !(await listens(databasePort)) && !(await listens(webPort)), 30_000);
  } finally {
    started.kill("SIGKILL");
  }
}, 240_000);
