// `npm run bench`: Nomade's resolver against peers doing the same work, as ratios in one run on this machine, on registers of the demo's shape and on dense
// ones.
// `-- --sizes s,m` and `-- --shapes dense` for a part; `-- --pages` for what pages cost on a dense register of the largest size given,
// `-- --events 10000000` for what so many events cost there; `-- --sizes m --certifiers 200` for so many who decide at once,
// `-- --sizes s --units` for what units at the doors cost.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { performance } from "node:perf_hooks";
import { randomBytes } from "node:crypto";
import { clearInterval, setInterval, setTimeout } from "node:timers";
import { parseArgs } from "node:util";
import { freePort, startDatabase } from "./database.mjs";
import { bundle, ensureDebianPackages, ensureNodeModules, ensurePrograms, ensureWebBuild, root, say } from "./prepare.mjs";

const sizes = { s: [2000, 200], m: [20_000, 1000], l: [100_000, 5000] };
const { values } = parseArgs({
  options: {
    sizes: { type: "string", default: "s,m,l" },
    shapes: { type: "string", default: "demo,dense" },
    pages: { type: "boolean", default: false },
    events: { type: "string" },
    certifiers: { type: "string" },
    units: { type: "boolean", default: false },
  },
});
const shapes = { demo: "as the demo", dense: "dense" };
const folder = mkdtempSync(path.join(os.tmpdir(), "nomade-bench-"));
const time = (ms) =>
  ms >= 1000 ? `${(ms / 1000).toFixed(2)} s` : ms >= 1 ? `${ms.toFixed(1)} ms` : ms >= 0.001 ? `${(ms * 1000).toFixed(2)} µs` : `${(ms * 1e6).toFixed(0)} ns`;
const ratio = (n) => (n >= 100 ? `${Math.round(n).toLocaleString("en-GB")} ×` : `${n.toFixed(n >= 10 ? 0 : 2)} ×`);

function node(args, env = {}) {
  const done = spawnSync(process.execPath, ["--max-old-space-size=12288", "--expose-gc", ...args], {
    cwd: root,
    encoding: "utf8",
    stdio: ["ignore", "pipe", "inherit"],
    maxBuffer: 1 << 28,
    env: { ...process.env, ...env },
  });
  if (done.status !== 0) throw new Error(`${args.join(" ")} failed.`);
  return done.stdout;
}

/** Runs a program and gives its time and its peak memory, which Linux keeps as long as it lives. */
const watched = (args, env) =>
  new Promise((resolve, reject) => {
    const began = performance.now();
    const child = spawn(process.execPath, ["--max-old-space-size=12288", ...args], {
      cwd: root,
      stdio: ["ignore", "ignore", "inherit"],
      env: { ...process.env, ...env },
    });
    let peakBytes = 0;
    const look = setInterval(() => {
      try {
        peakBytes = Math.max(peakBytes, Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))?.[1] ?? 0) * 1024);
      } catch {
        // It has ended.
      }
    }, 100);
    child.once("exit", (code) => {
      clearInterval(look);
      return code === 0 ? resolve({ ms: performance.now() - began, peakBytes }) : reject(new Error(`${args.join(" ")} failed.`));
    });
  });

/** Makes a database on the server, empty but for its tables. */
function emptyDatabase(name, env) {
  node(
    [
      "-e",
      `import("mariadb").then((mariadb) => mariadb.createConnection({ host: "127.0.0.1", port: ${env.NOMADE_DB_PORT}, user: process.env.NOMADE_DB_USER, password: process.env.NOMADE_DB_PASSWORD })).then(async (c) => { await c.query("CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin"); await c.end(); })`,
    ],
    env,
  );
  node(["dist/nomade.mjs", "migrate"], env);
}

/** The intake of the document as CSV tables into an empty register, against bare inserts of the same rows. */
async function measureIntake(file, label) {
  const name = `nomade_bench_${label}`;
  const env = { ...database.env.owner, NOMADE_DB_NAME: name };
  emptyDatabase(name, env);
  const zip = file.replace(/json$/, "zip");
  node(["dist/bench-intake.mjs", "--file", file, "--zip", zip]);
  const bare = JSON.parse(node(["dist/bench-intake.mjs", "--file", file], env));
  const taken = await watched(["dist/nomade.mjs", "intake", zip, "--source", "bench"], env);
  console.log(
    `| intake of CSV tables, ${bare.rows.toLocaleString("en-GB")} rows, checked, frozen and with findings | ${time(taken.ms)}, ${Math.round(bare.rows / (taken.ms / 1000)).toLocaleString("en-GB")} rows/s, peak ${(taken.peakBytes / 2 ** 20).toFixed(0)} MiB | bare multi-row insert of these rows | ${time(bare.ms)} | costs ${ratio(taken.ms / bare.ms)} |`,
  );
}

/** A register of a shape and a size as a file; made once. */
function registerFile(shape, { size, cardholders, doors }) {
  const file = path.join(folder, `${shape}-${size}.json`);
  const of = ["--cardholders", String(cardholders), "--doors", String(doors), "--out", file];
  if (!existsSync(file)) node(shape === "dense" ? ["dist/bench-dense.mjs", ...of] : ["dist/demo.mjs", "--seed", "7", "--no-events", ...of]);
  return file;
}

async function measure(shape, one) {
  const { size, cardholders, doors } = one;
  const file = registerFile(shape, one);
  say(`Measuring ${cardholders} × ${doors}, ${shapes[shape]} …`);
  const found = JSON.parse(node(["dist/bench.mjs", "--file", file, "--size", size], database.env.owner));
  console.log(
    `### ${cardholders.toLocaleString("en-GB")} cardholders × ${doors.toLocaleString("en-GB")} doors, ${shapes[shape]} (${(found.fileBytes / 1e6).toFixed(1)} MB, ${found.rows.toLocaleString("en-GB")} distinct rows, ${found.timelines.toLocaleString("en-GB")} timelines)\n`,
  );
  console.log("| question | Nomade | peer | its time | ratio |\n| --- | ---: | --- | ---: | ---: |");
  for (const { question, ours, peer, theirs, sampled, isYardstick } of found.measured)
    console.log(
      `| ${question} | ${time(ours)} | ${peer}${sampled ? ` (sampled: ${sampled})` : ""} | ${time(theirs)} | ${isYardstick ? `costs ${ratio(ours / theirs)}` : `${ratio(theirs / ours)} as fast`} |`,
    );
  for (const [kind, words] of [
    ["table", "without the summary"],
    ["rows", "with the year's summary of all pairs written out"],
  ]) {
    const { peakBytes, fileBytes } = JSON.parse(node(["dist/bench.mjs", "--file", file, "--memory", kind]));
    console.log(
      `| peak memory ${words} | ${(peakBytes / 2 ** 20).toFixed(0)} MiB | size of the file | ${(fileBytes / 2 ** 20).toFixed(1)} MiB | ${(peakBytes / fileBytes).toFixed(1)} × the file |`,
    );
  }
  await measureIntake(file, `${shape}_${size}`);
  console.log("");
}

/** What pages cost a server of its own on a dense register, after an intake of it. */
async function measurePages(one) {
  await ensureWebBuild();
  const file = registerFile("dense", one);
  const password = randomBytes(18).toString("base64url");
  node(["dist/nomade.mjs", "migrate"], database.env.owner);
  const taken = await watched(["dist/nomade.mjs", "intake", file, "--source", "bench"], database.env.application);
  console.log(`Intake of the document, checked, frozen, looked through and laid out: ${time(taken.ms)}, peak ${(taken.peakBytes / 2 ** 20).toFixed(0)} MiB.\n`);
  node(["dist/nomade.mjs", "account", "add", "--sign-in", "reviewer", "--name", "Rosa Quillfeld", "--role", "reviewer"], {
    ...database.env.application,
    NOMADE_PASSWORD: password,
  });
  const port = await freePort();
  const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)], {
    cwd: root,
    stdio: "ignore",
    env: { ...process.env, ...database.env.application, NODE_ENV: "production" },
  });
  try {
    for (
      let i = 0;
      i < 300 &&
      !(await fetch(`http://127.0.0.1:${port}/sign-in`).then(
        ({ ok }) => ok,
        () => false,
      ));
      i++
    )
      await new Promise((resolve) => setTimeout(resolve, 100));
    console.log(node(["bench/load.mjs", "--port", String(port), "--facility", file, "--server", String(server.pid)], { NOMADE_PASSWORD: password }));
  } finally {
    server.kill();
  }
}

/** What a year of so many events costs: taken in, looked through, and listed for twenty people at once. */
function measureEvents(shape, one, events) {
  const name = `nomade_events_${shape}`;
  const env = { ...database.env.owner, NOMADE_DB_NAME: name };
  emptyDatabase(name, env);
  const table = JSON.parse(
    node(["--max-semi-space-size=64", "dist/bench-events.mjs", "--file", registerFile(shape, one), "--events", events], { ...env, NOMADE_DATA: folder }),
  );
  console.log(
    `### ${Number(events).toLocaleString("en-GB")} events, ${one.cardholders.toLocaleString("en-GB")} × ${one.doors.toLocaleString("en-GB")}, ${shapes[shape]}\n`,
  );
  console.log("| what | ours | beside | theirs | |\n| --- | ---: | --- | ---: | ---: |");
  for (const line of table) console.log(`| ${line.join(" | ")} |`);
  console.log("");
}

/** What so many certifiers at once cost, each deciding line by line. */
function measureCertifiers(one, certifiers) {
  const name = "nomade_certifiers";
  const env = { ...database.env.owner, NOMADE_DB_NAME: name };
  emptyDatabase(name, env);
  const rows = JSON.parse(node(["dist/bench-certifiers.mjs", "--file", registerFile("demo", one), "--certifiers", certifiers], { ...env, NOMADE_DATA: folder }));
  console.log(`### ${certifiers} certifiers at once, ${one.cardholders.toLocaleString("en-GB")} × ${one.doors.toLocaleString("en-GB")}\n`);
  console.log("| what | rate | median | slowest | all |\n| --- | ---: | ---: | ---: | --- |");
  for (const row of rows) console.log(`| ${row.join(" | ")} |`);
  console.log("");
}

let database;
let status = 0;
try {
  ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server" });
  ensureNodeModules();
  await ensurePrograms();
  await bundle({ bench: "bench/run.ts", "bench-intake": "bench/intake.ts", "bench-dense": "bench/write-dense.ts", "bench-events": "bench/events.ts", "bench-certifiers": "bench/certifiers.ts", "bench-units": "bench/units.ts" });
  database = await startDatabase({ folder, port: await freePort() });
  console.log(
    `Node ${process.version}, ${os.cpus()[0]?.model ?? "unknown processor"}, ${new Date().toISOString().slice(0, 10)}. Medians of five; a peer that is sampled is scaled to the whole.\n`,
  );
  const wanted = values.sizes.split(",").map((size) => {
    const [cardholders, doors] = sizes[size] ?? [];
    if (cardholders === undefined) throw new Error(`--sizes takes s, m and l, not ${size}.`);
    return { size, cardholders, doors };
  });
  if (values.units) process.stdout.write(node(["dist/bench-units.mjs", String(wanted.at(-1).cardholders), String(wanted.at(-1).doors)]));
  else if (values.pages) await measurePages(wanted.at(-1));
  else if (values.certifiers !== undefined) measureCertifiers(wanted.at(-1), values.certifiers);
  else if (values.events !== undefined) for (const shape of values.shapes.split(",")) measureEvents(shape, wanted.at(-1), values.events);
  else
    for (const shape of values.shapes.split(",")) {
      if (!Object.hasOwn(shapes, shape)) throw new Error(`--shapes takes demo and dense, not ${shape}.`);
      for (const one of wanted) await measure(shape, one);
    }
} catch (error) {
  say(error.message);
  status = 1;
} finally {
  await database?.stop();
  rmSync(folder, { recursive: true, force: true });
}
process.exit(status);
