import { createReadStream } from "node:fs";
import { readdir } from "node:fs/promises";
import path from "node:path";
import type { Readable } from "node:stream";
import yauzl from "yauzl";
import type { Entry, ZipFile } from "yauzl";
import type { BundleFile } from "./read-table";

/** A bundle that cannot be opened, in words for a person. */
export class BundleError extends Error {}

/** What all files of a bundle may come to, and how far one may swell: a small ZIP must not fill the disk or the memory. */
const mostBytes = 4 * 1024 ** 3;
const mostSwelling = 400;
const swellingFrom = 16 * 1024 ** 2;
/** A bundle has a file for each table, and perhaps some beside; a ZIP with more members is no bundle. */
const mostMembers = 1000;

const isTable = (name: string): boolean => /\.csv$/i.test(name) && !/(^|\/)[._]/.test(name);

const sizes = (bytes: number): string => (bytes >= 1024 ** 3 ? `${(bytes / 1024 ** 3).toFixed(1)} GiB` : `${Math.round(bytes / 1024 ** 2)} MiB`);

const opened = (file: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    // Names that lead out of the folder, and sizes other than those stated, are refused by the library.
    yauzl.open(file, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, zip) => (error ? reject(error) : resolve(zip))),
  );

const entriesOf = (zip: ZipFile): Promise<Entry[]> =>
  new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    zip.on("entry", (entry: Entry) => {
      entries.push(entry);
      if (entries.length > mostMembers)
        return reject(
          new BundleError(
            `It has more than ${mostMembers.toLocaleString("en-GB")} members, which is the limit of a ZIP; expected one CSV file for each table.`,
          ),
        );
      zip.readEntry();
    });
    zip.once("end", () => resolve(entries));
    zip.once("error", reject);
    zip.readEntry();
  });

/** The CSV files of a ZIP; each is streamed when it is opened. Refuses names that lead elsewhere and what would swell without measure. */
export async function zipFiles(file: string): Promise<{ readonly files: BundleFile[]; readonly close: () => void }> {
  let zip: ZipFile | undefined;
  try {
    const source = (zip = await opened(file));
    const entries = (await entriesOf(source)).filter(({ fileName }) => isTable(fileName));
    const total = entries.reduce((sum, { uncompressedSize }) => sum + uncompressedSize, 0);
    if (total > mostBytes) throw new BundleError(`Unpacked it would come to ${sizes(total)}; expected at most ${sizes(mostBytes)}.`);
    const packed = entries.reduce((sum, { compressedSize }) => sum + compressedSize, 0);
    if (total > swellingFrom && total > packed * mostSwelling)
      throw new BundleError(
        `Its files would swell from ${packed.toLocaleString("en-GB")} bytes to ${sizes(total)}; expected at most ${mostSwelling} times as much.`,
      );
    for (const { fileName, uncompressedSize, compressedSize } of entries)
      if (uncompressedSize > swellingFrom && uncompressedSize > compressedSize * mostSwelling)
        throw new BundleError(
          `${fileName} would swell from ${compressedSize.toLocaleString("en-GB")} bytes to ${sizes(uncompressedSize)}; expected at most ${mostSwelling} times as much.`,
        );
    if (entries.length === 0) throw new BundleError("There is no CSV file in it; expected one for each table, such as cardholders.csv.");
    return {
      files: entries.map((entry) => ({
        name: entry.fileName,
        open: () => new Promise<Readable>((resolve, reject) => source.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)))),
      })),
      close: () => source.close(),
    };
  } catch (error) {
    zip?.close();
    if (error instanceof BundleError) throw error;
    throw new BundleError(`This ZIP cannot be opened (${(error as Error).message}).`);
  }
}

/** The CSV files of a folder. */
export async function folderFiles(folder: string): Promise<BundleFile[]> {
  const names = (await readdir(folder)).filter(isTable).sort();
  if (names.length === 0) throw new BundleError(`There is no CSV file in ${folder}; expected one for each table, such as cardholders.csv.`);
  return names.map((name) => ({ name, open: () => Promise.resolve(createReadStream(path.join(folder, name))) }));
}
