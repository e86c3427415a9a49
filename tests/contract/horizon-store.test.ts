import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "@jest/globals";
import type { FrozenHorizon } from "@/core/table/horizon";
import { horizonStore } from "@/data/horizon-store";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-horizons-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const horizon: FrozenHorizon = {
  timelines: { origin: 29_500_000, starts: Int32Array.of(0, 2, 6), hashes: Int32Array.of(0, -5, 77), steps: Uint16Array.of(0, 10, 20, 65_535, 2, 1) },
  rows: { starts: Int32Array.of(0, 0, 2), doors: Int32Array.of(1, 4), times: Int32Array.of(1, 2) },
  rowOfCredential: Int32Array.of(1, 0, 1),
};
const hash = "a".repeat(64);
const files = () => readdirSync(path.join(folder, "horizons"));

describe("horizons in files", () => {
  it("come back as they were put, for the program that put them and no other", async () => {
    await horizonStore(folder, "one").put(hash, horizon);
    expect(await horizonStore(folder, "one").get(hash)).toEqual(horizon);
    expect(await horizonStore(folder, "another").get(hash)).toBeUndefined();
    expect(await horizonStore(folder, "one").get("b".repeat(64))).toBeUndefined();
  });

  it("are not there where any of their bytes was altered, or their end is missing", async () => {
    const store = horizonStore(folder, "one");
    await store.put(hash, horizon);
    const file = path.join(folder, "horizons", `${hash}.bin`);
    const bytes = readFileSync(file);
    for (const at of [0, 33, 64, 70, 121, bytes.length - 1]) {
      const altered = Uint8Array.from(bytes);
      altered[at] = (altered[at] as number) ^ 1;
      writeFileSync(file, altered);
      expect([at, await store.get(hash)]).toEqual([at, undefined]);
    }
    for (const length of [0, 10, 100, bytes.length - 4]) {
      writeFileSync(file, bytes.subarray(0, length));
      expect([length, await store.get(hash)]).toEqual([length, undefined]);
    }
    writeFileSync(file, bytes);
    expect(await store.get(hash)).toEqual(horizon);
  });

  it("are the last few, so that the folder does not grow", async () => {
    const store = horizonStore(folder, "one");
    for (let i = 0; i < 8; i++) await store.put(String(i).repeat(64), horizon);
    expect(files().length).toBe(3);
    expect(await store.get("7".repeat(64))).toEqual(horizon);
  });
});
