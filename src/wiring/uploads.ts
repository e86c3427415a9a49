import { randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, readdir, readFile, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream as NodeReadableStream } from "node:stream/web";
import { dataFolder, uploadMegabytes } from "./environment";
import { refusedRowsFile } from "./intake-bundle";
import { dropOriginalHashes } from "./without-pins";

/** Uploaded files wait here between being shown and being stored; a forgotten one goes after a day. */
const folder = (): string => path.join(dataFolder(), "uploads");
const forgottenAfterMs = 86_400_000;
const tokenForm = /^[A-Za-z0-9_-]{24}$/;

export interface WaitingFile {
  readonly token: string;
  readonly path: string;
  readonly name: string;
}

async function sweep(): Promise<void> {
  const files = await readdir(folder());
  for (const file of files) {
    const { mtimeMs } = await stat(path.join(folder(), file)).catch(() => ({ mtimeMs: Infinity }));
    if (Date.now() - mtimeMs > forgottenAfterMs) await rm(path.join(folder(), file), { force: true });
  }
}

/** Thrown while a file is received that is larger than may be uploaded. */
export class TooLarge extends Error {
  constructor(name: string, megabytes: number) {
    super(`${name} is larger than ${megabytes.toLocaleString("en-GB")} MB, the largest file that may be uploaded here; nothing was kept. A larger one is taken in from the command line.`);
  }
}

/** Lets so many bytes pass, and throws at the first one more. */
async function* atMost(bytes: number, body: AsyncIterable<Uint8Array>, tooLarge: () => Error): AsyncGenerator<Uint8Array> {
  let seen = 0;
  for await (const chunk of body) {
    seen += chunk.byteLength;
    if (seen > bytes) throw tooLarge();
    yield chunk;
  }
}

/** Streams an upload to disk; its name is kept for what it says of the kind of file. */
export async function keepUpload(body: ReadableStream<Uint8Array>, name: string): Promise<WaitingFile> {
  await mkdir(folder(), { recursive: true, mode: 0o700 });
  await sweep();
  const token = randomBytes(18).toString("base64url");
  const file = path.join(folder(), token);
  try {
    const megabytes = uploadMegabytes();
    await pipeline(atMost(megabytes * 2 ** 20, Readable.fromWeb(body as NodeReadableStream<Uint8Array>) as AsyncIterable<Uint8Array>, () => new TooLarge(name, megabytes)), createWriteStream(file, { mode: 0o600 }));
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
  await writeFile(`${file}.name`, name, { mode: 0o600 });
  return { token, path: file, name };
}

/** A file that waits; undefined where there is none by this token. */
export async function waitingFile(token: string): Promise<WaitingFile | undefined> {
  if (!tokenForm.test(token)) return undefined;
  const file = path.join(folder(), token);
  const name = await readFile(`${file}.name`, "utf8").catch(() => undefined);
  return name === undefined ? undefined : { token, path: file, name };
}

export async function dropUpload({ path: file }: WaitingFile): Promise<void> {
  await rm(file, { force: true });
  await rm(`${file}.name`, { force: true });
  await rm(refusedRowsFile(file), { force: true });
  await dropOriginalHashes(file);
}
