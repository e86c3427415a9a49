// A MariaDB server of Nomade's own: on loopback, with its own data folder, started and stopped from here.
import { spawn, spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, openSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import net from "node:net";
import os from "node:os";
import path from "node:path";
import { keep, program, root, say } from "./prepare.mjs";

export const databaseName = "nomade";
const startWithinMs = 30_000;
const startedElsewhereMs = 5_000;

/** Where data lies and on which ports things listen; each can be set by environment. */
export const settings = {
  folder: path.resolve(root, process.env.NOMADE_DATA ?? ".data/nomade"),
  databasePort: portSetting("NOMADE_DB_PORT", 33170),
  webPort: portSetting("NOMADE_WEB_PORT", 3170),
};

function portSetting(name, otherwise) {
  const text = process.env[name];
  if (text === undefined || text === "") return otherwise;
  const port = Number(text);
  if (!Number.isInteger(port) || port < 1 || port > 65535) {
    say(`${name} is ${JSON.stringify(text)}; expected a port from 1 to 65535.`);
    process.exit(2);
  }
  return port;
}

export const freePort = () =>
  new Promise((resolve, reject) => {
    const server = net.createServer();
    server.once("error", reject);
    server.listen(0, "127.0.0.1", () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });

export const portIsFree = (port) =>
  new Promise((resolve) => {
    const server = net.createServer();
    server.once("error", () => resolve(false));
    server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
  });

/** Whether a MariaDB server answers on a port: it speaks first. */
const answers = (port) =>
  new Promise((resolve) => {
    const socket = net.connect(port, "127.0.0.1");
    const end = (result) => {
      socket.destroy();
      resolve(result);
    };
    socket.once("data", () => end(true));
    socket.once("error", () => end(false));
    socket.setTimeout(1000, () => end(false));
  });

function secretsOf(folder) {
  const file = path.join(folder, "secrets.json");
  if (!existsSync(file)) {
    const secrets = { owner: randomBytes(24).toString("hex"), application: randomBytes(24).toString("hex") };
    writeFileSync(file, JSON.stringify(secrets), { mode: 0o600 });
  }
  return JSON.parse(readFileSync(file, "utf8"));
}

/** Two users: an owner who migrates, and the application's, which gets its rights table by table from the migrations. */
function initialStatements(secrets) {
  const hosts = ["127.0.0.1", "localhost"];
  return [
    `CREATE DATABASE IF NOT EXISTS ${databaseName} CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;`,
    ...hosts.flatMap((host) => [
      `CREATE USER IF NOT EXISTS 'nomade_owner'@'${host}' IDENTIFIED BY '${secrets.owner}';`,
      `CREATE USER IF NOT EXISTS 'nomade_app'@'${host}' IDENTIFIED BY '${secrets.application}';`,
      // The wildcard lets tests make databases of their own beside it.
      `GRANT ALL ON \`${databaseName}%\`.* TO 'nomade_owner'@'${host}' WITH GRANT OPTION;`,
    ]),
    "",
  ].join("\n");
}

function environment(folder, port, secrets) {
  const shared = { NOMADE_DATA: folder, NOMADE_DB_PORT: String(port), NOMADE_DB_NAME: databaseName };
  return {
    owner: { ...shared, NOMADE_DB_USER: "nomade_owner", NOMADE_DB_PASSWORD: secrets.owner },
    application: { ...shared, NOMADE_DB_USER: "nomade_app", NOMADE_DB_PASSWORD: secrets.application },
  };
}

/** The process that a pid file names, if it is alive. */
function runningServer(folder) {
  const file = path.join(folder, "mariadb.json");
  if (!existsSync(file)) return undefined;
  try {
    const { pid, port } = JSON.parse(readFileSync(file, "utf8"));
    process.kill(pid, 0);
    return readFileSync(`/proc/${pid}/comm`, "utf8").startsWith("mariadbd") ? { pid, port } : undefined;
  } catch {
    return undefined;
  }
}

/** Makes the data folder of a server. What the installing program says is told where it fails. */
function install(folder, asRoot) {
  const data = path.join(folder, "mysql");
  rmSync(data, { recursive: true, force: true });
  mkdirSync(data, { mode: 0o700 });
  // A shell script: it takes a folder with a blank in its path for two, so it is given the last part alone.
  const done = spawnSync(
    program("mariadb-install-db"),
    [
      "--no-defaults",
      ...asRoot,
      "--datadir=./mysql",
      "--auth-root-authentication-method=socket",
      `--auth-root-socket-user=${os.userInfo().username}`,
      "--skip-test-db",
      "--skip-name-resolve",
    ],
    { cwd: folder, encoding: "utf8" },
  );
  if (done.status === 0) return;
  const said = `${done.stdout ?? ""}\n${done.stderr ?? ""}`.split("\n").filter((line) => line.trim() !== "");
  throw new Error(
    [
      `The database could not be set up in ${data}; mariadb-install-db ${done.error ? `did not run (${done.error.message})` : `ended with ${done.status ?? done.signal} and said:`}`,
      ...said.slice(-20).map((line) => `  ${line}`),
    ].join("\n"),
  );
}

/** The server of the folder that runs already; whoever else is just starting it is waited for. */
async function serverOf(folder, port) {
  for (const began = Date.now(); ; await new Promise((resolve) => setTimeout(resolve, 100))) {
    const running = runningServer(folder);
    if (running && (await answers(running.port))) return running;
    if (await portIsFree(port)) return undefined;
    if (Date.now() - began > startedElsewhereMs)
      throw new Error(`Port ${port} on 127.0.0.1 is in use by another program. Set NOMADE_DB_PORT to a free one for the database.`);
  }
}

/**
 * Starts the database of a folder, or uses the one that runs already. Gives the environments for the owner and the
 * application, `pid`, and `stop`, which stops only what was started here. What was started here ends with this program.
 */
export async function startDatabase({ folder, port }) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const secrets = secretsOf(folder);
  const running = await serverOf(folder, port);
  if (running) return { env: environment(folder, running.port, secrets), ...running, stop: async () => undefined, started: false };

  const asRoot = process.getuid?.() === 0 ? ["--user=root"] : [];
  const data = path.join(folder, "mysql");
  const installed = path.join(folder, "installed");
  if (!existsSync(installed)) {
    install(folder, asRoot);
    writeFileSync(installed, "");
  }
  mkdirSync(path.join(folder, "tmp"), { recursive: true, mode: 0o700 });
  const init = path.join(folder, "init.sql");
  writeFileSync(init, initialStatements(secrets), { mode: 0o600 });
  const log = path.join(folder, "mariadb.log");
  const output = openSync(log, "a");
  const server = keep(
    spawn(
      program("mariadbd"),
      [
        "--no-defaults",
        ...asRoot,
        `--datadir=${data}`,
        // Its own: a server that starts clears away what others have in a folder that they share. Seen from the data, as a colon would end the folder's name.
        "--tmpdir=../tmp",
        // Socket paths are limited to 107 bytes, and the folder may lie deep.
        `--socket=${path.join(os.tmpdir(), `nomade-${port}.sock`)}`,
        `--pid-file=${path.join(folder, "mariadb.pid")}`,
        "--bind-address=127.0.0.1",
        `--port=${port}`,
        "--skip-name-resolve",
        "--character-set-server=utf8mb4",
        "--collation-server=utf8mb4_nopad_bin",
        "--default-time-zone=+00:00",
        "--innodb-buffer-pool-size=512M",
        "--innodb-log-file-size=256M",
        // A decision that was confirmed survives anything.
        "--innodb-flush-log-at-trx-commit=1",
        "--max-allowed-packet=64M",
        "--local-infile=1",
        "--skip-log-bin",
        "--performance-schema=OFF",
        `--init-file=${init}`,
      ],
      { stdio: ["ignore", output, output], detached: true },
    ),
  );
  let exited = false;
  server.once("exit", () => (exited = true));
  const began = Date.now();
  while (!(await answers(port))) {
    if (exited || Date.now() - began > startWithinMs) throw new Error(`The database did not start; its own words are in ${log}.`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  // Whoever reads it meanwhile finds the one before, or this one, whole.
  const file = path.join(folder, "mariadb.json");
  writeFileSync(`${file}.new`, JSON.stringify({ pid: server.pid, port }));
  renameSync(`${file}.new`, file);
  const stop = () =>
    new Promise((resolve) => {
      if (exited) return resolve();
      server.once("exit", () => resolve());
      server.kill("SIGTERM");
    });
  return { env: environment(folder, port, secrets), pid: server.pid, port, stop, started: true };
}
