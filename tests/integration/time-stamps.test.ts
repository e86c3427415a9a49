import { createHash } from "node:crypto";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it, jest } from "@jest/globals";
import { QueryTypes } from "sequelize";
import { chainStart, entryText } from "@/core/evidence/chain";
import { connect } from "@/data/connection";
import { timeStampStore } from "@/data/time-stamp-store";
import { checkStamp, stampRequest } from "@/data/time-stamp-token";
import { authorityCertificate } from "@/standins/authority-certificate";
import { startTimestampAuthority } from "@/standins/timestamp-authority";
import { stampWhenDue } from "@/operations/evidence/stamp-record";
import { verifyAll } from "@/operations/evidence/verify-all";
import { ownDatabase, ownerOf } from "./own-database";
import type { OwnDatabase } from "./own-database";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-stamps-"));
const inFolder = (name: string): string => path.join(folder, name);
let authority: Awaited<ReturnType<typeof startTimestampAuthority>>;
let trusted: string;
const text = '{"hash":"00","number":1}';

const ask = async (bytes: Uint8Array): Promise<Uint8Array> => {
  const response = await fetch(`http://127.0.0.1:${authority.port}/`, {
    method: "POST",
    headers: { "content-type": "application/timestamp-query" },
    body: Buffer.from(bytes),
  });
  return new Uint8Array(await response.arrayBuffer());
};

/** OpenSSL's own reading of RFC 3161, of which this program has none: `openssl-ts(1)`. */
const openssl = (...args: readonly string[]) => spawnSync("openssl", ["ts", ...args], { encoding: "utf8" });

beforeAll(async () => {
  authority = await startTimestampAuthority(inFolder("authority"), 0);
  trusted = readFileSync(inFolder(`authority/${authorityCertificate}`), "utf8");
});
afterAll(async () => {
  await authority.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe("a time stamp by RFC 3161", () => {
  it("of the stand-in authority holds for this program and for OpenSSL, and over nothing else", async () => {
    const { bytes, nonce } = await stampRequest(text);
    const response = await ask(bytes);
    const checked = await checkStamp(response, text, trusted);
    expect(checked).toMatchObject({ ok: true, nonce });
    if (checked.ok) expect(Math.abs(Date.parse(checked.at) - Date.now())).toBeLessThan(60_000);
    writeFileSync(inFolder("head.json"), text);
    writeFileSync(inFolder("head.tsr"), response);
    const verify = ["-verify", "-in", inFolder("head.tsr"), "-CAfile", inFolder(`authority/${authorityCertificate}`)];
    expect(openssl(...verify, "-data", inFolder("head.json")).stdout + openssl(...verify, "-data", inFolder("head.json")).stderr).toContain("Verification: OK");
    writeFileSync(inFolder("other.json"), `${text} `);
    expect(openssl(...verify, "-data", inFolder("other.json")).status).not.toBe(0);
    expect(await checkStamp(response, `${text} `, trusted)).toEqual({ ok: false, why: "it is over something else" });
  });

  it("is understood as OpenSSL asks for it", async () => {
    writeFileSync(inFolder("asked.txt"), text);
    expect(openssl("-query", "-data", inFolder("asked.txt"), "-sha256", "-cert", "-out", inFolder("asked.tsq")).status).toBe(0);
    const response = await ask(readFileSync(inFolder("asked.tsq")));
    writeFileSync(inFolder("asked.tsr"), response);
    const verified = openssl(
      "-verify",
      "-queryfile",
      inFolder("asked.tsq"),
      "-in",
      inFolder("asked.tsr"),
      "-CAfile",
      inFolder(`authority/${authorityCertificate}`),
    );
    expect(verified.stdout + verified.stderr).toContain("Verification: OK");
    expect(await checkStamp(response, text, trusted)).toMatchObject({ ok: true });
  });

  it("of an authority that nobody trusts, altered anywhere, or torn says nothing", async () => {
    const response = await ask((await stampRequest(text)).bytes);
    const stranger = await startTimestampAuthority(inFolder("stranger"), 0);
    await stranger.stop();
    const strangers = readFileSync(inFolder(`stranger/${authorityCertificate}`), "utf8");
    expect(await checkStamp(response, text, strangers)).toMatchObject({ ok: false });
    expect(await checkStamp(response, text, "")).toMatchObject({ ok: false });
    // Its own time is signed: whoever alters it breaks the signature.
    const at = Buffer.from(response).indexOf(Buffer.from(`${new Date().getUTCFullYear()}`));
    expect(at).toBeGreaterThan(0);
    const earlier = Buffer.from(response);
    earlier.write("19", at);
    expect(await checkStamp(earlier, text, trusted)).toMatchObject({ ok: false });
    for (const length of [0, 1, 50, response.length - 1]) expect(await checkStamp(response.slice(0, length), text, trusted)).toMatchObject({ ok: false });
    let held = 0;
    for (let position = 0; position < response.length; position += 29) {
      const altered = Uint8Array.from(response);
      altered[position] = (altered[position] ?? 0) ^ 0x01;
      const checked = await checkStamp(altered, text, trusted);
      // A bit that neither signature nor chain covers, such as one of the unsigned wrapping, may hold; what it says stays the same.
      if (checked.ok) held += 1;
      if (checked.ok) expect(Date.parse(checked.at)).toBeLessThanOrEqual(Date.now());
    }
    expect(held).toBeLessThan(response.length / 200);
  });

  it("is refused in words where what is asked is no request, or not over a SHA-256", async () => {
    expect(await checkStamp(await ask(new TextEncoder().encode("nothing")), text, trusted)).toMatchObject({
      ok: false,
      why: expect.stringContaining("no request"),
    });
    writeFileSync(inFolder("sha1.txt"), text);
    openssl("-query", "-data", inFolder("sha1.txt"), "-sha1", "-out", inFolder("sha1.tsq"));
    expect(await checkStamp(await ask(readFileSync(inFolder("sha1.tsq"))), text, trusted)).toMatchObject({
      ok: false,
      why: expect.stringContaining("Only a SHA-256"),
    });
    expect((await fetch(`http://127.0.0.1:${authority.port}/`)).status).toBe(400);
  });

  it("holds after the authority was started again", async () => {
    const before = await ask((await stampRequest(text)).bytes);
    const again = await startTimestampAuthority(inFolder("authority"), 0);
    await again.stop();
    expect(readFileSync(inFolder(`authority/${authorityCertificate}`), "utf8")).toBe(trusted);
    expect(await checkStamp(before, text, trusted)).toMatchObject({ ok: true });
  });
});

describe("the record, stamped", () => {
  let own: OwnDatabase;
  let services: OwnDatabase["services"];
  // Entries may be older than their stamps, and not younger.
  let now = Date.now() - 25 * 3_600_000;
  const verified = () => verifyAll(services);
  const stampsOf = async () => (await verified()).kinds.find(({ what }) => what === "timeStamps");
  const stampFile = (number: number, ending: string): string => path.join(own.folder, "stamps", `entry-${number}${ending}`);

  beforeAll(async () => {
    own = await ownDatabase("nomade_stamps");
    const settings = {
      folder: path.join(own.folder, "stamps"),
      address: `http://127.0.0.1:${authority.port}/`,
      certificate: inFolder(`authority/${authorityCertificate}`),
    };
    services = { ...own.services, now: () => new Date(now).toISOString(), timeStamps: timeStampStore(settings) };
    await own.account("wilma", "administrator");
  });
  afterAll(() => own.close());

  it("is stamped at first, after each signature, and once a day, and says so itself", async () => {
    await stampWhenDue(services);
    expect(await stampsOf()).toEqual({ what: "timeStamps", count: 1 });
    await services.record.append({ signIn: "test" }, services.now(), { what: "sign-out", on: "account 1" });
    await stampWhenDue(services);
    expect(await stampsOf()).toEqual({ what: "timeStamps", count: 1 });
    await services.record.append({ signIn: "test" }, services.now(), { what: "round.closed", on: "round 1" });
    await stampWhenDue(services);
    await stampWhenDue(services);
    expect(await stampsOf()).toEqual({ what: "timeStamps", count: 2 });
    now += 25 * 3_600_000;
    await services.record.append({ signIn: "test" }, services.now(), { what: "sign-out", on: "account 1" });
    await stampWhenDue(services);
    expect(await stampsOf()).toEqual({ what: "timeStamps", count: 3 });
    const [entry] = await services.record.page({ what: "record.stamped" }, 1);
    expect(entry?.on).toBe(`entry ${(entry?.number ?? 0) - 1}`);
  });

  it("goes on where the authority does not answer, answers otherwise, or is not trusted, and is stamped later", async () => {
    const said = jest.spyOn(console, "error").mockImplementation(() => undefined);
    await services.record.append({ signIn: "test" }, services.now(), { what: "round.closed", on: "round 2" });
    const settings = { folder: path.join(own.folder, "stamps"), address: "http://127.0.0.1:9/", certificate: inFolder(`authority/${authorityCertificate}`) };
    for (const given of [
      settings,
      { ...settings, address: `http://127.0.0.1:${authority.port}/`, certificate: inFolder(`stranger/${authorityCertificate}`) },
    ]) {
      await stampWhenDue({ ...services, timeStamps: timeStampStore(given) });
      expect(await stampsOf()).toMatchObject({ count: 3 });
    }
    // Told once, though it was tried twice.
    expect(said.mock.calls.length).toBe(1);
    said.mockRestore();
    await stampWhenDue(services);
    expect(await stampsOf()).toEqual({ what: "timeStamps", count: 4 });
  });

  it("is found altered where a stamp is gone, altered, of another entry, or of an earlier time than its entry", async () => {
    const numbers = (await services.timeStamps.read())?.map(({ number }) => number) ?? [];
    const [first = 0, second = 0] = numbers;
    const kept = [first, second].map((number) => readFileSync(stampFile(number, ".tsr")));
    rmSync(stampFile(first, ".tsr"));
    expect((await stampsOf())?.problem).toMatch(new RegExp(`Entry \\d+ says that entry ${first} was stamped; the time stamp is not there`));
    writeFileSync(stampFile(first, ".tsr"), kept[1] ?? "");
    expect((await stampsOf())?.problem).toBe(`The time stamp over entry ${first} says nothing: it is over something else.`);
    writeFileSync(stampFile(first, ".tsr"), "torn");
    expect((await stampsOf())?.problem).toContain(`The time stamp over entry ${first} says nothing: it cannot be read`);
    writeFileSync(stampFile(first, ".tsr"), kept[0] ?? "");
    const text = readFileSync(stampFile(first, ".json"), "utf8");
    writeFileSync(stampFile(first, ".json"), text.replace(/"number":\d+/, '"number":99'));
    expect((await stampsOf())?.problem).toContain("is no head of the record");
    writeFileSync(stampFile(first, ".json"), text);
    expect((await verified()).problems).toEqual([]);
    // Who sets the clock back writes entries that were stamped before they were made.
    now += 3_600_000;
    await services.record.append({ signIn: "test" }, services.now(), { what: "round.closed", on: "round 3" });
    now -= 3_600_000;
    await stampWhenDue(services);
    expect((await stampsOf())?.problem).toMatch(/says that it is of .*; it was stamped before that/);
  });

  it("is found written anew as a whole, with its heads beside the database: nobody stamps it of an earlier time", async () => {
    const sequelize = connect(ownerOf("nomade_stamps"), 1);
    try {
      const rows = await sequelize.query<Record<string, string | number>>("SELECT * FROM record_entries ORDER BY number", { type: QueryTypes.SELECT });
      let previous = chainStart;
      const heads: string[] = [];
      for (const row of rows) {
        const entry = {
          number: Number(row.number),
          at: String(row.at),
          who: row.number === 1 ? "somebody else" : String(row.who),
          what: String(row.what),
          on: String(row.on_what),
          valuesHash: String(row.values_hash),
          previousHash: previous,
        };
        const hash = createHash("sha256").update(entryText(entry)).digest("hex");
        await sequelize.query("UPDATE record_entries SET who = :who, previous_hash = :previous, hash = :hash WHERE number = :number", {
          replacements: { who: entry.who, previous, hash, number: entry.number },
        });
        heads.push(`${JSON.stringify({ number: entry.number, hash })}\n`);
        previous = hash;
      }
      const beside = path.join(own.folder, "record-heads.jsonl");
      expect((await verified()).problems[0]).toMatch(/Entry \d+ is not the one whose hash was written beside the database/);
      writeFileSync(beside, heads.join(""));
      const found = await verified();
      expect([found.kinds[0]?.problem, found.sound]).toEqual([undefined, false]);
      expect((await stampsOf())?.problem).toMatch(/Entry \d+ is not the one that was stamped/);
    } finally {
      await sequelize.close();
    }
  });
});
