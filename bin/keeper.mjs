// Ends what a program started when that program is gone, however it went: `kill -9` leaves nobody to tidy up.
// Reads lines `+PID` and `-PID` from its input, which ends with the program; those still named then are ended.
import { setTimeout as wait } from "node:timers/promises";

const gentlyForMs = 15_000;
const pids = new Set();

const send = (pid, signal) => {
  try {
    process.kill(pid, signal);
    return true;
  } catch {
    return false;
  }
};

let text = "";
process.stdin.setEncoding("utf8");
process.stdin.on("data", (chunk) => {
  const lines = (text + chunk).split("\n");
  text = lines.pop() ?? "";
  for (const line of lines) {
    const pid = Number(line.slice(1));
    if (line.startsWith("+")) pids.add(pid);
    else pids.delete(pid);
  }
});
process.stdin.once("end", async () => {
  const left = [...pids].filter((pid) => send(pid, "SIGTERM"));
  for (const began = Date.now(); Date.now() - began < gentlyForMs && left.some((pid) => send(pid, 0)); ) await wait(100);
  for (const pid of left) send(pid, "SIGKILL");
});
