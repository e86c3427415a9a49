import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";

/** Where a key of this installation lies: beside the database, and in no backup of it. */
export const keyFile = (dataFolder: string, name: string): string => path.join(dataFolder, name);

/** A key of this installation, 64 hexadecimal digits; it is made when it is first needed. */
export function ownKey(dataFolder: string, name: string): string {
  mkdirSync(dataFolder, { recursive: true });
  const file = keyFile(dataFolder, name);
  // Two that need the key for the first time at once: the one that comes second reads the first one's.
  if (!existsSync(file))
    try {
      writeFileSync(file, randomBytes(32).toString("hex"), { mode: 0o600, flag: "wx" });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
    }
  return readFileSync(file, "utf8").trim();
}
