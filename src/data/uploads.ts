import { randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { cp, mkdir, readdir, readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { TooLarge } from "@/operations/ports/source-files";
import type { Uploads, WaitingFile } from "@/operations/ports/source-files";
import { refusedRowsFile, sourceFiles } from "./source-files";

const forgottenAfterMs = 86_400_000;
/** What marks a file as one that nobody uploaded and that waits for somebody. */
const arrivedEnding = ".arrived";
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
  const files = await readdir(folder);
  const arrived = new Set(files.filter((file) => file.endsWith(arrivedEnding)).map((file) => file.slice(0, -arrivedEnding.length)));
  for (const file of files) {
    if (arrived.has(file.split(".")[0] ?? "")) continue;
    const { mtimeMs } = await stat(path.join(folder, file)).catch(() => ({ mtimeMs: Infinity }));
    if (Date.now() - mtimeMs > forgottenAfterMs) await rm(path.join(folder, file), { force: true, recursive: true });
  }
}

// eslint-disable-next-line no-control-regex -- these must not stand in a name
const notInNames = /[/\\\u0000-\u001f]+/g;

/** A name under which a file can lie in a folder, whatever it was called: nothing that leads elsewhere, nothing that is hidden or there already. */
function freeName(name: string, taken: ReadonlySet<string>): string {
  const plain = name.replace(notInNames, "_").replace(/^\.+/, "_").slice(-180) || "file";
  if (!taken.has(plain)) return plain;
  for (let number = 2; ; number++) {
    const other = plain.replace(/(\.[^.]*)?$/, ` (${number})$1`);
    if (!taken.has(other)) return other;
  }
}

/** Uploads in a folder of the data folder, none larger than so many megabytes. */
export function uploads(dataFolder: string, megabytes: number): Uploads {
  const folder = path.join(dataFolder, "uploads");
  const drop = async ({ path: file }: Pick<WaitingFile, "path">): Promise<void> => {
    await sourceFiles.drop(file);
    for (const ending of [".name", arrivedEnding]) await rm(`${file}${ending}`, { force: true });
  };
  /** A place for what arrived by itself, under a new token. */
  const arrivedAt = async (name: string): Promise<WaitingFile> => {
    await mkdir(folder, { recursive: true, mode: 0o700 });
    const token = randomBytes(18).toString("base64url");
    const file = path.join(folder, token);
    for (const ending of [".name", arrivedEnding]) await writeFile(`${file}${ending}`, name, { mode: 0o600 });
    return { token, path: file, name };
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
    keepWith: async (token, body, name) => {
      await mkdir(folder, { recursive: true, mode: 0o700 });
      if (token === undefined) await sweep(folder);
      else if (!tokenForm.test(token)) throw new Error("This is the token of no upload.");
      const batch = token ?? randomBytes(18).toString("base64url");
      const place = path.join(folder, batch);
      await mkdir(place, { recursive: true, mode: 0o700 });
      const before = await readdir(place);
      let bytes = 0;
      for (const one of before) bytes += (await stat(path.join(place, one))).size;
      const own = freeName(name, new Set(before));
      try {
        await pipeline(
          Readable.from(atMost(megabytes * 2 ** 20 - bytes, body, () => new TooLarge(name, megabytes))),
          createWriteStream(path.join(place, own), { mode: 0o600 }),
        );
      } catch (error) {
        await drop({ path: place });
        throw error;
      }
      const together = before.length === 0 ? name : `${before.length + 1} files`;
      await writeFile(`${place}.name`, together, { mode: 0o600 });
      return { token: batch, path: place, name: together };
    },
    adopt: async (from, name) => {
      const waiting = await arrivedAt(name);
      try {
        await rename(from, waiting.path);
      } catch (error) {
        if (!(error instanceof Error && "code" in error && error.code === "EXDEV")) throw error;
        // Another disk: it is copied, and goes there only once it is here.
        await cp(from, waiting.path, { recursive: true });
        await rm(from, { recursive: true, force: true });
      }
      return waiting;
    },
    keepTexts: async (name, texts) => {
      const waiting = await arrivedAt(name);
      await mkdir(waiting.path, { mode: 0o700 });
      for (const { name: file, text } of texts) await writeFile(path.join(waiting.path, file), text, { mode: 0o600 });
      return waiting;
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
