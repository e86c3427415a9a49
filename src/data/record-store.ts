import { createHash } from "node:crypto";
import { appendFile, readFile } from "node:fs/promises";
import path from "node:path";
import type { Sequelize, Transaction } from "sequelize";
import { chainStart, entryText, walkChain } from "@/core/evidence/chain";
import type { RecordEntry } from "@/core/evidence/chain";
import type { Actor, AskedEntries, Recorded, RecordStore, RecordVerification } from "@/operations/ports/record";
import { insertRows, select, selectFirst } from "./statements";

export const sha256 = (text: string): string => createHash("sha256").update(text).digest("hex");

interface StoredEntry {
  readonly number: number;
  readonly at: string;
  readonly who: string;
  readonly what: string;
  readonly on_what: string;
  readonly values_hash: string;
  readonly previous_hash: string;
  readonly hash: string;
  readonly content?: string | null;
}

const asEntry = (row: StoredEntry): RecordEntry => ({
  number: row.number,
  at: row.at,
  who: row.who,
  what: row.what,
  on: row.on_what,
  valuesHash: row.values_hash,
  previousHash: row.previous_hash,
  hash: row.hash,
});

/**
 * Adds entries, in their order, within the transaction of the changes that they speak of. Writers take turns on the lock of `record_turn`, so the
 * chain cannot fork; the lock is held until that transaction ends. Cost: a handful of statements, however many entries.
 */
export async function appendRecords(sequelize: Sequelize, transaction: Transaction, who: Actor, at: string, recorded: readonly Recorded[]): Promise<void> {
  if (recorded.length === 0) return;
  await select(sequelize, "SELECT id FROM record_turn WHERE id = 1 FOR UPDATE", {}, transaction);
  const last = await selectFirst<StoredEntry>(sequelize, "SELECT * FROM record_entries ORDER BY number DESC LIMIT 1", {}, transaction);
  const entries: object[] = [];
  const values: object[] = [];
  let [number, previousHash] = [last?.number ?? 0, last?.hash ?? chainStart];
  for (const { what, on, before, after } of recorded) {
    const content = before === undefined && after === undefined ? undefined : JSON.stringify({ before, after });
    const entry: Omit<RecordEntry, "hash"> = {
      number: ++number,
      at,
      who: who.signIn,
      what,
      on,
      valuesHash: content === undefined ? "" : sha256(content),
      previousHash,
    };
    previousHash = sha256(entryText(entry));
    entries.push({ number, at, who: entry.who, what, on_what: on, values_hash: entry.valuesHash, previous_hash: entry.previousHash, hash: previousHash });
    if (content !== undefined) values.push({ number, content });
  }
  await insertRows(sequelize, "record_entries", entries, transaction);
  await insertRows(sequelize, "record_values", values, transaction);
}

/** The same with one entry. */
export const appendRecord = (sequelize: Sequelize, transaction: Transaction, who: Actor, at: string, recorded: Recorded): Promise<void> =>
  appendRecords(sequelize, transaction, who, at, [recorded]);

/** Whoever owns the database could write a whole chain anew; the heads written beside it would then not fit. */
export const recordHeadsFile = (folder: string): string => path.join(folder, "record-heads.jsonl");

/** Writes the present head of the chain beside the database. Call it after the commit. */
export async function writeHead(sequelize: Sequelize, folder: string): Promise<void> {
  const last = await selectFirst<StoredEntry>(sequelize, "SELECT number, hash FROM record_entries ORDER BY number DESC LIMIT 1");
  if (last) await appendFile(recordHeadsFile(folder), `${JSON.stringify({ number: last.number, hash: last.hash })}\n`);
}

const pageSize = 5000;

async function allEntries(sequelize: Sequelize): Promise<{ entries: RecordEntry[]; altered: number | undefined; withoutValues: number[] }> {
  const entries: RecordEntry[] = [];
  let altered: number | undefined;
  const withoutValues: number[] = [];
  for (let after = 0; ;) {
    const rows = await select<StoredEntry>(
      sequelize,
      "SELECT e.*, v.content FROM record_entries e LEFT JOIN record_values v ON v.number = e.number WHERE e.number > :after ORDER BY e.number LIMIT :limit",
      { after, limit: pageSize },
    );
    for (const row of rows) {
      entries.push(asEntry(row));
      // Values may have been deleted when their time was over; what is there must be what was hashed.
      if (row.content == null && row.values_hash !== "") withoutValues.push(row.number);
      if (row.content != null && sha256(row.content) !== row.values_hash) altered ??= row.number;
    }
    if (rows.length < pageSize) return { entries, altered, withoutValues };
    after = rows[rows.length - 1]?.number ?? after;
  }
}

async function verify(sequelize: Sequelize, folder: string): Promise<RecordVerification> {
  // Heads first: entries written while we read are then beyond them, not missing.
  const { heads, malformed, notes } = await readHeads(folder);
  const { entries, altered, withoutValues } = await allEntries(sequelize);
  const chain = walkChain(entries, sha256);
  if (!chain.whole) return { sound: false, chain, why: `Entry ${chain.number} does not fit the chain (${chain.why}).` };
  if (altered !== undefined) return { sound: false, chain, why: `The values of entry ${altered} are not those that were recorded.` };
  if (malformed !== undefined)
    return { sound: false, chain, why: `Line ${malformed} of the heads written beside the database is no head; expected {"number": …, "hash": …}.` };
  const broken = heads.find(({ number, hash }) => entries[number - 1]?.hash !== hash);
  if (broken) return { sound: false, chain, why: `Entry ${broken.number} is not the one whose hash was written beside the database.` };
  const last = heads.at(-1)?.number ?? 0;
  // A head is written after each change, so that one may be missing where the program was stopped in between; more tell of a file that was cut.
  const short =
    heads.length > 0 && chain.count - last > headsMayLag
      ? [`The heads written beside the database end at entry ${last} of ${chain.count}: what came after stands in the database alone.`]
      : [];
  return { sound: true, count: chain.count, head: chain.head, withoutValues, notes: chain.count === 0 ? [] : [...notes, ...short] };
}

const headsMayLag = 100;

const isHead = (value: unknown): value is { number: number; hash: string } =>
  typeof value === "object" &&
  value !== null &&
  Number.isInteger((value as { number?: unknown }).number) &&
  typeof (value as { hash?: unknown }).hash === "string";

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}

/**
 * The heads written beside the database. A file that is not there is told; so is a last line that was torn, which is passed over; `malformed` is the first
 * other line that is no head.
 */
async function readHeads(
  folder: string,
): Promise<{ readonly heads: readonly { number: number; hash: string }[]; readonly malformed: number | undefined; readonly notes: readonly string[] }> {
  const text = await readFile(recordHeadsFile(folder), "utf8").catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return undefined;
    throw error;
  });
  if (text === undefined || text === "")
    return {
      heads: [],
      malformed: undefined,
      notes: [
        `There are no heads beside the database (${path.basename(recordHeadsFile(folder))}): whether its end was cut off, or the whole of it written anew, cannot be told.`,
      ],
    };
  const lines = text.split("\n");
  const torn = lines.pop() ?? "";
  const heads: { number: number; hash: string }[] = [];
  let malformed: number | undefined;
  let isTorn = torn !== "";
  lines.forEach((line, i) => {
    if (line === "") return;
    // What follows a torn line stands on the same line, and is whole.
    const [, fragment = "", whole = ""] = /^(.*?)(\{"number":\d+,"hash":"[0-9a-f]{64}"\})$/.exec(line) ?? [];
    const value = parsed(whole);
    if (isHead(value) && (fragment === "" || '{"number":'.startsWith(fragment.slice(0, 10)))) {
      heads.push(value);
      isTorn ||= fragment !== "";
    } else malformed ??= i + 1;
  });
  return {
    heads,
    malformed,
    notes: isTorn ? ["A line of the heads written beside the database is torn, as when the machine stopped while it was written; it is passed over."] : [],
  };
}

/** Whatever stands around it; each letter of it stands for itself. */
const anywhere = (text: string): string => `%${text.replace(/[\\%_]/g, "\\$&")}%`;

/** What entries have to fulfil, and the values in it. Each part of a text is looked for literally, whatever its letters' case. */
function conditionsOf(asked: AskedEntries): [readonly string[], Readonly<Record<string, unknown>>] {
  const { before, what, text = "", textAsWhat = [], who, from, until, on = [], finding, object } = asked;
  const conditions = ["e.number < :before"];
  if (what !== undefined) conditions.push("e.what = :what");
  if (who !== undefined) conditions.push("e.who = :who");
  if (from !== undefined) conditions.push("e.at >= :from");
  // Dates and times of one form stand in the order of their texts; "T" comes before "U".
  if (until !== undefined) conditions.push("e.at < CONCAT(:until, 'U')");
  if (text !== "")
    conditions.push("(LOWER(e.who) LIKE LOWER(:like) OR LOWER(e.on_what) LIKE LOWER(:like) OR LOWER(v.content) LIKE LOWER(:like) OR e.what IN (:textAsWhat))");
  if (on.length > 0) conditions.push(`(e.on_what IN (:on) OR ${on.map((_, i) => `e.on_what LIKE :of${i}`).join(" OR ")})`);
  if (finding !== undefined) conditions.push("v.content LIKE :finding");
  if (object) conditions.push("v.content LIKE :object");
  return [
    conditions,
    {
      before: before ?? Number.MAX_SAFE_INTEGER,
      what,
      who,
      from,
      until,
      on,
      like: anywhere(text),
      textAsWhat: ["", ...textAsWhat],
      finding: anywhere(`"fingerprint":${JSON.stringify(finding ?? "")}`),
      object: anywhere(`"list":${JSON.stringify(object?.list ?? "")},"key":${JSON.stringify(object?.id ?? "")}`),
      ...Object.fromEntries(on.map((one, i) => [`of${i}`, anywhere(` of ${one}`).replace(/%$/, "")])),
    },
  ];
}

export const recordStore = (sequelize: Sequelize, folder: string): RecordStore => ({
  append: async (who, at, recorded) => {
    await sequelize.transaction((transaction) => appendRecord(sequelize, transaction, who, at, recorded));
    await writeHead(sequelize, folder);
  },
  people: async () => (await select<{ who: string }>(sequelize, "SELECT DISTINCT who FROM record_entries ORDER BY who")).map(({ who }) => who),
  page: async (asked, limit) => {
    const [conditions, replacements] = conditionsOf(asked);
    const rows = await select<StoredEntry>(
      sequelize,
      `SELECT e.*, v.content FROM record_entries e LEFT JOIN record_values v ON v.number = e.number WHERE ${conditions.join(" AND ")} ORDER BY e.number DESC LIMIT :limit`,
      { ...replacements, limit },
    );
    return rows.map((row) => ({ ...asEntry(row), content: row.content ?? undefined }));
  },
  since: async (what, on) => {
    const rows = await select<StoredEntry>(
      sequelize,
      `SELECT e.*, v.content FROM record_entries e LEFT JOIN record_values v ON v.number = e.number
       WHERE e.number >= (SELECT MIN(f.number) FROM record_entries f WHERE f.what = :what AND f.on_what = :on) ORDER BY e.number`,
      { what, on },
    );
    return rows.map((row) => ({ ...asEntry(row), content: row.content ?? undefined }));
  },
  verify: () => verify(sequelize, folder),
});
