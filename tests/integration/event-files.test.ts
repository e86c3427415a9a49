import { afterAll, beforeAll, expect, it, jest } from "@jest/globals";
import { events } from "@/cli/events";
import { unwatched } from "@/operations/ports/progress";
import { storeFacility } from "@/operations/intake/store-contents";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
beforeAll(async () => {
  own = await ownDatabase("nomade_event_files");
  await storeFacility(own.services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
});
afterAll(() => own.close());

async function printed(...args: readonly string[]): Promise<readonly [status: number, lines: readonly Record<string, unknown>[]]> {
  let text = "";
  const write = jest.spyOn(process.stdout, "write").mockImplementation((piece) => {
    text += String(piece);
    return true;
  });
  try {
    const status = await events(args);
    const lines = text.split("\n").filter(Boolean);
    return [status, lines.map((line) => JSON.parse(line) as Record<string, unknown>)];
  } finally {
    write.mockRestore();
  }
}

it("the command line lists files of events, takes one back with all that was counted from it, and names one that is not there", async () => {
  async function* rows() {
    await Promise.resolve();
    yield { second: 1_772_000_000, door: "barn-door", credential: "c-iris", granted: true };
  }
  await own.services.events.store({ name: "gate.csv", hash: "a".repeat(64), source: "gate" }, rows(), () => undefined, { signIn: "test" }, "t", unwatched);
  const [status, files] = await printed();
  expect([status, files]).toMatchObject([
    0,
    [{ name: "gate.csv", source: "gate", rows: 1, repeated: 0, from: "2026-02-25T06:13:20Z", to: "2026-02-25T06:13:20Z" }],
  ]);
  expect((await own.services.events.lastUses()).size).toBe(1);
  await expect(printed("--take-back", "999")).rejects.toThrow("no file of events with the number 999");
  await expect(printed("--take-back", "x1")).rejects.toThrow("not x1");
  expect((await printed("--take-back", String(files[0]?.id)))[0]).toBe(0);
  expect((await own.services.events.lastUses()).size).toBe(0);
  expect(await printed()).toEqual([0, []]);
});
