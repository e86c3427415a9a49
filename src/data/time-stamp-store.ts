import { randomBytes } from "node:crypto";
import { mkdir, readdir, readFile, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { headText } from "@/core/evidence/chain";
import type { KeptStamp, RecordHead, TimeStampStore } from "@/operations/ports/time-stamps";
import { StampRefused } from "@/operations/ports/time-stamps";
import { checkStamp, stampRequest } from "./time-stamp-token";

export interface TimeStampSettings {
  /** Where stamps are kept. */
  readonly folder: string;
  /** Where the authority answers, by HTTP; undefined where none is set. */
  readonly address: string | undefined;
  /** A PEM file of the certificates that are trusted. */
  readonly certificate: string;
}

const patienceMs = 10_000;
const ending = ".tsr";

const absent = (error: NodeJS.ErrnoException): undefined => {
  if (error.code === "ENOENT") return undefined;
  throw error;
};

async function ask(address: string, request: Uint8Array): Promise<Uint8Array> {
  try {
    const response = await fetch(address, {
      method: "POST",
      headers: { "content-type": "application/timestamp-query" },
      body: Buffer.from(request),
      signal: AbortSignal.timeout(patienceMs),
    });
    if (!response.ok) throw new StampRefused(`The time stamp authority answered with HTTP status ${response.status}.`);
    return new Uint8Array(await response.arrayBuffer());
  } catch (error) {
    if (error instanceof StampRefused) throw error;
    throw new StampRefused(`The time stamp authority at ${address} did not answer.`);
  }
}

/** Time stamps as files, each beside the text that it is over: `entry-12.json` and `entry-12.tsr`, as other programs check them. */
export function timeStampStore({ folder, address, certificate }: TimeStampSettings): TimeStampStore {
  const pemText = () => readFile(certificate, "utf8").catch(absent);
  const file = (number: number, end: string): string => path.join(folder, `entry-${number}${end}`);
  const numbers = async (): Promise<number[]> =>
    ((await readdir(folder).catch(absent)) ?? [])
      .flatMap((name) => (/^entry-[1-9]\d{0,14}\.tsr$/.test(name) ? [Number(name.slice("entry-".length, -ending.length))] : []))
      .sort((a, b) => a - b);
  const put = async (name: string, bytes: string | Uint8Array): Promise<void> => {
    // Two may stamp the same head at once; each writes a file of its own.
    const part = `${name}.${randomBytes(6).toString("hex")}.part`;
    await writeFile(part, bytes);
    await rename(part, name);
  };
  const check = async (number: number, pem: string): Promise<KeptStamp> => {
    const text = await readFile(file(number, ".json"), "utf8").catch(absent);
    if (text === undefined) return { number, hash: "", problem: "the text that it is over is missing" };
    const hash = /"hash":"([0-9a-f]{64})"/.exec(text)?.[1] ?? "";
    if (text !== headText({ number, hash })) return { number, hash, problem: "the text that it is over is no head of the record" };
    const checked = await checkStamp(await readFile(file(number, ending)), text, pem);
    return checked.ok ? { number, hash, at: checked.at } : { number, hash, problem: checked.why };
  };
  return {
    isSet: address !== undefined,
    stamp: async (head: RecordHead) => {
      if (address === undefined) throw new StampRefused("No time stamp authority is set.");
      const pem = await pemText();
      if (pem === undefined) throw new StampRefused(`The certificate of the time stamp authority is not there: ${path.basename(certificate)}.`);
      const text = headText(head);
      const { bytes, nonce } = await stampRequest(text);
      const response = await ask(address, bytes);
      const checked = await checkStamp(response, text, pem);
      if (!checked.ok) throw new StampRefused(`The time stamp does not hold: ${checked.why}.`);
      if (checked.nonce !== nonce) throw new StampRefused("The time stamp is the answer to another request.");
      await mkdir(folder, { recursive: true });
      await put(file(head.number, ".json"), text);
      await put(file(head.number, ending), response);
      return checked.at;
    },
    read: async () => {
      const [all, pem] = [await numbers(), await pemText()];
      if (pem === undefined) return all.length === 0 ? [] : undefined;
      const kept: KeptStamp[] = [];
      for (const number of all) kept.push(await check(number, pem));
      return kept;
    },
    latest: async (from, until) => {
      const number = (await numbers()).findLast((one) => one >= from && one <= until);
      const certificates = await pemText();
      if (number === undefined || certificates === undefined) return undefined;
      const [text, response] = await Promise.all([readFile(file(number, ".json"), "utf8").catch(absent), readFile(file(number, ending))]);
      return text === undefined ? undefined : { number, hash: /"hash":"([0-9a-f]{64})"/.exec(text)?.[1] ?? "", text, response, certificates };
    },
  };
}
