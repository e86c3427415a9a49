import { createReadStream } from "node:fs";
import { readdir, readFile } from "node:fs/promises";
import path from "node:path";
import { PassThrough, Transform } from "node:stream";
import type { Readable } from "node:stream";
import { createGunzip } from "node:zlib";
import yauzl from "yauzl";
import type { Entry, ZipFile } from "yauzl";
import type { IntakeLimits } from "../limits";
import { BundleError } from "./bundle-error";
import type { BundleFile } from "./bundle-file";
import { isWorkbook, workbookFiles } from "./workbook";

/** What swells to no more than this does no harm. */
const swellingFrom = 16 * 1024 ** 2;

const isTable = (name: string): boolean => /\.(csv|tsv|txt|tab)(\.gz)?$/i.test(name);
/** Files that systems leave beside others and nobody sent. */
const isHiddenFile = (name: string): boolean => /(^|\/)[._]/.test(name) || name.endsWith("/") || /(^|\/)(Thumbs\.db|desktop\.ini)$/i.test(name);

const sizes = (bytes: number): string => (bytes >= 1024 ** 3 ? `${(bytes / 1024 ** 3).toFixed(1)} GiB` : `${Math.round(bytes / 1024 ** 2)} MiB`);

/** A file of a bundle that is not read, and why. */
export interface UnreadFile {
  readonly name: string;
  readonly why: string;
}

/** The files of a source, each of which is read, or named as not read. */
export interface SourceFiles {
  readonly files: BundleFile[];
  readonly unread: readonly UnreadFile[];
  readonly close: () => void;
}

const nothingToClose = (): void => undefined;
const noTable = "it is neither a table (.csv, .tsv, .txt, also with .gz) nor a workbook (.xlsx, .ods, .xls)";

/** The text of a file that may be packed; one that swells beyond measure ends with an error that says so. */
export function unpacked(name: string, stream: Readable, limits: IntakeLimits): Readable {
  if (!/\.gz$/i.test(name)) return stream;
  let [packed, total] = [0, 0];
  const counter = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      packed += chunk.length;
      done(null, chunk);
    },
  });
  const limit = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      total += chunk.length;
      if (total > limits.unpackedBytes) done(new BundleError(`${name} would come to more than ${sizes(limits.unpackedBytes)} unpacked, which is the limit.`));
      else if (total > swellingFrom && total > packed * limits.swelling)
        done(new BundleError(`${name} would swell to more than ${limits.swelling} times its size, which is the limit.`));
      else done(null, chunk);
    },
  });
  const gunzip = createGunzip();
  const out = new PassThrough();
  const fail = (error: Error): void =>
    void out.destroy(error instanceof BundleError ? error : new BundleError(`${name} cannot be unpacked (${error.message}).`));
  for (const one of [stream, counter, gunzip, limit]) one.once("error", fail);
  out.once("close", () => stream.destroy());
  return stream.pipe(counter).pipe(gunzip).pipe(limit).pipe(out);
}

/** A file on the disk as a table. */
export const tableFile = (name: string, place: string, limits: IntakeLimits): BundleFile => ({
  name,
  open: () => Promise.resolve(unpacked(name, createReadStream(place), limits)),
});

const opened = (file: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    // Names that lead out of the folder, and sizes other than those stated, are refused by the library.
    yauzl.open(file, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, zip) => (error ? reject(error) : resolve(zip))),
  );

const entriesOf = (zip: ZipFile, { members }: IntakeLimits): Promise<Entry[]> =>
  new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    zip.on("entry", (entry: Entry) => {
      entries.push(entry);
      if (entries.length > members)
        return reject(
          new BundleError(`It has more than ${members.toLocaleString("en-GB")} members, which is the limit of a ZIP; expected one CSV file for each table.`),
        );
      zip.readEntry();
    });
    zip.once("end", () => resolve(entries));
    zip.once("error", reject);
    zip.readEntry();
  });

async function bytesOf(stream: Readable): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of stream as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** The tables of a ZIP; each is streamed when it is opened. Refuses names that lead elsewhere and what would swell without measure. */
export async function zipFiles(file: string, limits: IntakeLimits): Promise<SourceFiles> {
  let zip: ZipFile | undefined;
  try {
    const source = (zip = await opened(file));
    const all = (await entriesOf(source, limits)).filter(({ fileName }) => !isHiddenFile(fileName));
    const entries = all.filter(({ fileName }) => isTable(fileName) || isWorkbook(fileName));
    const total = entries.reduce((sum, { uncompressedSize }) => sum + uncompressedSize, 0);
    if (total > limits.unpackedBytes) throw new BundleError(`Unpacked it would come to ${sizes(total)}; expected at most ${sizes(limits.unpackedBytes)}.`);
    const packed = entries.reduce((sum, { compressedSize }) => sum + compressedSize, 0);
    if (total > swellingFrom && total > packed * limits.swelling)
      throw new BundleError(
        `Its files would swell from ${packed.toLocaleString("en-GB")} bytes to ${sizes(total)}; expected at most ${limits.swelling} times as much.`,
      );
    for (const { fileName, uncompressedSize, compressedSize } of entries)
      if (uncompressedSize > swellingFrom && uncompressedSize > compressedSize * limits.swelling)
        throw new BundleError(
          `${fileName} would swell from ${compressedSize.toLocaleString("en-GB")} bytes to ${sizes(uncompressedSize)}; expected at most ${limits.swelling} times as much.`,
        );
    if (entries.length === 0) throw new BundleError("There is no CSV file in it; expected one for each table, such as cardholders.csv.");
    const streamOf = (entry: Entry): Promise<Readable> =>
      new Promise((resolve, reject) => source.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))));
    const files: BundleFile[] = [];
    for (const entry of entries)
      if (isWorkbook(entry.fileName)) files.push(...workbookFiles(await bytesOf(await streamOf(entry)), limits));
      else files.push({ name: entry.fileName, open: async () => unpacked(entry.fileName, await streamOf(entry), limits) });
    return {
      files,
      unread: all.filter((entry) => !entries.includes(entry)).map(({ fileName }) => ({ name: fileName, why: noTable })),
      close: () => source.close(),
    };
  } catch (error) {
    zip?.close();
    if (error instanceof BundleError) throw error;
    throw new BundleError(`This ZIP cannot be opened (${(error as Error).message}).`);
  }
}

/** The tables of a folder and of those in it. */
export async function folderFiles(folder: string, limits: IntakeLimits): Promise<SourceFiles> {
  const names = (await readdir(folder, { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(folder, path.join(entry.parentPath, entry.name)).split(path.sep).join("/"))
    .filter((name) => !isHiddenFile(name))
    .sort();
  return namedFiles(
    names.map((name) => ({ name, place: path.join(folder, name) })),
    folder,
    limits,
  );
}

/** Files on the disk by the names under which they were brought. */
export async function namedFiles(
  named: readonly { readonly name: string; readonly place: string }[],
  whole: string,
  limits: IntakeLimits,
): Promise<SourceFiles> {
  if (named.length > limits.members)
    throw new BundleError(`There are more than ${limits.members.toLocaleString("en-GB")} files in ${whole}, which is the limit of one intake.`);
  const files: BundleFile[] = [];
  for (const { name, place } of named)
    if (isWorkbook(name)) files.push(...workbookFiles(await readFile(place), limits));
    else if (isTable(name)) files.push(tableFile(name, place, limits));
  if (files.length === 0) throw new BundleError(`There is no CSV file in ${whole}; expected one for each table, such as cardholders.csv.`);
  return { files, unread: named.filter(({ name }) => !isTable(name) && !isWorkbook(name)).map(({ name }) => ({ name, why: noTable })), close: nothingToClose };
}
