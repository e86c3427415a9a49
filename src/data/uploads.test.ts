import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, utimesSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "@jest/globals";
import { uploads } from "./uploads";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-uploads-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const { keep: keepUpload, find: waitingFile, drop: dropUpload } = uploads(folder, 2048);
const body = (text: string) => new Blob([text]).stream();
const waiting = () => readdirSync(path.join(folder, "uploads"));

describe("an uploaded file", () => {
  it("waits under a token that nobody guesses, with its name, and is gone when it is dropped", async () => {
    const kept = await keepUpload(body("content"), "institute.json");
    expect(kept.token).toMatch(/^[A-Za-z0-9_-]{24}$/);
    const found = await waitingFile(kept.token);
    expect(found).toEqual(kept);
    expect(readFileSync(kept.path, "utf8")).toBe("content");
    await dropUpload(kept);
    expect(await waitingFile(kept.token)).toBeUndefined();
    expect(waiting()).toEqual([]);
  });

  it("is not found by anything that is no token, such as a path", async () => {
    for (const token of ["", "../secrets.json", "a".repeat(25), "..%2f..%2fsecrets"]) expect([token, await waitingFile(token)]).toEqual([token, undefined]);
  });

  it("leaves nothing behind where it broke off", async () => {
    const broken = new ReadableStream<Uint8Array>({
      start(controller) {
        controller.enqueue(new Uint8Array([1, 2, 3]));
        controller.error(new Error("the line went dead"));
      },
    });
    await expect(keepUpload(broken, "half.json")).rejects.toThrow("the line went dead");
    expect(waiting()).toEqual([]);
  });

  it("is refused with the limit where it is larger than may be uploaded, and leaves nothing behind", async () => {
    const small = uploads(folder, 1);
    await expect(small.keep(body("x".repeat(2 ** 20 + 1)), "large.json")).rejects.toThrow(/large\.json is larger than 1 MB/);
    expect(waiting()).toEqual([]);
    await dropUpload(await small.keep(body("x".repeat(2 ** 20)), "just.json"));
  });

  it("that was forgotten for a day is swept when the next one comes", async () => {
    const old = await keepUpload(body("old"), "old.json");
    const yesterday = new Date(Date.now() - 25 * 3_600_000);
    for (const file of [old.path, `${old.path}.name`]) utimesSync(file, yesterday, yesterday);
    const fresh = await keepUpload(body("fresh"), "fresh.json");
    expect([existsSync(old.path), existsSync(fresh.path)]).toEqual([false, true]);
    await dropUpload(fresh);
  });
});
