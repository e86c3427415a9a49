import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { readFile, rename, rm, writeFile } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { stringify } from "csv-stringify/sync";
import { strToU8, zipSync } from "fflate";
import type { BundleMapping, PinTagger } from "@/intake/formats/tables/read-bundle";
import { pinColumnOf } from "@/intake/formats/tables/read-bundle";
import type { BundleFile } from "@/intake/formats/tables/read-table";
import { cellsOfTable } from "@/intake/formats/tables/read-table";
import { zipFiles } from "@/intake/formats/tables/bundle-files";

/** What a bundle was before its PINs were taken out of it: hashes of the whole and of each file, for whoever compares. */
export interface OriginalHashes {
  readonly bundle: string;
  readonly files: Readonly<Record<string, string>>;
}

const originalsFile = (path: string): string => `${path}.originals`;

/** The hashes that a bundle had before its PINs were taken out; undefined where it had none. */
export async function originalHashes(path: string): Promise<OriginalHashes | undefined> {
  const text = await readFile(originalsFile(path), "utf8").catch(() => undefined);
  return text === undefined ? undefined : (JSON.parse(text) as OriginalHashes);
}

export const dropOriginalHashes = (path: string): Promise<void> => rm(originalsFile(path), { force: true });

async function bytesOf(file: BundleFile): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of (await file.open()) as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

const sha256 = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

/**
 * Writes a waiting bundle anew with tags in the place of its PINs, so that no PIN lies on the disk between being shown and being
 * stored. A bundle without a column of PINs stays as it is.
 */
export async function takeOutPins(path: string, mapping: BundleMapping, tagOf: PinTagger): Promise<void> {
  const { files, close } = await zipFiles(path);
  try {
    const columns = new Map<BundleFile, number>();
    for (const file of files) {
      const column = await pinColumnOf(file, mapping);
      if (column !== undefined) columns.set(file, column);
    }
    if (columns.size === 0) return;
    const before = await originalHashes(path);
    const hash = createHash("sha256");
    await pipeline(createReadStream(path), hash);
    const hashes: Record<string, string> = {};
    const contents: Record<string, Uint8Array> = {};
    for (const file of files) {
      const bytes = await bytesOf(file);
      hashes[file.name] = sha256(bytes);
      const column = columns.get(file);
      contents[file.name] = column === undefined ? bytes : strToU8(await withTags(file, column, tagOf));
    }
    const unfinished = `${path}.unfinished`;
    await writeFile(unfinished, zipSync(contents), { mode: 0o600 });
    if (!before) await writeFile(originalsFile(path), JSON.stringify({ bundle: hash.digest("hex"), files: hashes } satisfies OriginalHashes), { mode: 0o600 });
    await rename(unfinished, path);
  } finally {
    close();
  }
}

/** A table with its column of PINs turned into one of tags, also of those that mean that there is none: reading sorts these out. */
async function withTags(file: BundleFile, column: number, tagOf: PinTagger): Promise<string> {
  const rows: string[][] = [];
  for await (const cells of cellsOfTable(file))
    rows.push(cells.map((cell, at) => (rows.length === 0 ? (at === column ? "pinTag" : cell) : at !== column ? cell : cell === "" ? "" : tagOf(cell))));
  return stringify(rows, { record_delimiter: "windows" });
}
