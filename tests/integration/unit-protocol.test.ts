import { createHash } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { memoryText } from "@/core/units/memory-changes";
import type { UnitChange } from "@/core/units/memory-changes";
import { emptyMemory } from "@/core/units/unit-memory";
import type { HeldRow, UnitMemory } from "@/core/units/unit-memory";
import { memoryParts, unitFormat } from "@/core/units/unit-protocol";
import type { MemoryPage, MemoryPart, UnitEvents, UnitStatus } from "@/core/units/unit-protocol";
import { startControllers } from "@/standins/controller/controllers";

/**
 * Whether a unit speaks as `docs/controllers.md` has it. It runs against the stand-in that ships, or, with `NOMADE_UNIT_ADDRESS` and `NOMADE_UNIT_TOKEN`,
 * against any other: one that is free to be written to, and at one of whose doors somebody presents something within a minute after it is asked for events.
 */
const elsewhere = process.env["NOMADE_UNIT_ADDRESS"];
const folder = mkdtempSync(path.join(tmpdir(), "nomade-units-"));
const limits = { cards: 3, sets: 2, rangesPerRow: 2, kinds: 1, dates: 2, rightsPerCard: 2, windows: "minute" as const };
let token = process.env["NOMADE_UNIT_TOKEN"] ?? "a token of this test";
let address = elsewhere ?? "";
let controllers: Awaited<ReturnType<typeof startControllers>> | undefined;

beforeAll(async () => {
  if (elsewhere !== undefined) return;
  controllers = await startControllers({ port: 0, folder, token, units: [{ id: "u 1", limits }] });
  address = `${controllers.address}/units/u%201`;
});
afterAll(async () => {
  await controllers?.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function ask<T>(method: string, below: string, body?: unknown): Promise<{ readonly status: number; readonly answer: T }> {
  const response = await fetch(`${address}${below}`, {
    method,
    headers: { authorization: `Bearer ${token}`, "content-type": "application/json" },
    ...(body !== undefined && { body: typeof body === "string" ? body : JSON.stringify(body) }),
  });
  return { status: response.status, answer: (await response.json()) as T };
}
const status = async (): Promise<UnitStatus> => (await ask<UnitStatus>("GET", "/")).answer;
const sumOf = (memory: UnitMemory): string => createHash("sha256").update(memoryText(memory)).digest("hex");

/** What it holds, read in pages of one. */
async function held(): Promise<UnitMemory> {
  const parts: Partial<Record<MemoryPart, unknown[]>> = {};
  for (const part of memoryParts) {
    const items: { readonly id?: string | number; readonly date?: string }[] = [];
    for (let more = true; more;) {
      const last = items[items.length - 1];
      const after = last ? `&after=${encodeURIComponent(String(last.date ?? last.id))}` : "";
      const { answer } = await ask<MemoryPage>("GET", `/memory?part=${part}&limit=1${after}`);
      items.push(...answer.items);
      more = answer.more;
    }
    parts[part] = items;
  }
  return parts as unknown as UnitMemory;
}

const office: HeldRow = [
  [480, 720],
  [780, 1080],
];
const week: HeldRow[] = [office, office, office, office, office, [], []];
const door = { id: "d/1", timeZone: "Europe/Vienna", entry: "card" as const, rules: [], free: [] };
const memory: UnitMemory = {
  doors: [door],
  dates: [{ date: "2026-12-25", kind: 1 }],
  sets: [{ id: 1, week, kinds: { 1: [] } }],
  lists: [{ id: 7, rights: [{ door: "d/1", set: 1, inLockdown: true }] }],
  cards: [
    { id: "c1", list: 7, hasPin: true },
    { id: "c\u{1f511}", list: 7, number: "12", facilityCode: "3", from: 29_000_000 },
  ],
};
const steps: UnitChange[] = [
  { put: "date", date: { date: "2026-12-25", kind: 1 } },
  { put: "set", set: { id: 1, week, kinds: { 1: [] } } },
  { put: "list", list: { id: 7, rights: [{ door: "d/1", set: 1, inLockdown: true }] } },
  { put: "door", door },
  { put: "card", card: { id: "c1", list: 7, hasPin: true } },
  { put: "card", card: { id: "c\u{1f511}", list: 7, number: "12", facilityCode: "3", from: 29_000_000 } },
];
const update = { sum: sumOf(memory), of: steps.length };

describe("a unit", () => {
  it("says how it is, to who has its token, and in the language that it is asked in", async () => {
    const { format, clock, limits: told, sum, run, last, acknowledged } = await status();
    expect([format, /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/.test(clock), typeof told, /^[0-9a-f]{64}$/.test(sum), run.length > 0, last >= acknowledged]).toEqual([
      unitFormat,
      true,
      "object",
      true,
      true,
      true,
    ]);
    const known = token;
    token = "another";
    expect((await ask("GET", "/")).status).toBe(401);
    token = known;
    expect((await ask("GET", "/nothing")).status).toBe(404);
  });

  it("shows the time that its clock is set to, and goes on from there", async () => {
    expect((await ask<UnitStatus>("PUT", "/clock", { at: "2031-05-01T10:00:00Z" })).status).toBe(200);
    expect(Math.abs(Date.parse((await status()).clock) - Date.parse("2031-05-01T10:00:00Z"))).toBeLessThan(5000);
    await ask("PUT", "/clock", { at: `${new Date().toISOString().slice(0, 19)}Z` });
    expect(Math.abs(Date.parse((await status()).clock) - Date.now())).toBeLessThan(5000);
  });

  it("does the steps of an update in pieces, and then holds, and reads back, just what they come to", async () => {
    for (const { id } of (await held()).cards)
      await ask("POST", "/changes", { update: { sum: sumOf(emptyMemory), of: 1 }, from: 0, changes: [{ remove: "card", id }] });
    expect((await ask("POST", "/changes", { update, from: 0, changes: steps.slice(0, 4) })).answer).toEqual({ done: 4 });
    expect((await status()).update).toEqual({ ...update, done: 4 });
    // Whoever did not hear the answer sends the same again.
    expect((await ask("POST", "/changes", { update, from: 2, changes: steps.slice(2, 4) })).answer).toEqual({ done: 4 });
    expect((await ask("POST", "/changes", { update, from: 4, changes: steps.slice(4) })).answer).toEqual({ done: 6 });
    expect((await status()).sum).toBe(update.sum);
    expect(await held()).toEqual(memory);
  });

  it("refuses a step that leaves some out, and says where it is", async () => {
    const refused = await ask<{ readonly error: string; readonly done: number }>("POST", "/changes", {
      update: { sum: sumOf(memory), of: 9 },
      from: 3,
      changes: [],
    });
    expect([refused.status, refused.answer.done, refused.answer.error.length > 0]).toEqual([409, 0, true]);
    expect((await status()).sum).toBe(update.sum);
  });

  it("refuses what it has no room for, by name, and holds what it held", async () => {
    const { limits: told } = await status();
    expect(told.cards).toBeDefined();
    const many = Array.from({ length: (told.cards ?? 0) + 1 }, (_, i): UnitChange => ({ put: "card", card: { id: `n${i}`, list: 7 } }));
    const refused = await ask<{ readonly error: string }>("POST", "/changes", {
      update: { sum: sumOf(memory), of: many.length },
      from: 0,
      changes: many.slice(0, 1000),
    });
    expect([refused.status, refused.answer.error.includes(String(told.cards))]).toEqual([409, true]);
    expect((await status()).sum).toBe(update.sum);
  });

  it("refuses what is no request, and holds what it held", async () => {
    const wrong: readonly (readonly [string, string, unknown])[] = [
      ["POST", "/changes", "{"],
      ["POST", "/changes", { update, from: 0, changes: [{ put: "card" }] }],
      ["POST", "/changes", { update, from: 0, changes: [{ put: "set", set: { id: 1, week: [], kinds: {} } }] }],
      ["POST", "/changes", { update, from: 0, changes: [{ put: "card", card: { id: "", list: 1 } }] }],
      ["POST", "/changes", { update, from: -1, changes: [] }],
      ["PUT", "/clock", { at: "yesterday" }],
      ["PUT", "/lockdown", { raised: "yes" }],
      ["GET", "/memory?part=everything", undefined],
      ["GET", "/memory?part=cards&limit=lots", undefined],
      ["GET", "/events?after=-1", undefined],
    ];
    for (const [method, below, body] of wrong) {
      const { status: got, answer } = await ask<{ readonly error: string }>(method, below, body);
      expect([method, below, got, typeof answer.error]).toEqual([method, below, 400, "string"]);
    }
    expect((await status()).sum).toBe(update.sum);
  });

  it("raises a lockdown and lifts it", async () => {
    expect((await ask<UnitStatus>("PUT", "/lockdown", { raised: true })).answer.lockdown).toBe(true);
    expect((await status()).lockdown).toBe(true);
    expect((await ask<UnitStatus>("PUT", "/lockdown", { raised: false })).answer.lockdown).toBe(false);
  });

  it("keeps every event, numbered without a gap, until it is acknowledged, and not longer", async () => {
    const { run, acknowledged } = await status();
    const events = async (after: number): Promise<UnitEvents> => (await ask<UnitEvents>("GET", `/events?after=${after}`)).answer;
    if (controllers)
      for (const card of ["c1", "nobody", "c1"])
        await fetch(`${controllers.address}/doors/u%201/present`, {
          method: "POST",
          headers: { authorization: `Bearer ${token}` },
          body: JSON.stringify({ door: "d/1", card }),
        });
    let told = await events(acknowledged);
    for (const until = Date.now() + 60_000; told.events.length === 0 && Date.now() < until; told = await events(acknowledged))
      await new Promise((resolve) => setTimeout(resolve, 500));
    expect(told.run).toBe(run);
    expect(told.events.length).toBeGreaterThan(0);
    expect(told.events.map(({ number }) => number)).toEqual(told.events.map((_, i) => acknowledged + 1 + i));
    expect(await events(acknowledged)).toMatchObject({ run, events: told.events });
    const last = acknowledged + told.events.length;
    expect((await ask("POST", "/events/acknowledged", { run: "another run", through: last })).status).toBe(409);
    expect((await ask("POST", "/events/acknowledged", { run, through: last + 1_000_000 })).status).toBe(409);
    expect((await ask<UnitStatus>("POST", "/events/acknowledged", { run, through: last })).answer.acknowledged).toBe(last);
    expect((await events(acknowledged)).events).toEqual([]);
    expect((await ask("POST", "/events/acknowledged", { run, through: last })).status).toBe(200);
  });
});
