// `npm test`: all checks from a fresh clone — lint, types, unit and integration tests, and browser tests against a server and database of their own.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { freePort, startDatabase } from "./database.mjs";
import { ensureDebianPackages, ensureNodeModules, ensurePrograms, program, root, run, say } from "./prepare.mjs";

const folder = mkdtempSync(path.join(os.tmpdir(), "nomade-test-"));
const databases = [];
const running = new Set();
let web;
let status = 0;

/** A check as a child process of its own; the output goes where ours goes. One that is nice leaves others the processors when they ask for them. */
const check = (name, args, env = {}, niceness = 0) =>
  new Promise((resolve, reject) => {
    const began = Date.now();
    say(`\n— ${name}`);
    const child = spawn(process.execPath, args, {
      cwd: root,
      stdio: ["ignore", "inherit", "inherit"],
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
    });
    running.add(child);
    if (niceness > 0 && child.pid !== undefined) os.setPriority(child.pid, niceness);
    child.once("error", reject);
    child.once("exit", (code) => {
      running.delete(child);
      say(`— ${name}: ${code === 0 ? "passed" : `failed with exit status ${code}`} after ${Math.round((Date.now() - began) / 1000)} s`);
      return code === 0 ? resolve() : reject(new Error(`${name} failed.`));
    });
  });

/** A database server of its own for one lane, with all tables; `env` is what its tests need to know. */
async function ownDatabase(name) {
  const database = await startDatabase({ folder: path.join(folder, name), port: await freePort() });
  databases.push(database);
  run(process.execPath, ["dist/nomade.mjs", "migrate"], { env: database.env.owner, stdio: ["ignore", "ignore", "inherit"] });
  const { NOMADE_DB_USER, NOMADE_DB_PASSWORD } = database.env.owner;
  const { application } = database.env;
  return { application, env: { ...application, NOMADE_TEST_OWNER: NOMADE_DB_USER, NOMADE_TEST_OWNER_PASSWORD: NOMADE_DB_PASSWORD } };
}

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
  ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server", chromium: "chromium", openssl: "openssl" });
  ensureNodeModules();
  await ensurePrograms();
  const modules = `${root}/node_modules`;
  // All beside each other: each waits half of its time for files, a database or a browser. What is waited for last, the browser tests, goes first.
  const [unit, browser] = [await ownDatabase("unit"), await ownDatabase("browser")];
  await Promise.all([
    check("lint", [`${modules}/eslint/bin/eslint.js`, "."], {}, 10),
    check("unit and integration tests", ["--experimental-vm-modules", "--no-warnings", `${modules}/jest/bin/jest.js`], unit.env, 5),
    check("boundaries", [`${modules}/dependency-cruiser/bin/dependency-cruise.mjs`, "--config", ".dependency-cruiser.cjs", "src", "demo", "bench", "tests"])
      .then(() => check("build", ["-e", "import('./bin/prepare.mjs').then(({ ensureWebBuild }) => ensureWebBuild())"]))
      // Types are looked at with those that the build writes; by the native compiler, in a quarter of the time. (The linter needs the other one.)
      .then(() => check("types", [`${modules}/typescript-native/bin/tsc`, "--noEmit", "-p", "."]))
      .then(() => serve(browser.application))
      .then((address) =>
        check("browser tests", [`${modules}/@playwright/test/cli.js`, "test"], { ...browser.env, NOMADE_ADDRESS: address, CHROMIUM: program("chromium") }),
      ),
  ]);
} catch (error) {
  say(error.message);
  status = 1;
} finally {
  for (const child of running) child.kill("SIGTERM");
  web?.kill("SIGTERM");
  for (const database of databases) await database.stop();
  rmSync(folder, { recursive: true, force: true });
}
process.exit(status);
