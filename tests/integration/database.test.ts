import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { gunzipSync, gzipSync } from "node:zlib";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { connect } from "@/data/connection";
import { recordStore } from "@/data/record-store";
import { QueryTypes } from "sequelize";
import { verraneInstitute } from "~/demo/institute";
import { facilityDraft } from "../builders";

/** On a database of its own on the server that `npm test` starts; it says where that is and how its owner signs in. */
const needed = (name: string): string => {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set: run these tests with npm test.`);
  return value;
};
const name = "nomade_unit";
const owner = () => ({ port: Number(needed("NOMADE_DB_PORT")), name, user: needed("NOMADE_TEST_OWNER"), password: needed("NOMADE_TEST_OWNER_PASSWORD") });
const application = () => ({ ...owner(), user: needed("NOMADE_DB_USER"), password: needed("NOMADE_DB_PASSWORD") });
const folder = mkdtempSync(path.join(tmpdir(), "nomade-unit-"));
const environment = (user: { user: string; password: string }) => ({
  ...process.env,
  NOMADE_DATA: folder,
  NOMADE_DB_NAME: name,
  NOMADE_DB_USER: user.user,
  NOMADE_DB_PASSWORD: user.password,
});

const nomade = (...args: readonly string[]) => spawnSync(process.execPath, ["dist/nomade.mjs", ...args], { env: environment(application()), encoding: "utf8" });
const lines = (text: string): Record<string, unknown>[] =>
  text
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);
const written = (file: string, content: unknown): string => {
  const at = path.join(folder, file);
  writeFileSync(at, typeof content === "string" ? content : JSON.stringify(content));
  return at;
};
const snapshotIds = (): unknown[] => lines(nomade("snapshots").stdout).map(({ id }) => id);

async function query<T extends object>(sql: string, as = application()): Promise<T[]> {
  const sequelize = connect(as, 1);
  try {
    return await sequelize.query<T>(sql, { type: QueryTypes.SELECT });
  } finally {
    await sequelize.close();
  }
}

beforeAll(async () => {
  const main = connect({ ...owner(), name: needed("NOMADE_DB_NAME") }, 1);
  await main.query(`DROP DATABASE IF EXISTS ${name}`, { type: QueryTypes.RAW });
  await main.query(`CREATE DATABASE ${name}`, { type: QueryTypes.RAW });
  await main.close();
  const made = spawnSync(process.execPath, ["dist/nomade.mjs", "migrate"], { env: environment(owner()), encoding: "utf8" });
  expect(made.stderr).toBe("");
});

afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("taking in", () => {
  const small = facilityDraft({ credentials: [{ id: "c1", cardholder: "iris", kind: "card", status: "active", number: "0123" }] });

  it("stores a document as a snapshot whose hash is the exported file's SHA-256, and the same again changes nothing", () => {
    expect(nomade("intake", written("small.json", small)).status).toBe(0);
    const again = lines(nomade("intake", written("again.json", JSON.stringify(small, undefined, 2))).stdout);
    expect(again[0]).toMatchObject({ outcome: "unchanged", snapshot: 1 });
    const out = path.join(folder, "out.json");
    const [exported] = lines(nomade("export", "--format", "document", "--out", out).stdout);
    expect(createHash("sha256").update(readFileSync(out)).digest("hex")).toBe(exported?.hash);
    expect(lines(nomade("intake", out).stdout)[0]).toMatchObject({ outcome: "unchanged" });
  });

  it("leaves nothing behind where a document is refused, and says every error as a line of JSON", () => {
    const before = snapshotIds();
    const refused = nomade("intake", written("refused.json", { ...small, doors: [{ id: "d", name: "D", site: "nowhere" }] }));
    expect(refused.status).toBe(1);
    expect(lines(refused.stderr)[0]).toMatchObject({ level: "error", path: "doors[0].site", code: "unknown-reference" });
    expect(snapshotIds()).toEqual(before);
  });

  it("leaves the register as it was when the process is killed in the middle, and the next intake works", async () => {
    const before = snapshotIds();
    const rowsBefore = await query<{ n: number }>("SELECT COUNT(*) AS n FROM register_cardholders");
    const large = written("large.json", verraneInstitute({ cardholders: 1200, doors: 120, seed: 3 }));
    // Whoever holds the record's turn keeps an intake from ending, so each is killed where it is seen to be, however fast the machine.
    const turn = connect(application(), 1);
    const held = await turn.transaction();
    await turn.query("SELECT id FROM record_turn WHERE id = 1 FOR UPDATE", { type: QueryTypes.SELECT, transaction: held });
    const seen: string[] = [];
    for (const statement of ["INSERT INTO `snapshot_pieces`", "INSERT INTO `register_", "SELECT id FROM record_turn"]) {
      const child = spawn(process.execPath, ["dist/nomade.mjs", "intake", large], { env: environment(application()), stdio: "ignore" });
      const ended = new Promise((resolve) => child.once("exit", resolve));
      for (let running = ""; !running.startsWith(statement) && !running.startsWith("SELECT id FROM record_turn");) {
        const [found] = await query<{ info: string | null }>(
          `SELECT info FROM information_schema.processlist WHERE db = '${name}' AND id <> CONNECTION_ID() AND info IS NOT NULL`,
        );
        running = found?.info ?? "";
        if (child.exitCode !== null) throw new Error(`The intake ended by itself with ${child.exitCode}.`);
        if (running !== "") seen.push(running.slice(0, 40));
      }
      child.kill("SIGKILL");
      await ended;
    }
    await held.rollback();
    await turn.close();
    expect(seen.some((statement) => statement.startsWith("SELECT id FROM record_turn"))).toBe(true);
    expect(snapshotIds()).toEqual(before);
    expect(await query<{ n: number }>("SELECT COUNT(*) AS n FROM register_cardholders")).toEqual(rowsBefore);
    expect(nomade("intake", large).status).toBe(0);
    expect(snapshotIds()).toHaveLength(before.length + 1);
  });

  it("keeps rows of both snapshots apart by the range in which they stand", async () => {
    const standing = await query<{ n: number }>("SELECT COUNT(*) AS n FROM register_cardholders WHERE until_snapshot IS NULL");
    const first = await query<{ id: string }>(
      "SELECT id FROM register_cardholders WHERE since_snapshot <= 1 AND (until_snapshot IS NULL OR until_snapshot > 1)",
    );
    expect(Number(standing[0]?.n)).toBe(1200);
    expect(first.map(({ id }) => id)).toEqual(["iris"]);
  });

  it("lets two intakes at once each be stored whole, one after the other", async () => {
    const files = [11, 12].map((seed) => written(`two-${seed}.json`, verraneInstitute({ cardholders: 150, doors: 95, seed })));
    const run = (file: string) =>
      new Promise<number | null>((resolve) =>
        spawn(process.execPath, ["dist/nomade.mjs", "intake", file], { env: environment(application()), stdio: "ignore" }).once("exit", resolve),
      );
    expect(await Promise.all(files.map(run))).toEqual([0, 0]);
    const standing = await query<{ n: number }>("SELECT COUNT(*) AS n FROM register_cardholders WHERE until_snapshot IS NULL");
    expect(Number(standing[0]?.n)).toBe(150);
    expect(lines(nomade("verify").stdout)[0]).toMatchObject({ sound: true });
  });

  it("exports tables that, taken in again, change nothing; refused rows stop an intake unless just so many are left out", () => {
    const zip = path.join(folder, "tables.zip");
    const [exported] = lines(nomade("export", "--format", "csv", "--out", zip).stdout);
    expect(lines(nomade("intake", zip).stdout)[0]).toMatchObject({ outcome: "unchanged", snapshot: exported?.snapshot });
    const workbook = path.join(folder, "tables.xlsx");
    expect(lines(nomade("export", "--format", "xlsx", "--out", workbook).stdout)[0]).toMatchObject({ snapshot: exported?.snapshot, hash: exported?.hash });
    expect(lines(nomade("intake", workbook).stdout)[0]).toMatchObject({ outcome: "unchanged", snapshot: exported?.snapshot });

    const tables = mkdtempSync(path.join(folder, "tables-"));
    writeFileSync(path.join(tables, "facility.csv"), "name,timeZone,asOf\nRows,Europe/Vienna,2026-03-01T00:00:00Z\n");
    writeFileSync(path.join(tables, "sites.csv"), "id;name;timeZone\ngarden;Garden;Europe/Vienna\n");
    writeFileSync(path.join(tables, "people.csv"), "No,name,status\niris,Iris,active\notto,Otto,asleep\n,Nobody,active\n");
    writeFileSync(path.join(tables, "credentials.csv"), "id,cardholder,kind,status\nc1,iris,card,active\nc2,otto,card,active\n");
    for (const list of ["areas", "calendars", "schedules", "doors", "door-groups", "levels", "bundles", "groups", "memberships", "grants"])
      writeFileSync(path.join(tables, `${list}.csv`), list === "memberships" ? "group,cardholder\n" : "id\n");
    const profile = written("profile.json", {
      format: "nomade.profile/1",
      keys: { cardholders: ["id"] },
      tables: [
        {
          name: "people",
          headers: [],
          makes: [{ table: "cardholders", fields: { id: { columns: ["No"] }, name: { columns: ["name"] }, status: { columns: ["status"] } } }],
        },
      ],
    });
    const before = snapshotIds();
    const refused = nomade("intake", tables, "--profile", profile);
    expect(refused.status).toBe(1);
    const errors = refused.stderr.split("\n").filter((line) => line.startsWith("{"));
    expect(errors.map((line) => (JSON.parse(line) as { path: string }).path)).toEqual([
      "people.csv, line 3, status",
      "people.csv, line 4, No",
      "credentials.csv, line 3, cardholder",
    ]);
    expect(nomade("intake", tables, "--profile", profile, "--leave-out", "2").status).toBe(1);
    expect(snapshotIds()).toEqual(before);
    expect(lines(nomade("intake", tables, "--profile", profile, "--leave-out", "3").stdout)[0]).toMatchObject({ outcome: "stored" });
    const [latest] = lines(nomade("snapshots").stdout) as {
      leftOut: number;
      counts: Record<string, number>;
      files: { name: string; rows: number; leftOut: number; hash: string }[];
    }[];
    expect(latest?.leftOut).toBe(3);
    expect(latest?.counts).toMatchObject({ cardholders: 1, credentials: 1 });
    const people = latest?.files.find(({ name: file }) => file === "people.csv");
    expect(people).toMatchObject({
      rows: 1,
      leftOut: 2,
      hash: createHash("sha256")
        .update(readFileSync(path.join(tables, "people.csv")))
        .digest("hex"),
    });
    expect(nomade("intake", zip).status).toBe(0);
  });

  it("refuses a file of events with a faulty row whole, and takes the same file only once", async () => {
    const good = "at,door,credential,result\n2026-02-01T08:00:00Z,gate,c1,granted\n";
    const nope = nomade("findings", "--rule", "nope");
    expect([nope.status, nope.stderr]).toEqual([2, expect.stringMatching(/no rule nope; there are leaver-live/)]);
    expect(nomade("intake", written("bad.csv", `${good}yesterday,gate,c1,granted\n`)).status).toBe(1);
    expect(Number((await query<{ n: number }>("SELECT COUNT(*) AS n FROM events"))[0]?.n)).toBe(0);
    expect(nomade("intake", written("good.csv", good)).status).toBe(0);
    expect(lines(nomade("intake", written("good-again.csv", good)).stdout)[0]).toMatchObject({ outcome: "unchanged" });
    expect(Number((await query<{ n: number }>("SELECT COUNT(*) AS n FROM events"))[0]?.n)).toBe(1);
  });
});

describe("a backup", () => {
  const asOwner = (more: Record<string, string>, ...args: readonly string[]) =>
    spawnSync(process.execPath, ["dist/nomade.mjs", ...args], { env: { ...environment(owner()), ...more }, encoding: "utf8" });
  const elsewhere = { NOMADE_DATA: path.join(folder, "elsewhere"), NOMADE_DB_NAME: `${name}_again` };
  const file = path.join(folder, "all.backup");

  it("brings everything back where nothing is left: snapshots, their documents, the record and its heads", async () => {
    expect(lines(asOwner({}, "backup", "--out", file).stdout)[0]).toMatchObject({ out: file });
    const main = connect({ ...owner(), name: needed("NOMADE_DB_NAME") }, 1);
    await main.query(`DROP DATABASE IF EXISTS ${name}_again`, { type: QueryTypes.RAW });
    await main.query(`CREATE DATABASE ${name}_again CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin`, { type: QueryTypes.RAW });
    await main.close();
    const restored = asOwner(elsewhere, "restore", file);
    expect(restored.stderr).toBe("");
    expect(lines(restored.stdout)[0]).toMatchObject({ snapshots: snapshotIds().length, recordIsSound: true });
    const again = (...args: readonly string[]) =>
      spawnSync(process.execPath, ["dist/nomade.mjs", ...args], { env: { ...environment(application()), ...elsewhere }, encoding: "utf8" });
    expect(again("snapshots").stdout).toBe(nomade("snapshots").stdout);
    const [was, is] = [path.join(folder, "was.json"), path.join(folder, "is.json")];
    nomade("export", "--format", "document", "--out", was);
    again("export", "--format", "document", "--out", is);
    expect(readFileSync(is)).toEqual(readFileSync(was));
    // Everything verifies there, with the heads beside the database, which came along.
    expect(lines(again("verify").stdout)[0]).toMatchObject({ sound: true });
    // The application may read and add to the record there, and nothing else, as here.
    await expect(query("DELETE FROM record_entries", { ...application(), name: `${name}_again` })).rejects.toThrow(/denied/);
  });

  it("does not take a register's place unless that is said, and changes nothing where it is broken", () => {
    const before = asOwner(elsewhere, "snapshots").stdout;
    const refused = (...args: readonly string[]): string => {
      const done = asOwner(elsewhere, "restore", ...args);
      expect([done.status, done.stdout]).toEqual([1, ""]);
      expect(asOwner(elsewhere, "snapshots").stdout).toBe(before);
      return done.stderr;
    };
    expect(refused(file)).toContain("--replace");
    const bytes = readFileSync(file);
    const broken = (content: Buffer): string => {
      const at = path.join(folder, "broken.backup");
      writeFileSync(at, content);
      return at;
    };
    expect(refused(broken(bytes.subarray(0, bytes.length >> 1)), "--replace")).toMatch(/broken|cut off/);
    expect(refused(broken(Buffer.from("no gzip at all")), "--replace")).toContain("no gzip");
    expect(refused(broken(gzipSync("hello\nthere")), "--replace")).toContain("does not begin as a backup");
    expect(refused(broken(gzipSync(gunzipSync(bytes).subarray(0, -200))), "--replace")).toMatch(/cut off|ended with/);
    expect(refused(path.join(folder, "none.backup"), "--replace")).toContain("no such file");
    expect(asOwner(elsewhere, "restore", file, "--replace").status).toBe(0);
  });
});

describe("the record", () => {
  it("can be read and added to by the application, and neither changed nor cut by it", async () => {
    const sequelize = connect(application(), 1);
    for (const sql of [
      "UPDATE record_entries SET who = 'x' WHERE number = 1",
      "DELETE FROM record_entries WHERE number = 1",
      "TRUNCATE record_entries",
      "DROP TABLE record_entries",
      "ALTER TABLE record_entries DROP COLUMN hash",
    ])
      await expect(sequelize.query(sql, { type: QueryTypes.RAW })).rejects.toThrow(/denied/);
    await sequelize.close();
  });

  it("does not fork when many write at once", async () => {
    const sequelize = connect(application(), 8);
    const store = recordStore(sequelize, folder);
    await Promise.all(
      Array.from({ length: 24 }, (_, i) => store.append({ signIn: `writer ${i}` }, new Date(0).toISOString(), { what: "tried", on: `thing ${i}` })),
    );
    expect((await store.verify()).sound).toBe(true);
    await sequelize.close();
  });

  it("is found broken at the entry that somebody with all rights altered, and where its end was cut off", async () => {
    const asOwner = connect(owner(), 1);
    const store = recordStore(asOwner, folder);
    const [kept] = await query<{ who: string }>("SELECT who FROM record_entries WHERE number = 2", owner());
    await asOwner.query("UPDATE record_entries SET who = 'nobody' WHERE number = 2", { type: QueryTypes.RAW });
    expect(await store.verify()).toMatchObject({ sound: false, why: expect.stringContaining("Entry 2") });
    expect(nomade("verify").status).toBe(1);
    await asOwner.query("UPDATE record_entries SET who = :who WHERE number = 2", { type: QueryTypes.UPDATE, replacements: { who: kept?.who } });
    expect((await store.verify()).sound).toBe(true);
    await asOwner.query("DELETE FROM record_values WHERE number IN (SELECT MAX(number) FROM record_entries)", { type: QueryTypes.RAW });
    await asOwner.query("DELETE FROM record_entries ORDER BY number DESC LIMIT 1", { type: QueryTypes.RAW });
    expect(await store.verify()).toMatchObject({ sound: false, why: expect.stringContaining("beside the database") });
    await asOwner.close();
  });
});
