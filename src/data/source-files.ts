import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import type { OriginalHashes, SourceFiles } from "@/operations/ports/source-files";

/** What is kept beside a file that waits. */
export const refusedRowsFile = (path: string): string => `${path}.refused.csv`;
const originalsFile = (path: string): string => `${path}.originals`;

const ownerOnly = { mode: 0o600 } as const;

async function fileHash(path: string): Promise<string> {
  const hash = createHash("sha256");
  await pipeline(createReadStream(path), hash);
  return hash.digest("hex");
}

/** Files on the disk. */
export const sourceFiles: SourceFiles = {
  open: async (path, name) => {
    const found = await stat(path);
    return {
      name,
      path,
      isFolder: found.isDirectory(),
      bytes: found.size,
      text: () => readFile(path, "utf8"),
      stream: () => createReadStream(path),
      hash: () => fileHash(path),
    };
  },
  keepRefusedRows: async ({ path, isFolder }, csv) => {
    // Beside a folder that somebody names nothing is left; one of uploads stands among its like.
    if (!isFolder || (await stat(`${path}.name`).catch(() => undefined))) await writeFile(refusedRowsFile(path), csv, ownerOnly);
  },
  originalHashes: async ({ path }) => {
    const text = await readFile(originalsFile(path), "utf8").catch(() => undefined);
    return text === undefined ? undefined : (JSON.parse(text) as OriginalHashes);
  },
  replace: async ({ path }, bytes, originals) => {
    const unfinished = `${path}.unfinished`;
    await writeFile(unfinished, bytes, ownerOnly);
    // Those of a bundle that was replaced before stay: they are what its source sent.
    await writeFile(originalsFile(path), JSON.stringify(originals), { ...ownerOnly, flag: "wx" }).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== "EEXIST") throw error;
    });
    await rm(path, { force: true, recursive: true });
    await rename(unfinished, path);
  },
  drop: async (path) => {
    for (const file of [path, refusedRowsFile(path), originalsFile(path)]) await rm(file, { force: true, recursive: true });
  },
};
