import { access, readFile, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { parseArgs } from "node:util";
import type { BundleMapping } from "@/intake/formats/tables/read-bundle";
import { stampOfPack, verifyPack } from "@/core/evidence/verify-pack";
import type { Judged } from "@/core/findings/judged";
import { required } from "@/core/kernel/invariant";
import type { VerifiedKind } from "@/operations/evidence/verify-all";
import type { Role } from "@/operations/ports/accounts";
import type { Snapshot } from "@/operations/ports/snapshots";
import type { Services, UnknownInEvents } from "@/operations/services";
import {
  addDemoAccounts,
  addDemoRound,
  demoRounds,
  alteredWords,
  ArchiveError,
  digests,
  filesOfArchive,
  linkFor,
  sitesRefusal,
  packCheckWords,
  packRound,
  backUp,
  BackupError,
  demoSignIns,
  migrateDatabase as migrate,
  PinKeyError,
  previewFile,
  restoreBackup,
  restorePinKey,
  savedPinKey,
  storeFile,
  stampedAt,
  verifyAll,
  judgeSnapshot,
} from "@/wiring/command-line";
import { calendarFile } from "@/intake/formats/calendar/calendar-file";
import { bundleZip } from "@/intake/formats/tables/bundle-zip";
import { checkInput } from "@/wiring/web/check-input";
import { mappingSchema } from "@/wiring/web/mapping-schema";
import { openServices } from "@/wiring/services";
import { exitRefused, printLine, Refusal, say, UsageError } from "./output";

async function withServices<T>(use: (services: Services) => Promise<T>): Promise<T> {
  const services = openServices();
  try {
    return await use(services);
  } finally {
    await services.close();
  }
}

const commandLine = { signIn: "command line" };

/** A mapping of headers: by file, the table that it is and for each header the column, or null to leave it aside. */
async function mappingFile(file: string): Promise<BundleMapping> {
  const text = await readFile(file, "utf8").catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`The file ${file} cannot be read: ${error.code ?? error.message}.`);
  });
  try {
    const checked = checkInput(mappingSchema, JSON.parse(text));
    if (checked.ok) return checked.value;
    throw new UsageError(`${file}: ${checked.error}`);
  } catch (error) {
    if (error instanceof SyntaxError) throw new UsageError(`${file} is no JSON: ${error.message}.`);
    throw error;
  }
}

/** `nomade intake`: takes files in, one after another; stops at the first that is refused. */
export async function intake(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { source: { type: "string" }, "dry-run": { type: "boolean" }, "leave-out": { type: "string" }, mapping: { type: "string" } },
  });
  if (positionals.length === 0) throw new UsageError("intake takes one or more files.");
  for (const file of positionals)
    await access(file).catch(() => {
      throw new UsageError(`The file ${file} cannot be read.`);
    });
  const leaveOut = values["leave-out"] === undefined ? 0 : wholeNumber("leave-out", values["leave-out"]);
  const stated = values.mapping === undefined ? undefined : await mappingFile(values.mapping);
  return withServices(async (services) => {
    const readAs = {
      mapping: stated ?? (values.source === undefined ? {} : await services.sources.mapping(values.source)),
      owns: values.source === undefined ? {} : await services.sources.owns(values.source),
    };
    for (const file of positionals) {
      const name = path.basename(file);
      if (values["dry-run"]) {
        const preview = await previewFile(services, file, name, readAs);
        await printLine(preview);
        if (preview.kind === "refused") return exitRefused;
        continue;
      }
      const taken = await storeFile(services, file, name, values.source ?? "", commandLine, { leaveOut, readAs });
      if (taken.outcome === "refused") {
        for (const error of taken.errors) say(JSON.stringify(error));
        if (taken.errorCount > taken.errors.length) say(`… and ${taken.errorCount - taken.errors.length} more errors; nomade check lists them all.`);
        return exitRefused;
      }
      await printLine(taken);
      if (taken.outcome === "stored" && taken.snapshot !== undefined && values.source === undefined)
        say(`${name}: no source was named (--source), so what it brought is no source's own.`);
      if (taken.outcome === "stored" && taken.unknown) for (const line of unknownWords(taken.unknown)) say(`${name}: ${line}`);
      say(
        taken.outcome === "unchanged"
          ? `${name}: nothing changed, the register stands just so already.`
          : `${name}: stored, ${taken.rows} rows${taken.snapshot === undefined ? "" : `, snapshot ${taken.snapshot}`}.`,
      );
    }
    return 0;
  });
}

/** What of events the register does not know; they are kept, and count for nothing until it does. */
function unknownWords({ doors, credentials, someDoors, someCredentials }: UnknownInEvents): string[] {
  const told = (count: number, one: string, some: readonly string[]): string[] =>
    count === 0
      ? []
      : [`the register knows nothing of ${count} ${one}${count === 1 ? "" : "s"} of these events: ${some.join(", ")}${count > some.length ? ", …" : ""}.`];
  return [...told(doors, "door", someDoors), ...told(credentials, "credential", someCredentials)];
}

/** `nomade pin-key`: saves the key of the PINs' tags to a file, or puts a saved one in place. It is in no backup. */
export async function pinKey(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { out: { type: "string" }, restore: { type: "string" }, replace: { type: "boolean" } } });
  if ((values.out === undefined) === (values.restore === undefined)) throw new UsageError("pin-key takes either --out FILE or --restore FILE.");
  if (values.out !== undefined) {
    await writeFile(values.out, savedPinKey(), { mode: 0o600 });
    say(`${values.out}: the key of the PIN tags. Keep it apart from the backups.`);
    return 0;
  }
  const file = values.restore ?? "";
  const text = await readFile(file, "utf8").catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`The file ${file} cannot be read: ${error.code ?? error.message}.`);
  });
  try {
    restorePinKey(text, values.replace ?? false);
  } catch (error) {
    if (error instanceof PinKeyError) throw new Refusal(error.message);
    throw error;
  }
  say("The key of the PIN tags is in place.");
  return 0;
}

/** `nomade snapshots`: every snapshot, the latest first. */
export async function snapshots(args: readonly string[]): Promise<number> {
  if (args.length > 0) throw new UsageError("snapshots takes no arguments.");
  return withServices(async (services) => {
    for (const { noteCount: notes, ...snapshot } of await services.snapshots.list()) await printLine({ ...snapshot, notes });
    return 0;
  });
}

const wholeNumber = (option: string, text: string): number => {
  if (!/^\d{1,9}$/.test(text)) throw new UsageError(`--${option} takes a whole number, not ${text}.`);
  return Number(text);
};

async function snapshotAsked(services: Services, id: string | undefined) {
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(wholeNumber("snapshot", id));
  if (!snapshot) throw new UsageError(id === undefined ? "There is no snapshot yet." : `There is no snapshot ${id}.`);
  return snapshot;
}

function exported(format: "document" | "csv" | "ics", text: string, { id, takenAt }: Snapshot, calendar: string | undefined): string | Uint8Array {
  if (format === "document") return text;
  if (format === "csv") return bundleZip(text, takenAt);
  const written = calendarFile(text, calendar ?? "");
  if (written === undefined) throw new UsageError(`Snapshot ${id} has no calendar ${calendar ?? ""}.`);
  return written;
}

/** `nomade export`: the frozen document of a snapshot, whose SHA-256 is the snapshot's, or a ZIP of CSV tables that reads back to it. */
export async function exportSnapshot(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({
    args: [...args],
    options: { format: { type: "string" }, out: { type: "string" }, snapshot: { type: "string" }, calendar: { type: "string" } },
  });
  const { out } = values;
  const format = (["document", "csv", "ics"] as const).find((one) => one === values.format);
  if (!format) throw new UsageError("--format takes document, csv or ics.");
  if ((format === "ics") !== (values.calendar !== undefined))
    throw new UsageError("--calendar names the calendar to write where the format is ics, and goes with no other.");
  if (out === undefined) throw new UsageError("export needs --out.");
  return withServices(async (services) => {
    const snapshot = await snapshotAsked(services, values.snapshot);
    const text = await services.snapshots.frozen(snapshot.id).catch((error: unknown) => {
      const words = alteredWords(error);
      throw words === undefined ? error : new Refusal(words);
    });
    await writeFile(out, exported(format, text, snapshot, values.calendar)).catch((error: NodeJS.ErrnoException) => {
      throw new UsageError(`The file ${out} cannot be written: ${error.code ?? error.message}.`);
    });
    await services.record.append(commandLine, services.now(), { what: "snapshot.exported", on: `snapshot ${snapshot.id}` });
    await printLine({ snapshot: snapshot.id, hash: snapshot.hash, out });
    return 0;
  });
}

/** A snapshot as its rules judge it, with what is kept of events, with what was before it and what was decided. */
export const judgedSnapshot = <T>(asked: string | undefined, use: (judged: Judged) => Promise<T>): Promise<T> =>
  withServices(async (services) => {
    const { id } = await snapshotAsked(services, asked);
    return use(required(await judgeSnapshot(services, id), "it was found just now"));
  });

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
  const bytes = await readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`The file ${file} cannot be read: ${error.code ?? error.message}.`);
  });
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
    const pack = await packRound(services, commandLine, wholeNumber("round export", id), () => undefined, seed).catch((error: unknown) => {
      const words = alteredWords(error);
      throw words === undefined ? error : new Refusal(words);
    });
    if (!pack) throw new UsageError(`There is no round ${id}.`);
    await writeFile(out, pack.bytes).catch((error: NodeJS.ErrnoException) => {
      throw new UsageError(`The file ${out} cannot be written: ${error.code ?? error.message}.`);
    });
    await printLine({ round: Number(id), packHash: pack.packHash, files: pack.files, bytes: pack.bytes.length, out });
    return 0;
  });
}

/** `nomade verify`: compares everything that a signature rests on with what it should be, and says what was compared. */
export async function verify(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { head: { type: "string", multiple: true } } });
  const [pack, ...more] = positionals;
  const { head: heads = [] } = values;
  if (more.length > 0 || (pack !== undefined && heads.length > 0)) throw new UsageError("verify takes an evidence pack, or heads (--head NUMBER:HASH), or nothing.");
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

/** `nomade backup`: everything into one file, of one moment. */
export async function backup(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { out: { type: "string" } } });
  const { out } = values;
  if (out === undefined) throw new UsageError("backup needs --out.");
  return withServices(async (services) => {
    await services.record.append(commandLine, services.now(), { what: "backup.made", on: path.basename(out) });
    await asRefusal(() => backUp(out, services.now()));
    await printLine({ out, bytes: (await stat(out)).size });
    return 0;
  });
}

/** `nomade restore`: puts a backup in the place of the register; the record goes on from where the backup's ends. */
export async function restore(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options: { replace: { type: "boolean" } } });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new UsageError("restore takes one file.");
  const { at } = await asRefusal(() => restoreBackup(file, !!values.replace));
  return withServices(async (services) => {
    await services.record.append(commandLine, services.now(), { what: "backup.restored", on: path.basename(file), after: { madeAt: at } });
    const found = await services.record.verify();
    await printLine({ restored: file, madeAt: at, snapshots: (await services.snapshots.list()).length, recordIsSound: found.sound });
    return found.sound ? 0 : exitRefused;
  });
}

async function asRefusal<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof BackupError || error instanceof ArchiveError) throw new Refusal(error.message);
    throw error;
  }
}

const roles: readonly Role[] = ["administrator", "reviewer", "manager", "owner", "auditor"];

async function addAccount(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({
    args: [...args],
    options: {
      "sign-in": { type: "string" },
      name: { type: "string" },
      role: { type: "string" },
      cardholder: { type: "string" },
      email: { type: "string" },
      site: { type: "string", multiple: true },
    },
  });
  const role = roles.find((one) => one === values.role);
  const { "sign-in": signIn, name, cardholder, email, site: sites } = values;
  if (signIn === undefined || name === undefined || !role) throw new UsageError(`account add needs --sign-in, --name and --role (${roles.join(", ")}).`);
  const password = process.env.NOMADE_PASSWORD ?? "";
  if (password.length < 12) throw new UsageError("Set NOMADE_PASSWORD to a password of at least 12 characters.");
  return withServices(async (services) => {
    const why = await sitesRefusal(services, role, sites);
    if (why)
      throw new Refusal(
        why === "no-site" ? `The register does not have all of the sites ${(sites ?? []).join(", ")}.` : "Only reviewers and auditors can be limited to sites.",
      );
    const passwordHash = await services.passwords.hash(password);
    await services.accounts.put({ signIn, name, role, cardholder, passwordHash, email, ...(sites && { sites }) }, commandLine, services.now());
    return 0;
  });
}

/**
 * `nomade account`: adds accounts; `demo` adds those of the demo, `demo --list` shows them, `demo --round NAME` has them certify as they did in the
 * demo's rounds.
 */
export async function account(args: readonly string[]): Promise<number> {
  const [what, ...rest] = args;
  if (what === "add") return addAccount(rest);
  if (what === "list") return listAccounts(rest);
  if (what === "end" || what === "reset") return endOrReset(what, rest);
  if (what !== "demo") throw new UsageError("account takes add, list, end, reset, or demo.");
  return withServices(async (services) => {
    if (rest[0] === "--list") for (const line of await demoSignIns(services)) process.stdout.write(`${line}\n`);
    else if (rest[0] === "--round") {
      const round = demoRounds.find((one) => one === rest[1]);
      if (!round) throw new UsageError(`account demo --round takes one of ${demoRounds.join(", ")}.`);
      await addDemoRound(services, round);
    } else await addDemoAccounts(services);
    return 0;
  });
}

/** `nomade account list`: every account with its state. */
async function listAccounts(args: readonly string[]): Promise<number> {
  if (args.length > 0) throw new UsageError("account list takes no arguments.");
  return withServices(async (services) => {
    for (const account of await services.accounts.details()) await printLine(account);
    return 0;
  });
}

/**
 * `nomade account end` and `reset`: ends an account, or takes its password and second factor away; its sessions end at once. The last administrator
 * may go, too: `account add` makes another.
 */
async function endOrReset(what: "end" | "reset", args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { "sign-in": { type: "string" } } });
  const signIn = values["sign-in"];
  if (signIn === undefined) throw new UsageError(`account ${what} needs --sign-in.`);
  return withServices(async (services) => {
    const found = await services.accounts.bySignIn(signIn);
    if (!found) throw new Refusal(`There is no account ${signIn} that is not ended.`);
    const { accounts } = services;
    const at = services.now();
    await (what === "end" ? accounts.end(found.id, true, commandLine, at) : accounts.reset(found.id, commandLine, at));
    await printLine({
      signIn,
      [what === "end" ? "ended" : "reset"]: at,
      ...(what === "reset" && { link: `${services.mailSender.address ?? ""}${await linkFor(services, found.id)}` }),
    });
    return 0;
  });
}

/** `nomade migrate`: brings the schema up to date; runs as the database's owner. */
export async function migrateDatabase(): Promise<number> {
  await migrate();
  return 0;
}
