import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "@jest/globals";
import { isAlive } from "./is-alive";

/** A folder with a blank in its path, as people have them. */
const folder = mkdtempSync(path.join(tmpdir(), "nomade programs "));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function until(holds: () => boolean, withinMs: number): Promise<void> {
  for (const began = Date.now(); !holds(); await new Promise((resolve) => setTimeout(resolve, 50)))
    if (Date.now() - began > withinMs) throw new Error("It did not come to that.");
}

const script = (text: string): string => {
  const file = path.join(folder, "script.mjs");
  writeFileSync(file, text);
  return file;
};
const database = JSON.stringify(path.resolve("bin/database.mjs"));
const data = path.join(folder, "data");
const pidOf = (): number => (JSON.parse(readFileSync(path.join(data, "mariadb.json"), "utf8")) as { pid: number }).pid;

describe("the programs that start a database", () => {
  it("leave none behind where they are killed, in a folder with a blank in its path, and the next one finds its data", async () => {
    const start = `import { startDatabase, freePort } from ${database}; const db = await startDatabase({ folder: ${JSON.stringify(data)}, port: await freePort() }); console.log("started", db.started);`;
    const first = spawn(process.execPath, [script(`${start} setInterval(() => undefined, 1000);`)], { stdio: ["ignore", "pipe", "inherit"] });
    const said = await new Promise<string>((resolve) => first.stdout.once("data", (chunk: Buffer) => resolve(chunk.toString())));
    expect(said).toContain("started true");
    const pid = pidOf();
    expect(isAlive(pid)).toBe(true);
    // Another program uses the one that runs, and leaves it running.
    expect(spawnSync(process.execPath, [script(`${start} await db.stop(); process.exit(0);`)], { encoding: "utf8" }).stdout).toContain("started false");
    expect(isAlive(pid)).toBe(true);
    first.kill("SIGKILL");
    await until(() => !isAlive(pid), 20_000);
    const again = spawnSync(process.execPath, [script(`${start} await db.stop(); process.exit(0);`)], { encoding: "utf8" });
    expect([again.stdout, again.stderr]).toEqual([expect.stringContaining("started true"), ""]);
    expect(isAlive(pidOf())).toBe(false);
  });

  it("say what the installing program said where it fails", () => {
    const blocked = path.join(folder, "blocked");
    mkdirSync(blocked);
    const fake = `import { mkdirSync } from "node:fs"; process.env.TMPDIR = ${JSON.stringify(path.join(folder, "no such folder"))}; const { startDatabase, freePort } = await import(${database}); await startDatabase({ folder: ${JSON.stringify(blocked)}, port: await freePort() }).then(() => console.log("no error"), (error) => console.log(error.message)); process.exit(0);`;
    const { stdout } = spawnSync(process.execPath, [script(fake)], { encoding: "utf8" });
    expect(stdout).toMatch(/could not be set up in .*blocked\/mysql; mariadb-install-db ended with 1 and said:/);
    expect(stdout.split("\n").length).toBeGreaterThan(2);
    expect(existsSync(path.join(blocked, "installed"))).toBe(false);
  });
});
