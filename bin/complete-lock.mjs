// Adds to the lock file the optional packages of other platforms that `npm install` leaves out where they cannot be fetched,
// so that `npm ci` accepts it anywhere. Run after each change of dependencies: node bin/complete-lock.mjs
import { readFileSync, writeFileSync } from "node:fs";

const file = new URL("../package-lock.json", import.meta.url);
const lock = JSON.parse(readFileSync(file, "utf8"));
const systems = /(darwin|win32|linux|android|freebsd|openharmony|openbsd|netbsd|sunos|aix)/;
const processors = /(arm64|arm|x64|ia32|ppc64|s390x|riscv64|loong64|mips64el)/;

/** Whether a package is found from where another lies, looking upwards as Node does. */
function isFound(from, name) {
  for (let folder = from; ; ) {
    if (lock.packages[`${folder === "" ? "" : `${folder}/`}node_modules/${name}`]) return true;
    if (folder === "") return false;
    const above = folder.lastIndexOf("/node_modules/");
    folder = above < 0 ? "" : folder.slice(0, above);
  }
}

let added = 0;
for (const [folder, holder] of Object.entries({ ...lock.packages })) {
  for (const [name, version] of Object.entries(holder.optionalDependencies ?? {})) {
    if (isFound(folder, name) || !/^\d/.test(version)) continue;
    const [system, processor] = [systems.exec(name)?.[1], processors.exec(name)?.[1]];
    if (!system && !processor) continue;
    const libc = /musl/.test(name) ? "musl" : /gnu/.test(name) && system === "linux" ? "glibc" : undefined;
    lock.packages[`node_modules/${name}`] = {
      version,
      ...(processor && { cpu: [processor] }),
      ...(holder.dev && { dev: true }),
      ...(libc && { libc: [libc] }),
      optional: true,
      ...(system && { os: [system] }),
    };
    added++;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} packages of other platforms added`);
