import { readFileSync } from "node:fs";

/** Whether a process runs; what has ended and was not yet taken note of does not. */
export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return !/^\d+ \(.*\) Z/.test(readFileSync(`/proc/${pid}/stat`, "utf8"));
  } catch {
    return false;
  }
}
