// `npm start`: everything from a fresh clone to a served page; stops all that it started.
import { spawn, spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { portIsFree, settings, startDatabase } from "./database.mjs";
import { ensureDebianPackages, ensureNodeModules, ensurePrograms, ensureWebBuild, keep, root, run, say } from "./prepare.mjs";

const demoSize = ["--cardholders", "420", "--doors", "95", "--seed", "7", "--history"];
let database;
let web;
let standIns;
let stopping = false;

async function stop(status) {
  if (stopping) return;
  stopping = true;
  web?.kill("SIGTERM");
  standIns?.kill("SIGTERM");
  await database?.stop();
  say("Nomade has stopped.");
  process.exit(status);
}

process.on("SIGINT", () => void stop(0));
process.on("SIGTERM", () => void stop(0));
// npm and its shell may be killed without this process being told: do not live on as an orphan.
const parent = process.ppid;
setInterval(() => {
  if (process.ppid !== parent) void stop(0);
}, 500).unref();

/** A database that ended so often within so long has a reason that starting it again does not mend. */
const startsAgainAtMost = 5;
const startsAgainWithinMs = 600_000;
const startsAgain = [];

const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** Starts the database again where it ended by itself or was killed; where it ends again and again the whole stops and says why. */
async function keepDatabase() {
  while (!stopping) {
    await new Promise((resolve) => setTimeout(resolve, 250));
    if (stopping || isAlive(database.pid)) continue;
    const now = Date.now();
    startsAgain.push(now);
    if (startsAgain.filter((at) => now - at < startsAgainWithinMs).length > startsAgainAtMost) {
      say(`The database ended more than ${startsAgainAtMost} times within ten minutes; its own words are in ${path.join(settings.folder, "mariadb.log")}.`);
      return stop(1);
    }
    say("The database ended unexpectedly; it is started again.");
    try {
      const { port } = database;
      database = await startDatabase({ folder: settings.folder, port });
    } catch (error) {
      say(error.message);
      return stop(1);
    }
  }
}

function loadDemo() {
  const stamp = path.join(settings.folder, "demo-loaded");
  if (existsSync(stamp)) return;
  // A register that came some other way, such as from a backup, is not the demo's to change.
  const there = spawnSync(process.execPath, ["dist/nomade.mjs", "snapshots"], {
    cwd: root,
    env: { ...process.env, ...database.env.application },
    encoding: "utf8",
  });
  if (there.status === 0 && there.stdout !== "") return;
  say("Loading the demo, the Verrane Institute …");
  const file = path.join(settings.folder, "verrane.json");
  run(process.execPath, ["dist/demo.mjs", ...demoSize, "--out", file], { stdio: ["ignore", "ignore", "inherit"] });
  const nomade = (...args) =>
    run(process.execPath, ["--enable-source-maps", "dist/nomade.mjs", ...args], { env: database.env.application, stdio: ["ignore", "ignore", "inherit"] });
  const beside = (ending) => file.replace(/\.json$/, ending);
  nomade("intake", beside(".events.csv"), "--source", "demo events");
  nomade("intake", beside(".earlier-1.json"), "--source", "demo");
  nomade("account", "demo");
  nomade("account", "demo", "--house-rules");
  nomade("account", "demo", "--round", "summer");
  nomade("rules", "--keep", beside(".rules.json"));
  nomade("intake", beside(".earlier-2.json"), "--source", "demo");
  nomade("account", "demo", "--round", "september");
  nomade("account", "demo", "--round", "definitions-september");
  nomade("intake", file, "--source", "demo");
  nomade("account", "demo", "--round", "definitions-november");
  nomade("account", "demo", "--round", "november");
  nomade("account", "demo", "--trials");
  nomade("account", "demo", "--plans", beside(".plans.json"));
  writeFileSync(stamp, "");
}

/** Where the passwords of the first accounts of an empty installation are kept until somebody changes them. */
const firstSignInsFile = () => path.join(settings.folder, "first-sign-ins");
const firstSignIns = () => (existsSync(firstSignInsFile()) ? ["\nSign in as one of these, and change the password:", ...readFileSync(firstSignInsFile(), "utf8").trimEnd().split("\n")] : []);

/** `--empty`: no demo; an administrator and a reviewer, with passwords that are made here, so that somebody can sign in and bring what they have. */
function firstAccounts() {
  const command = (...args) => [process.execPath, ["--enable-source-maps", "dist/nomade.mjs", "account", ...args]];
  const [node, list] = command("list");
  const there = spawnSync(node, list, { cwd: root, env: { ...process.env, ...database.env.application }, encoding: "utf8" });
  if (there.status === 0 && there.stdout.trim() !== "") return;
  const lines = [];
  for (const role of ["administrator", "reviewer"]) {
    const password = randomBytes(12).toString("base64url");
    const [program, add] = command("add", "--sign-in", role, "--name", role === "reviewer" ? "First Reviewer" : "First Administrator", "--role", role);
    run(program, add, { env: { ...database.env.application, NOMADE_PASSWORD: password }, stdio: ["ignore", "ignore", "inherit"] });
    lines.push(`  ${role}  ${password}`);
  }
  writeFileSync(firstSignInsFile(), `${lines.join("\n")}\n`, { mode: 0o600 });
}

/** What each stand-in tells the server of itself, below the setting that names a real one in its place. */
const standInSettings = {
  NOMADE_SMTP_HOST: ["NOMADE_STANDIN_MAIL", "NOMADE_SMTP_HOST", "NOMADE_SMTP_PORT"],
  NOMADE_TSA_ADDRESS: ["NOMADE_TSA_ADDRESS"],
  NOMADE_OIDC_ISSUER: ["NOMADE_OIDC_ISSUER", "NOMADE_OIDC_CLIENT_ID", "NOMADE_OIDC_NAME"],
};

/** What the server is told of mail, time stamps and sign-on: what the environment names, or else the stand-ins that ship; `--without-standins`: none. */
async function outside() {
  const address = { NOMADE_ADDRESS: process.env.NOMADE_ADDRESS ?? `http://127.0.0.1:${settings.webPort}` };
  if (process.argv.includes("--without-standins")) return address;
  standIns = keep(
    spawn(process.execPath, ["--enable-source-maps", "dist/standins.mjs"], {
      cwd: root,
      stdio: ["ignore", "pipe", "inherit"],
      detached: true,
      env: { ...process.env, ...database.env.application, ...address },
    }),
  );
  const told = await new Promise((resolve, reject) => {
    let text = "";
    standIns.stdout.on("data", (piece) => {
      text += String(piece);
      if (text.endsWith("\n")) resolve(JSON.parse(text));
    });
    standIns.once("exit", () => reject(new Error("The stand-ins for mail, time stamps and sign-on did not start.")));
  });
  for (const [real, names] of Object.entries(standInSettings)) if (process.env[real]) for (const name of names) delete told[name];
  return { ...told, ...address };
}

try {
  ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server" });
  ensureNodeModules();
  await ensurePrograms();
  if (!(await portIsFree(settings.webPort)))
    throw new Error(`Port ${settings.webPort} on 127.0.0.1 is in use by another program. Set NOMADE_WEB_PORT to a free one for the pages.`);
  await ensureWebBuild();
  database = await startDatabase({ folder: settings.folder, port: settings.databasePort });
  run(process.execPath, ["--enable-source-maps", "dist/nomade.mjs", "migrate"], { env: database.env.owner, stdio: ["ignore", "ignore", "inherit"] });
  const isEmpty = process.argv.includes("--empty");
  if (isEmpty) firstAccounts();
  else loadDemo();
  void keepDatabase();
  const told = await outside();
  web = keep(
    spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(settings.webPort)], {
      cwd: root,
      stdio: ["ignore", "ignore", "inherit"],
      detached: true,
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...database.env.application, ...told, NODE_ENV: "production" },
    }),
  );
  web.once("exit", (status) => void stop(status ?? 1));
  while (
    !stopping &&
    !(await fetch(`http://127.0.0.1:${settings.webPort}/sign-in`).then(
      (page) => page.ok,
      () => false,
    ))
  )
    await new Promise((resolve) => setTimeout(resolve, 100));
  if (!stopping) {
    console.log(`\nNomade is at http://127.0.0.1:${settings.webPort}`);
    if (isEmpty) for (const line of firstSignIns()) console.log(line);
    else {
      console.log("\nDemo sign-ins:");
      run(process.execPath, ["--enable-source-maps", "dist/nomade.mjs", "account", "demo", "--list"], { env: database.env.application });
    }
    console.log("\nCtrl-C stops it.");
  }
} catch (error) {
  say(error.message);
  await stop(1);
}
