// `npm run --silent nomade -- …`: the command line. Starts the database where a command needs it, and stops what it started.
import { settings, startDatabase } from "./database.mjs";
import { ensureDebianPackages, ensureNodeModules, ensurePrograms, root, runKept, say } from "./prepare.mjs";

/** Commands that work on files alone. */
const withoutDatabase = new Set([undefined, "help", "--help", "resolve", "ask", "check", "compare", "withdraw"]);

/** Commands that need all rights in the database. */
const asOwner = new Set(["migrate", "backup", "restore"]);

const args = process.argv.slice(2);
let status = 1;
let database;
try {
  ensureNodeModules();
  await ensurePrograms();
  let env = {};
  const nomade = (given, environment) =>
    runKept(process.execPath, ["--enable-source-maps", "--max-old-space-size=8192", "--max-semi-space-size=64", `${root}/dist/nomade.mjs`, ...given], {
      stdio: "inherit",
      env: { ...process.env, ...environment },
    });
  // A pack is verified by itself.
  if (!withoutDatabase.has(args[0]) && !(args[0] === "verify" && args.length > 1)) {
    ensureDebianPackages({ mariadbd: "mariadb-server", "mariadb-install-db": "mariadb-server" });
    database = await startDatabase({ folder: settings.folder, port: settings.databasePort });
    env = asOwner.has(args[0]) ? database.env.owner : database.env.application;
    if (database.started && args[0] !== "migrate") await nomade(["migrate"], database.env.owner);
  }
  status = await nomade(args, env);
} catch (error) {
  say(error.message);
}
await database?.stop();
process.exit(status);
