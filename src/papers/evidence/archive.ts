import { unzipSync, zipSync } from "fflate";

/** Files as one ZIP, all of one date, in the order of their names: the same files give the same bytes. */
export function archive(files: ReadonlyMap<string, Uint8Array>, at: string): Uint8Array {
  const sorted = [...files].sort(([a], [b]) => (a < b ? -1 : 1));
  return zipSync(Object.fromEntries(sorted), { mtime: new Date(at), level: 6 });
}

/** So much may come out of an archive, in so many files. */
const limits = { bytes: 4 * 1024 ** 3 - 1, files: 100_000 };

/** Thrown where an archive is none, or holds more than is read. */
export class ArchiveError extends Error {}

/** The files of a ZIP by their names; refused where it is none, or more would come out of it than is read. */
export function filesOfArchive(bytes: Uint8Array): ReadonlyMap<string, Uint8Array> {
  let [total, count] = [0, 0];
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        total += originalSize;
        count += 1;
        if (total > limits.bytes || count > limits.files)
          throw new ArchiveError(`More would come out of this archive than is read: at most ${limits.files.toLocaleString("en-GB")} files of 4 GiB together.`);
        return !name.endsWith("/");
      },
    });
    return new Map(Object.entries(files));
  } catch (error) {
    if (error instanceof ArchiveError) throw error;
    throw new ArchiveError(`This is no ZIP archive that can be read: ${error instanceof Error ? error.message : "it is broken"}.`);
  }
}
