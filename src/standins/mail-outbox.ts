import { readdir, readFile } from "node:fs/promises";
import path from "node:path";
import type { Outbox, TakenMail } from "@/operations/ports/mail";

/** What the files of the stand-in mail server end with. */
export const mailEnding = ".json";

/** What the stand-in took, the latest first. */
export const outboxOf = (folder: string): Outbox => ({
  list: async (limit) => {
    const names = await readdir(folder).catch(() => []);
    const latest = names
      .filter((name) => name.endsWith(mailEnding))
      .sort()
      .reverse()
      .slice(0, limit);
    return Promise.all(latest.map(async (name) => JSON.parse(await readFile(path.join(folder, name), "utf8")) as TakenMail));
  },
});
