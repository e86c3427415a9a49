import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { checkStamp, stampRequest } from "@/data/time-stamp-token";
import { authorityCertificate } from "@/standins/authority-certificate";
import { startTimestampAuthority } from "@/standins/timestamp-authority";

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
