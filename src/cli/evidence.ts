import { parseArgs } from "node:util";
import { stampOfPack, verifyPack } from "@/core/evidence/verify-pack";
import type { VerifiedKind } from "@/operations/evidence/verify-all";
import { digests, filesOfArchive, packCheckWords, packRound, stampedAt, verifyAll } from "@/wiring/command-line";
import { exitRefused, printLine, say, UsageError } from "./output";
import { asRefusal, bytesOf, commandLine, wholeNumber, withServices, writeTo } from "./with-database";

const problemsNamed = 50;

const kindNames: Readonly<Record<VerifiedKind, string>> = {
  record: "entries of the record",
  anchors: "heads written outside",
  timeStamps: "time stamps over the record",
  snapshots: "snapshots against their hashes and the record",
  registerRows: "rows of the register against the frozen documents",
  decidedLines: "decided lines against the record",
  signedDockets: "signed dockets against what was signed",
  orders: "orders against decisions",
  accounts: "accounts against the record",
  values: "entries that have their values",
};

/** `nomade verify PACK.zip`: everything that can be told of an evidence pack from itself, without a database. */
async function verifyPackFile(file: string): Promise<number> {
  const bytes = await bytesOf(file);
  const files = await asRefusal(() => Promise.resolve().then(() => filesOfArchive(bytes)));
  const stamp = stampOfPack(files);
  const { sound, packHash, checks, manifest } = verifyPack(files, digests, stamp && { at: await stampedAt(stamp.response, stamp.text, stamp.certificates) });
  await printLine({ sound, packHash, checks, ...(manifest && { round: manifest.round.id, snapshot: manifest.snapshot.hash, head: manifest.record.head }) });
  for (const check of checks) say(packCheckWords(check));
  say(`SHA-256 of SHA256SUMS: ${packHash}. Compare it with the entry round.exported in the record of the installation.`);
  return sound ? 0 : exitRefused;
}

/** `nomade round export`: the evidence pack of a round. */
export async function round(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { out: { type: "string" }, seed: { type: "string" } } });
  const [what, id, ...more] = positionals;
  const { out, seed } = values;
  if (what !== "export" || id === undefined || more.length > 0) throw new UsageError("round takes export ID --out PACK.zip.");
  if (out === undefined) throw new UsageError("round export needs --out.");
  if (seed !== undefined && !/^[\x21-\x7e]{1,128}$/.test(seed)) throw new UsageError("--seed takes up to 128 visible characters of ASCII.");
  return withServices(async (services) => {
    const pack = await asRefusal(() => packRound(services, commandLine, wholeNumber("round export", id), () => undefined, seed));
    if (!pack) throw new UsageError(`There is no round ${id}.`);
    await writeTo(out, pack.bytes);
    await printLine({ round: Number(id), packHash: pack.packHash, files: pack.files, bytes: pack.bytes.length, out });
    return 0;
  });
}

/** `nomade verify`: compares everything that a signature rests on with what it should be, and says what was compared. */
export async function verify(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { head: { type: "string", multiple: true } } });
  const [pack, ...more] = positionals;
  const { head: heads = [] } = values;
  if (more.length > 0 || (pack !== undefined && heads.length > 0))
    throw new UsageError("verify takes an evidence pack, or heads (--head NUMBER:HASH), or nothing.");
  if (pack !== undefined) return verifyPackFile(pack);
  const held = heads.map((text) => {
    const [, number = "", hash = ""] = /^([1-9]\d{0,14}):([0-9a-f]{64})$/.exec(text) ?? [];
    if (hash === "") throw new UsageError(`--head is ${text}; expected NUMBER:HASH, with a SHA-256 in 64 digits.`);
    return { number: Number(number), hash };
  });
  return withServices(async (services) => {
    const { problems, notes, ...found } = await verifyAll(services, held);
    await printLine({ ...found, notes });
    for (const { what, count, problem } of found.kinds)
      if (!(what === "anchors" || what === "timeStamps") || count > 0 || problem !== undefined)
        say(`${kindNames[what]}: ${count.toLocaleString("en-GB")}, ${problem === undefined ? "sound" : `not sound. ${problem}`}`);
    for (const problem of problems.slice(0, problemsNamed)) say(problem);
    if (problems.length > problemsNamed) say(`… and ${problems.length - problemsNamed} more.`);
    return found.sound ? 0 : exitRefused;
  });
}
