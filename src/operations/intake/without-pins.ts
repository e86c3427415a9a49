import { createHash } from "node:crypto";
import { stringify } from "csv-stringify/sync";
import { strToU8, zipSync } from "fflate";
import iconv from "iconv-lite";
import type { BundleFile } from "@/intake/formats/tables/bundle-file";
import { tagMark, tagOrTagged } from "@/intake/formats/tables/read-bundle";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { rawRowsOf } from "@/intake/formats/tables/source-table";
import { isSecretColumn } from "@/intake/profile/looked-at";
import { profileOfTable } from "@/intake/profile/read-source";
import type { SourceProfile } from "@/intake/profile/source-profile";
import type { SourceFile } from "../ports/source-files";
import type { Services } from "../services";
import { kindOfFile, openSource } from "./open-source";
import { openTables } from "./read-tables";

async function bytesOf(file: BundleFile): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of (await file.open()) as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

const sha256 = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

/** The places of the columns that hold PINs, by what they are called, or since the profile reads them as such. */
function pinColumnsOf(table: SourceTable, profile: SourceProfile | undefined): number[] {
  const said = (profile && profileOfTable(profile, table)?.makes.flatMap(({ fields }) => fields.pin?.columns ?? [])) ?? [];
  return table.headers.flatMap((header, at) => (isSecretColumn(header) || said.includes(header) ? [at] : []));
}

/**
 * Writes a waiting file anew with tags in the place of its PINs, so that no PIN lies on the disk between being shown and being stored. A file without a
 * column of PINs stays as it is; a workbook with one waits as the tables of its sheets.
 */
export async function takeOutPins(
  { files: kept, tagOfPin, limits }: Pick<Services, "files" | "tagOfPin" | "limits">,
  source: SourceFile,
  profile: SourceProfile | undefined,
): Promise<void> {
  const { files, close } = await openSource(source, limits);
  try {
    const tables = await openTables(files, profile, limits);
    const columns = new Map(tables.map((table) => [table, pinColumnsOf(table, profile)]));
    if ([...columns.values()].every((places) => places.length === 0)) return;
    const hashes: Record<string, string> = {};
    const contents: Record<string, Uint8Array> = {};
    for (const table of tables) {
      const places = columns.get(table) ?? [];
      const bytes = await bytesOf(table.file);
      hashes[table.file.name] = sha256(bytes);
      contents[table.file.name] = places.length === 0 ? bytes : await withTags(table, places, tagOfPin);
    }
    const [only] = Object.values(contents);
    const isOneText = (await kindOfFile(source)) === "text" && only !== undefined;
    await kept.replace(source, isOneText ? only : zipSync(contents), { bundle: await source.hash(), files: hashes });
  } finally {
    close();
  }
}

/** A table with its columns of PINs turned into tags, also of those that mean that there is none: reading sorts these out. All else stays, line by line. */
async function withTags(table: SourceTable, places: readonly number[], tagOf: (pin: string) => string): Promise<Uint8Array> {
  const { skip, header, encoding, delimiter, quote } = table.form;
  const above = header ? skip + 1 : skip;
  const rows: string[][] = [];
  let filled = 0;
  for await (const cells of rawRowsOf(table)) {
    const isData = cells.some((cell) => cell.trim() !== "") && filled++ >= above;
    rows.push(cells.map((cell, at) => (isData && places.includes(at) && cell.trim() !== "" ? `${tagMark}${tagOrTagged(cell.trim(), tagOf)}` : cell)));
  }
  const text = stringify(rows, { record_delimiter: "windows", quoted_match: /[\r\n]/, delimiter, ...(quote !== "" && { quote }) });
  return table.isSheet ? strToU8(text) : iconv.encode(text, encoding, { addBOM: encoding.startsWith("utf-16") });
}
