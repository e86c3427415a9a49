import { appendFile, mkdir, readFile } from "node:fs/promises";
import path from "node:path";
import type { Anchor, AnchorStore } from "@/operations/ports/anchors";

const fileName = "nomade-anchors.jsonl";

function anchorOf(text: string, line: number): Anchor {
  try {
    const { at, number, hash } = JSON.parse(text) as { readonly at?: unknown; readonly number?: unknown; readonly hash?: unknown };
    if (typeof at === "string" && Number.isSafeInteger(number) && typeof hash === "string") return { line, at, number: number as number, hash };
  } catch {
    // What is no JSON is no anchor.
  }
  return { line };
}

/** Anchors in a folder outside, a line each; without a folder there are none. */
export function anchorFile(folder: string | undefined): AnchorStore {
  if (folder === undefined) return { write: () => Promise.resolve(), read: () => Promise.resolve(undefined) };
  const file = path.join(folder, fileName);
  const read = async (): Promise<Anchor[]> => {
    const text = await readFile(file, "utf8").catch((error: NodeJS.ErrnoException) => {
      if (error.code === "ENOENT") return "";
      throw error;
    });
    return text.split("\n").flatMap((line, i) => (line === "" ? [] : [anchorOf(line, i + 1)]));
  };
  return {
    write: async ({ number, hash }, at) => {
      if ((await read()).at(-1)?.number === number) return;
      await mkdir(folder, { recursive: true });
      await appendFile(file, `${JSON.stringify({ at, number, hash })}\n`);
    },
    read,
  };
}
