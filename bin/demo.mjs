// `npm run demo -- …`: writes the demo institute as a facility document and its events as CSV.
import { ensureNodeModules, ensurePrograms, root } from "./prepare.mjs";
import { spawnSync } from "node:child_process";

ensureNodeModules();
await ensurePrograms();
process.exit(
  spawnSync(process.execPath, ["--enable-source-maps", `${root}/dist/demo.mjs`, ...process.argv.slice(2)], { stdio: "inherit" }).status ?? 1,
);
