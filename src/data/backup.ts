import { spawn } from "node:child_process";
import { createReadStream, createWriteStream } from "node:fs";
import { mkdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { PassThrough, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { createGunzip, createGzip } from "node:zlib";
import Joi from "joi";
import { required } from "@/core/kernel/invariant";
import { ownDatabase } from "@/data/whole-database";
import { recordHeadsFile } from "@/data/record-store";
import type { DatabaseSettings } from "./connection";
import { migrateAsOwner } from "./migrate";

/** A backup is one gzip of text: a line that says what it is, with the heads of the record, then the database as SQL. */
interface BackupHead {
  readonly format: "nomade.backup/1";
  readonly at: string;
  readonly database: string;
  readonly recordHeads: string;
}

const headSchema = Joi.object<BackupHead>({
  format: Joi.valid("nomade.backup/1").required(),
  at: Joi.string().required(),
  database: Joi.string().required(),
  recordHeads: Joi.string().allow("").required(),
});
const headMark = "-- ";
const longestHead = 64 * 1024 * 1024;
/** What the dump's last line begins with where all of it was written. */
const completed = "-- Dump completed";

/** What is backed up: a database as its owner reaches it, and the folder beside it. */
export interface Installation {
  readonly database: DatabaseSettings;
  readonly dataFolder: string;
}

/** A backup that cannot be made or restored, in words for a person. */
export class BackupError extends Error {}

/** A program of the database's own, on the private server; the password goes by the environment, where other users do not see it. */
function databaseProgram({ port, user, password }: DatabaseSettings, program: string, args: readonly string[], input: "ignore" | "pipe") {
  const child = spawn(program, ["--no-defaults", "--protocol=tcp", "--host=127.0.0.1", `--port=${port}`, `--user=${user}`, ...args], {
    stdio: [input, "pipe", "pipe"],
    env: { ...process.env, MYSQL_PWD: password },
  });
  let said = "";
  const [output, errors] = [required(child.stdout, "it is piped"), required(child.stderr, "it is piped")];
  errors.on("data", (chunk: Buffer) => (said += chunk.toString("utf8")));
  const done = new Promise<void>((resolve, reject) => {
    child.once("error", (error) => reject(new BackupError(`${program} cannot be run (${error.message}).`)));
    child.once("close", (status) => (status === 0 ? resolve() : reject(new BackupError(`${program} ended with ${status}: ${said.trim().slice(0, 400)}`))));
  });
  return { child, output, done };
}

/** Writes everything that the database and the folder beside it hold to a file: all of one moment, or no file at all. */
export async function backUp({ database, dataFolder }: Installation, out: string, at: string): Promise<void> {
  const { name } = database;
  const head: BackupHead = { format: "nomade.backup/1", at, database: name, recordHeads: await readFile(recordHeadsFile(dataFolder), "utf8").catch(() => "") };
  const unfinished = `${out}.unfinished`;
  const { output, done } = databaseProgram(
    database,
    "mariadb-dump",
    ["--single-transaction", "--skip-add-locks", "--no-tablespaces", "--hex-blob", "--default-character-set=utf8mb4", name],
    "ignore",
  );
  const all = new PassThrough();
  all.write(`${headMark}${JSON.stringify(head)}\n`);
  output.pipe(all);
  try {
    await Promise.all([done, pipeline(all, createGzip(), createWriteStream(unfinished, { mode: 0o600 }))]);
    await rename(unfinished, out);
  } catch (error) {
    await rm(unfinished, { force: true });
    if (error instanceof BackupError) throw error;
    throw new BackupError(`The file ${out} cannot be written: ${(error as Error).message}.`);
  }
}

/** Takes the first line off a stream, and remembers the end of what passes. */
class HeadOff extends Transform {
  private before: Buffer[] = [];
  private size = 0;
  private head: BackupHead | undefined;
  private tail = "";

  override _transform(chunk: Buffer, _encoding: BufferEncoding, next: (error?: Error | null, data?: Buffer) => void): void {
    if (this.head) return next(null, this.passed(chunk));
    const end = chunk.indexOf(0x0a);
    this.before.push(end < 0 ? chunk : chunk.subarray(0, end));
    this.size += chunk.length;
    if (end < 0) return next(this.size > longestHead ? new BackupError("It does not begin as a backup of Nomade does.") : null);
    try {
      this.head = headOf(Buffer.concat(this.before).toString("utf8"));
      next(null, this.passed(chunk.subarray(end + 1)));
    } catch (error) {
      next(error as Error);
    }
  }

  private passed(chunk: Buffer): Buffer {
    this.tail = (this.tail + chunk.toString("latin1")).slice(-4096);
    return chunk;
  }

  /** What the backup says of itself; refused where its end is missing. */
  whole(): BackupHead {
    if (!this.head) throw new BackupError("It is empty.");
    if (!this.tail.includes(completed)) throw new BackupError("Its end is missing: it was cut off.");
    return this.head;
  }
}

function headOf(line: string): BackupHead {
  if (!line.startsWith(headMark)) throw new BackupError("It does not begin as a backup of Nomade does.");
  let value: unknown;
  try {
    value = JSON.parse(line.slice(headMark.length));
  } catch {
    throw new BackupError("It does not begin as a backup of Nomade does.");
  }
  const checked = headSchema.validate(value, { abortEarly: false, convert: false });
  if (checked.error) throw new BackupError(`It is no backup that this Nomade can read: ${checked.error.message}.`);
  return checked.value;
}

/**
 * Puts a backup in the place of the register. It is loaded beside it and looked through first, so that a file that is broken
 * leaves everything as it was. A register that holds snapshots is only replaced where that is said.
 */
export async function restoreBackup({ database: settings, dataFolder }: Installation, file: string, replace: boolean): Promise<{ readonly at: string }> {
  const database = ownDatabase(settings);
  const beside = `${settings.name}_restoring`;
  try {
    if (!replace && (await database.snapshots(settings.name)) > 0)
      throw new BackupError("There is a register already. Say --replace to put the backup in its place; what is there now is gone then.");
    await database.makeAnew(beside);
    const head = await load(settings, file, beside);
    if ((await database.snapshots(beside)) < 0) throw new BackupError("There is no register in it.");
    await database.putInPlace(beside, settings.name);
    await mkdir(dataFolder, { recursive: true, mode: 0o700 });
    await writeFile(recordHeadsFile(dataFolder), head.recordHeads, { mode: 0o600 });
    await migrateAsOwner(settings);
    return { at: head.at };
  } catch (error) {
    if (error instanceof BackupError) throw new BackupError(`${file}: ${error.message}`);
    throw error;
  } finally {
    await database.drop(beside);
    await database.close();
  }
}

async function load(settings: DatabaseSettings, file: string, into: string): Promise<BackupHead> {
  const { child, done } = databaseProgram(settings, "mariadb", ["--default-character-set=utf8mb4", into], "pipe");
  const head = new HeadOff();
  const source = createReadStream(file);
  try {
    if (!child.stdin) throw new BackupError("mariadb cannot be run.");
    await Promise.all([done, pipeline(source, createGunzip(), head, child.stdin)]);
    return head.whole();
  } catch (error) {
    child.kill();
    await done.catch(() => undefined);
    if (error instanceof BackupError) throw error;
    const { code, message } = error as NodeJS.ErrnoException;
    throw new BackupError(
      code === "ENOENT" ? "There is no such file." : code?.startsWith("Z_") ? "It is no gzip, or it is broken." : `It cannot be read (${message}).`,
    );
  }
}
