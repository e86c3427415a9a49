import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, expect, it } from "@jest/globals";
import { QueryTypes } from "sequelize";
import { connect } from "@/data/connection";
import { verraneInstitute } from "~/demo/institute";
import { facilityDraft } from "../builders";
import { freePort } from "./free-port";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-killed-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it("leaves the register as it was when the database is killed in the middle of an intake, and the next intake works", async () => {
  const data = path.join(folder, "data");
  const port = await freePort();
  const { NOMADE_DB_NAME: _name, NOMADE_DB_USER: _user, NOMADE_DB_PASSWORD: _password, ...rest } = process.env;
  const env = { ...rest, NOMADE_DATA: data, NOMADE_DB_PORT: String(port) };
  // Each command starts the database of this folder and stops it again.
  const nomade = (...args: readonly string[]) => spawnSync(process.execPath, ["bin/nomade.mjs", ...args], { env, encoding: "utf8" });
  const file = (name: string, content: unknown): string => {
    const at = path.join(folder, name);
    writeFileSync(at, JSON.stringify(content));
    return at;
  };
  expect(nomade("intake", file("small.json", facilityDraft())).status).toBe(0);
  const before = nomade("snapshots").stdout;
  const large = file("large.json", verraneInstitute({ cardholders: 3000, doors: 150, seed: 5 }));

  const child = spawn(process.execPath, ["bin/nomade.mjs", "intake", large], { env, stdio: ["ignore", "pipe", "pipe"] });
  let said = "";
  child.stderr.on("data", (chunk: Buffer) => (said += chunk.toString("utf8")));
  const ended = new Promise<number | null>((resolve) => child.once("exit", resolve));
  const pidFile = path.join(data, "mariadb.json");
  for (let storing = false; !storing;) {
    expect(child.exitCode).toBeNull();
    await new Promise((resolve) => setTimeout(resolve, 10));
    if (!existsSync(pidFile)) continue;
    const { application } = JSON.parse(readFileSync(path.join(data, "secrets.json"), "utf8")) as { application: string };
    const sequelize = connect({ port, name: "nomade", user: "nomade_app", password: application }, 1);
    try {
      const running = await sequelize.query<{ info: string | null }>(
        "SELECT info FROM information_schema.processlist WHERE info IS NOT NULL AND id <> CONNECTION_ID()",
        { type: QueryTypes.SELECT },
      );
      storing = running.some(({ info }) => info?.startsWith("INSERT INTO `register_"));
    } catch {
      // The database is still starting.
    } finally {
      await sequelize.close();
    }
  }
  process.kill((JSON.parse(readFileSync(pidFile, "utf8")) as { pid: number }).pid, "SIGKILL");
  expect(await ended).not.toBe(0);
  expect(said).not.toMatch(/^\s+at .*\(.*:\d+:\d+\)/m);
  expect(said).toMatch(/database/i);

  expect(nomade("snapshots").stdout).toBe(before);
  expect(nomade("intake", large).status).toBe(0);
  expect(nomade("snapshots").stdout.trim().split("\n")).toHaveLength(2);
  expect(nomade("verify").status).toBe(0);
});
