// What has to be there before anything of Nomade can run: Debian packages, node modules, a build that fits the sources.
// Plain Node without dependencies, since it runs before they are installed.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const isRoot = process.getuid?.() === 0;
const binFolders = ["/usr/sbin", "/usr/bin", "/sbin", "/bin", "/usr/local/bin"];

export const say = (sentence) => process.stderr.write(`${sentence}\n`);

/** Full path of a program of the system, or undefined. */
export const program = (name) => binFolders.map((folder) => path.join(folder, name)).find((file) => existsSync(file));

export function run(command, args, options = {}) {
  const done = spawnSync(command, args, {
    cwd: root,
    stdio: ["ignore", "inherit", "inherit"],
    ...options,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...options.env },
  });
  if (done.error || done.status !== 0)
    throw new Error(`${path.basename(command)} ${args.join(" ")} failed: ${done.error?.message ?? `exit status ${done.status}`}`);
}

let keeper;

/** Has a process ended when this program is gone, even by `kill -9`; until it has ended by itself. */
export function keep(child) {
  if (!keeper) {
    keeper = spawn(process.execPath, [path.join(root, "bin", "keeper.mjs")], { stdio: ["pipe", "ignore", "ignore"], detached: true });
    keeper.unref();
    keeper.stdin.unref();
    // Without it things go on; they are only not tidied up after a kill.
    keeper.stdin.on("error", () => undefined);
  }
  keeper.stdin.write(`+${child.pid}\n`);
  child.once("exit", () => keeper.stdin.write(`-${child.pid}\n`));
  return child;
}

/** Runs a program to its end with what is said to it passed on; gives its exit status. */
export const runKept = (command, args, options) =>
  new Promise((resolve, reject) => {
    const child = keep(spawn(command, args, options));
    child.once("error", reject);
    child.once("exit", (status) => resolve(status ?? 1));
  });

/** Installs Debian packages whose programs are missing; `programs` maps a program to the package that holds it. */
export function ensureDebianPackages(programs) {
  const missing = [
    ...new Set(
      Object.entries(programs)
        .filter(([name]) => !program(name))
        .map(([, name]) => name),
    ),
  ];
  if (missing.length === 0) return;
  const apt = program("apt-get");
  if (!apt) throw new Error(`These programs are missing and cannot be installed from here: ${missing.join(", ")}. Install them and start again.`);
  say(`Installing ${missing.join(", ")} …`);
  const aptGet = (...args) => {
    const [command, ...rest] = isRoot ? [apt, ...args] : ["sudo", "-n", apt, ...args];
    run(command, rest, { stdio: ["ignore", "ignore", "inherit"], env: { DEBIAN_FRONTEND: "noninteractive" } });
  };
  aptGet("update", "-qq");
  aptGet("install", "-y", "-qq", "--no-install-recommends", ...missing);
}

/** Installs the node modules of the lock file, unless just these are there. */
export function ensureNodeModules() {
  const wanted = createHash("sha256")
    .update(readFileSync(path.join(root, "package-lock.json")))
    .digest("hex");
  const stamp = path.join(root, "node_modules", ".lock-hash");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === wanted) return;
  say("Installing node modules …");
  run("npm", ["ci", "--include=dev", "--no-audit", "--no-fund", "--loglevel=error"], { stdio: ["ignore", "ignore", "inherit"] });
  writeFileSync(stamp, wanted);
}

function filesBelow(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const file = path.join(folder, entry.name);
    return entry.isDirectory() ? filesBelow(file) : [file];
  });
}

function hashOf(folders, files) {
  const hash = createHash("sha256");
  const all = [...folders.flatMap((folder) => filesBelow(path.join(root, folder))), ...files.map((file) => path.join(root, file))];
  for (const file of all.filter((name) => !/\.test\.tsx?$/.test(name)).sort()) hash.update(path.relative(root, file)).update(readFileSync(file));
  return hash.digest("hex");
}

/** Does a piece of building unless its stamp says that it was done for just these sources. */
async function onceFor(stamp, wanted, build) {
  const file = path.join(root, stamp);
  if (existsSync(file) && readFileSync(file, "utf8") === wanted) return;
  rmSync(file, { force: true });
  await build();
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, wanted);
}

/** Bundles programs for Node into dist: by the name of the program, its entry file. */
export async function bundle(entryPoints) {
  const { build } = await import("esbuild");
  await build({
    absWorkingDir: root,
    entryPoints,
    bundle: true,
    // What one command alone needs is loaded by that command.
    splitting: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    outdir: "dist",
    outExtension: { ".js": ".mjs" },
    chunkNames: "piece-[hash]",
    sourcemap: true,
    logLevel: "warning",
  });
}

/** Bundles the programs that run outside the web server: command line, workers, demo. */
export async function ensurePrograms() {
  await onceFor("dist/.built-from", hashOf(["src", "demo"], ["package-lock.json", "tsconfig.json"]), () => {
    // The pieces that programs share are named by what is in them: those of an earlier build would stay for ever.
    rmSync(path.join(root, "dist"), { recursive: true, force: true });
    return bundle({
      nomade: "src/cli/nomade.ts",
      worker: "src/wiring/worker.ts",
      "asking-worker": "src/wiring/asking-worker.ts",
      demo: "demo/generate.ts",
      standins: "src/wiring/standins.ts",
    });
  });
}

/** Builds the web application. */
export async function ensureWebBuild() {
  const wanted = hashOf(["src"], ["package-lock.json", "next.config.ts", "tsconfig.json", "postcss.config.cjs"]);
  await onceFor(".next/.built-from", wanted, () => {
    say("Building the web application …");
    run(process.execPath, ["node_modules/next/dist/bin/next", "build"], { stdio: ["ignore", "ignore", "inherit"], env: { NODE_ENV: "production" } });
  });
}
