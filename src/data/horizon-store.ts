import { createHash, randomBytes } from "node:crypto";
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import type { FrozenHorizon } from "@/core/table/horizon";
import type { HorizonStore } from "@/operations/ports/horizons";

/** So many are kept, the last that were written or read. */
const horizonsKept = 3;

const digestBytes = 32;
/** Bytes of an item of each column. */
const itemBytes = [4, 4, 2, 4, 2, 4, 4] as const;

/** Doors are kept as 16 bits: a register that has more of them is not kept. */
const fits = ({ rows }: FrozenHorizon): boolean => rows.doors.every((door) => door < 65_536);

const columnsOf = ({ timelines, rows, rowOfCredential }: FrozenHorizon): readonly (Int32Array | Uint16Array)[] => [
  timelines.starts,
  timelines.hashes,
  timelines.steps,
  rows.starts,
  Uint16Array.from(rows.doors),
  rows.times,
  rowOfCredential,
];

const sha256 = (...parts: readonly Uint8Array[]): Buffer => {
  const hash = createHash("sha256");
  for (const part of parts) hash.update(part);
  return hash.digest();
};

const bytesOf = ({ buffer, byteOffset, byteLength }: Int32Array | Uint16Array | Float64Array): Uint8Array => new Uint8Array(buffer, byteOffset, byteLength);

/**
 * Horizons in files of the data folder, one a snapshot: the SHA-256 of all that follows; the digest of the program that wrote it; the origin of the timelines
 * and how long each column is; the columns. Written whole or not at all. Whatever does not fit is worked out anew and written over.
 */
export function horizonStore(dataFolder: string, program: string): HorizonStore {
  const folder = path.join(dataFolder, "horizons");
  const fileOf = (hash: string): string => path.join(folder, `${hash}.bin`);
  const programDigest = sha256(Buffer.from(program));

  const sweep = async (): Promise<void> => {
    const files = (await readdir(folder)).map((name) => path.join(folder, name));
    const dated = await Promise.all(files.map(async (file) => ({ file, at: (await stat(file).catch(() => undefined))?.mtimeMs ?? 0 })));
    for (const { file } of dated.sort((a, b) => b.at - a.at).slice(horizonsKept)) await rm(file, { force: true });
  };

  return {
    get: async (hash) => {
      const bytes = await readFile(fileOf(hash)).catch(() => undefined);
      const headEnd = 2 * digestBytes + (itemBytes.length + 1) * 8;
      if (!bytes || bytes.length < headEnd) return undefined;
      if (!sha256(bytes.subarray(digestBytes)).equals(bytes.subarray(0, digestBytes)) || !programDigest.equals(bytes.subarray(digestBytes, 2 * digestBytes)))
        return undefined;
      const [origin = 0, ...lengths] = new Float64Array(Uint8Array.from(bytes.subarray(2 * digestBytes, headEnd)).buffer);
      let at = headEnd;
      const next = (column: number): Uint8Array => {
        const length = (lengths[column] ?? 0) * (itemBytes[column] ?? 0);
        // A copy of its own begins where a number may.
        return Uint8Array.from(bytes.subarray(at, (at += length)));
      };
      const [starts, hashes] = [new Int32Array(next(0).buffer), new Int32Array(next(1).buffer)];
      const steps = new Uint16Array(next(2).buffer);
      const rowStarts = new Int32Array(next(3).buffer);
      const [doors, times] = [Int32Array.from(new Uint16Array(next(4).buffer)), new Int32Array(next(5).buffer)];
      return { timelines: { origin, starts, hashes, steps }, rows: { starts: rowStarts, doors, times }, rowOfCredential: new Int32Array(next(6).buffer) };
    },
    put: async (hash, horizon) => {
      if (!fits(horizon)) return;
      await mkdir(folder, { recursive: true, mode: 0o700 });
      const parts = columnsOf(horizon).map(bytesOf);
      const head = bytesOf(Float64Array.of(horizon.timelines.origin, ...columnsOf(horizon).map(({ length }) => length)));
      const unfinished = `${fileOf(hash)}.${randomBytes(6).toString("hex")}`;
      await writeFile(unfinished, [sha256(programDigest, head, ...parts), programDigest, head, ...parts], { mode: 0o600 });
      await rename(unfinished, fileOf(hash));
      await sweep();
    },
  };
}
