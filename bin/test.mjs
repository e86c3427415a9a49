// `npm test`: all checks from a fresh clone — lint, types, unit and integration tests, and browser tests against a server and database of their own.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { freePort, startDatabase } from "./database.mjs";
import { ensureDebianPackages, ensureNodeModules, ensurePrograms, program, root, run, say } from "./prepare.mjs";

const folder = mkdtempSync(path.join(os.tmpdir(), "nomade-test-"));
let database;
let web;
let status = 0;

/** A check as a child process of its own; the output goes where ours goes. */
const check = (name, args, env = {}) =>
  new Promise((resolve, reject) => {
    const began = Date.now();
    say(`\n— ${name}`);
    const child = spawn(process.execPath, args, {
      cwd: root,
      stdio: ["ignore", "inherit", "inherit"],
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
    });
    child.once("error", reject);
    child.once("exit", (code) => {
      say(`— ${name}: ${code === 0 ? "passed" : `failed with exit status ${code}`} after ${Math.round((Date.now() - began) / 1000)} s`);
      return code === 0 ? resolve() : reject(new Error(`${name} failed.`));
    });
  });

async function serve(env) {
  const port = await freePort();
  web = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)], {
    cwd: root,
    stdio: ["ignore", "ignore", "inherit"],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env, NODE_ENV: "production" },
  });
  const address = `http://127.0.0.1:${port}`;
  for (
    let i = 0;
    !(await fetch(`${address}/sign-in`).then(
      (page) => page.ok,
      () => false,
    ));
    i++
  ) {
    if (web.exitCode !== null || i > 300) throw new Error("The pages were not served.");
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return address;
}

try {
  ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server", chromium: "chromium" });
  ensureNodeModules();
  await ensurePrograms();
  const modules = `${root}/node_modules`;
  // These look at the same source and change none of it: beside each other they take half the time. Types are looked at with those that the build writes.
  await Promise.all([
    check("lint", [`${modules}/eslint/bin/eslint.js`, "."]),
    check("boundaries", [`${modules}/dependency-cruiser/bin/dependency-cruise.mjs`, "--config", ".dependency-cruiser.cjs", "src", "demo", "bench", "tests"])
      .then(() => check("build", ["-e", "import('./bin/prepare.mjs').then(({ ensureWebBuild }) => ensureWebBuild())"]))
      .then(() => check("types", [`${modules}/typescript/bin/tsc`, "--noEmit", "-p", "."])),
  ]);
  database = await startDatabase({ folder, port: await freePort() });
  run(process.execPath, ["dist/nomade.mjs", "migrate"], { env: database.env.owner, stdio: ["ignore", "ignore", "inherit"] });
  const { NOMADE_DB_USER, NOMADE_DB_PASSWORD } = database.env.owner;
  const owner = { NOMADE_TEST_OWNER: NOMADE_DB_USER, NOMADE_TEST_OWNER_PASSWORD: NOMADE_DB_PASSWORD };
  await check("unit and integration tests", ["--experimental-vm-modules", "--no-warnings", `${modules}/jest/bin/jest.js`], {
    ...database.env.application,
    ...owner,
  });
  const address = await serve(database.env.application);
  await check("browser tests", [`${modules}/@playwright/test/cli.js`, "test"], {
    ...database.env.application,
    ...owner,
    NOMADE_ADDRESS: address,
    CHROMIUM: program("chromium"),
  });
} catch (error) {
  say(error.message);
  status = 1;
} finally {
  web?.kill("SIGTERM");
  await database?.stop();
  rmSync(folder, { recursive: true, force: true });
}
process.exit(status);
