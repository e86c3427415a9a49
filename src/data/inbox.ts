import { lstat, mkdir, readdir } from "node:fs/promises";
import path from "node:path";
import type { Inbox, LaidIn } from "@/operations/ports/deliveries";

/** What is still being written, or is nobody's file, is passed over. */
const isPassedOver = (name: string): boolean => name.startsWith(".") || /\.(part|partial|tmp|crdownload|filepart)$/i.test(name);

/** Sources have any name; a folder's leads nowhere else. */
const folderName = (source: string): string => encodeURIComponent(source).replace(/^\./, "%2E").slice(0, 200);

/** A folder with more entries than this is not looked at on and on. */
const mostEntries = 10_000;
/** A file that was written to within so long may still be. */
const restsMs = 5000;

/** What tells whether a file, or anything in a folder, has changed; undefined where it is neither, or was written to just now. */
async function stateOf(file: string): Promise<string | undefined> {
  const entry = await lstat(file).catch(() => undefined);
  if (!entry || entry.isSymbolicLink() || Date.now() - entry.mtimeMs < restsMs) return undefined;
  if (entry.isFile()) return `${entry.size} ${entry.mtimeMs}`;
  if (!entry.isDirectory()) return undefined;
  const names = (await readdir(file)).sort();
  if (names.length === 0 || names.length > mostEntries) return undefined;
  const states: string[] = [];
  for (const name of names) {
    const state = await stateOf(path.join(file, name));
    if (state === undefined) return undefined;
    states.push(`${name} ${state}`);
  }
  return states.join("\n");
}

/** Folders for files that sources lay in, one for each, below a folder. A file is whole where it is as it was the time before. */
export function inbox(folder: string): Inbox {
  const seen = new Map<string, string>();
  const folderOf = (source: string): string => path.join(folder, folderName(source));
  return {
    folderOf,
    look: async (source) => {
      const own = folderOf(source);
      await mkdir(own, { recursive: true, mode: 0o700 });
      const found: LaidIn[] = [];
      for (const name of (await readdir(own)).sort()) {
        if (isPassedOver(name)) continue;
        const file = path.join(own, name);
        const state = await stateOf(file);
        if (state !== undefined && seen.get(file) === state) {
          seen.delete(file);
          found.push({ path: file, name });
        } else if (state !== undefined) seen.set(file, state);
      }
      return found;
    },
  };
}
