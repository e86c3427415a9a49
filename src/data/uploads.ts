import { randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, readdir, readFile, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { TooLarge } from "@/operations/ports/source-files";
import type { Uploads, WaitingFile } from "@/operations/ports/source-files";
import { refusedRowsFile, sourceFiles } from "./source-files";

const forgottenAfterMs = 86_400_000;
const tokenForm = /^[A-Za-z0-9_-]{24}$/;

/** Lets so many bytes pass, and throws at the first one more. */
async function* atMost(bytes: number, body: ReadableStream<Uint8Array>, tooLarge: () => Error): AsyncGenerator<Uint8Array> {
  let seen = 0;
  for await (const chunk of body) {
    seen += chunk.byteLength;
    if (seen > bytes) throw tooLarge();
    yield chunk;
  }
}

async function sweep(folder: string): Promise<void> {
  for (const file of await readdir(folder)) {
    const { mtimeMs } = await stat(path.join(folder, file)).catch(() => ({ mtimeMs: Infinity }));
    if (Date.now() - mtimeMs > forgottenAfterMs) await rm(path.join(folder, file), { force: true });
  }
}

/** Uploads in a folder of the data folder, none larger than so many megabytes. */
export function uploads(dataFolder: string, megabytes: number): Uploads {
  const folder = path.join(dataFolder, "uploads");
  const drop = async ({ path: file }: Pick<WaitingFile, "path">): Promise<void> => {
    await sourceFiles.drop(file);
    await rm(`${file}.name`, { force: true });
  };
  return {
    keep: async (body, name) => {
      await mkdir(folder, { recursive: true, mode: 0o700 });
      await sweep(folder);
      const token = randomBytes(18).toString("base64url");
      const file = path.join(folder, token);
      try {
        await pipeline(Readable.from(atMost(megabytes * 2 ** 20, body, () => new TooLarge(name, megabytes))), createWriteStream(file, { mode: 0o600 }));
      } catch (error) {
        await drop({ path: file });
        throw error;
      }
      // Its name is kept for what it says of the kind of file.
      await writeFile(`${file}.name`, name, { mode: 0o600 });
      return { token, path: file, name };
    },
    find: async (token) => {
      if (!tokenForm.test(token)) return undefined;
      const file = path.join(folder, token);
      const name = await readFile(`${file}.name`, "utf8").catch(() => undefined);
      return name === undefined ? undefined : { token, path: file, name };
    },
    refusedRows: ({ path: file }) => readFile(refusedRowsFile(file), "utf8").catch(() => undefined),
    drop,
  };
}
