// `npm run trial`: the properties with new seeds, and the kills of our own programs, round after round for as long as it is told (`-- --minutes 30`).
// Each round prints its seed; `-- --seed N` runs that one round again. Ends with the first round that fails.
// `-- --pages` puts the demo's pages through Lighthouse instead.
import { spawnSync } from "node:child_process";
import { randomInt } from "node:crypto";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { parseArgs } from "node:util";
import { freePort, startDatabase } from "./database.mjs";
import { ensureDebianPackages, ensureNodeModules, ensurePrograms, root, run, say } from "./prepare.mjs";

const { values } = parseArgs({ options: { minutes: { type: "string", default: "30" }, seed: { type: "string" }, pages: { type: "boolean" } } });
if (values.pages) {
  await import("./trial-pages.mjs");
  process.exit();
}
const minutes = Number(values.minutes);
if (!(minutes > 0)) throw new Error(`--minutes is ${JSON.stringify(values.minutes)}; it must be a number above 0.`);
if (values.seed !== undefined && !/^\d{1,9}$/.test(values.seed))
  throw new Error(`--seed is ${JSON.stringify(values.seed)}; it must be a whole number of at most nine digits.`);

/** Tests that draw their documents by seed, and those that kill what runs. */
const tests = ["src", "demo", "tests"]
  .flatMap((folder) => readdirSync(path.join(root, folder), { recursive: true }).map((file) => path.join(folder, file)))
  .filter((file) => file.endsWith(".test.ts") && (/\bfast-check\b/.test(readFileSync(path.join(root, file), "utf8")) || /own-programs|npm-start/.test(file)));

ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server" });
ensureNodeModules();
await ensurePrograms();
const folder = mkdtempSync(path.join(os.tmpdir(), "nomade-trial-"));
const database = await startDatabase({ folder, port: await freePort() });
let status = 0;
try {
  run(process.execPath, ["dist/nomade.mjs", "migrate"], { env: database.env.owner, stdio: ["ignore", "ignore", "inherit"] });
  const until = Date.now() + minutes * 60_000;
  for (let round = 1; status === 0 && (round === 1 || (values.seed === undefined && Date.now() < until)); round++) {
    const seed = values.seed ?? String(randomInt(1_000_000_000));
    say(`Round ${round}, seed ${seed}: ${tests.length} files`);
    const jest = ["--experimental-vm-modules", "--no-warnings", `${root}/node_modules/jest/bin/jest.js`, "--silent", ...tests];
    const done = spawnSync(process.execPath, jest, {
      cwd: root,
      encoding: "utf8",
      maxBuffer: 1 << 28,
      env: {
        ...process.env,
        ...database.env.application,
        NOMADE_TEST_OWNER: database.env.owner.NOMADE_DB_USER,
        NOMADE_TEST_OWNER_PASSWORD: database.env.owner.NOMADE_DB_PASSWORD,
        NOMADE_SEED: seed,
      },
    });
    status = done.status ?? 1;
    say(
      status === 0
        ? (/^Tests:.*$/m.exec(done.stderr)?.[0] ?? "")
        : `${done.stdout}${done.stderr}\nRound ${round} failed. Again: npm run trial -- --seed ${seed}`,
    );
  }
} finally {
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
}
process.exit(status);
