import { createHash } from "node:crypto";
import { stringify } from "csv-stringify/sync";
import { strToU8, zipSync } from "fflate";
import { zipFiles } from "@/intake/formats/tables/bundle-files";
import type { BundleMapping, PinTagger } from "@/intake/formats/tables/read-bundle";
import { pinColumnOf } from "@/intake/formats/tables/read-bundle";
import type { BundleFile } from "@/intake/formats/tables/read-table";
import { cellsOfTable } from "@/intake/formats/tables/read-table";
import type { SourceFile } from "../ports/source-files";
import type { Services } from "../services";

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
export async function takeOutPins({ files: kept, tagOfPin }: Pick<Services, "files" | "tagOfPin">, bundle: SourceFile, mapping: BundleMapping): Promise<void> {
  const { files, close } = await zipFiles(bundle.path);
  try {
    const columns = new Map<BundleFile, number>();
    for (const file of files) {
      const column = await pinColumnOf(file, mapping);
      if (column !== undefined) columns.set(file, column);
    }
    if (columns.size === 0) return;
    const hashes: Record<string, string> = {};
    const contents: Record<string, Uint8Array> = {};
    for (const file of files) {
      const bytes = await bytesOf(file);
      hashes[file.name] = sha256(bytes);
      const column = columns.get(file);
      contents[file.name] = column === undefined ? bytes : strToU8(await withTags(file, column, tagOfPin));
    }
    await kept.replace(bundle, zipSync(contents), { bundle: await bundle.hash(), files: hashes });
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
