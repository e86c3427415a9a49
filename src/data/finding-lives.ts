import { promisify } from "node:util";
import zlib from "node:zlib";
import type { Sequelize } from "sequelize";
import type { Finding } from "@/core/findings/finding";
import { lifeOf } from "@/core/findings/life";
import type { EarlierLook, Life } from "@/core/findings/life";
import { rowsAtOnce, select, selectFirst } from "./statements";

const [gzip, gunzip] = [promisify(zlib.gzip), promisify(zlib.gunzip)];

/** By rule, the subjects of which it could not tell, as they are kept. */
export const keptUntold = (byRule: Readonly<Record<string, readonly string[]>>): Promise<Buffer> => gzip(JSON.stringify(byRule));

/** An earlier looking for findings: what it looked for, and of what it could not tell. */
class EarlierRun {
  private untold: ReturnType<typeof untoldOf> | undefined;

  constructor(
    private readonly sequelize: Sequelize,
    readonly snapshot: number,
    /** Rules that were looked for, but those of which more was found than is kept. */
    private readonly rules: ReadonlySet<string>,
  ) {}

  /** Reads of what it could not tell, once. */
  async couldTell(): Promise<(rule: string, subject: string) => boolean> {
    this.untold ??= untoldOf(this.sequelize, this.snapshot);
    const untold = await this.untold;
    return (rule, subject) => this.rules.has(rule) && !(untold.get(rule)?.has(subject) ?? false);
  }
}

/** The subjects of which each rule could not tell in a snapshot. */
async function untoldOf(sequelize: Sequelize, snapshot: number): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  const row = await selectFirst<{ untold: Buffer | null }>(sequelize, "SELECT untold FROM finding_runs WHERE snapshot = :snapshot", { snapshot });
  if (!row?.untold) return new Map();
  const byRule = JSON.parse((await gunzip(row.untold)).toString("utf8")) as Readonly<Record<string, readonly string[]>>;
  return new Map(Object.entries(byRule).map(([rule, subjects]) => [rule, new Set(subjects)]));
}

/** Further back than this the life of a finding is not followed. */
const runsFollowed = 60;

async function earlierRuns(sequelize: Sequelize, snapshot: number): Promise<EarlierRun[]> {
  const rows = await select<{ snapshot: number; rules: string | null }>(
    sequelize,
    "SELECT snapshot, rules FROM finding_runs WHERE snapshot < :snapshot ORDER BY snapshot DESC LIMIT :limit",
    { snapshot, limit: runsFollowed },
  );
  return rows.map((row) => new EarlierRun(sequelize, row.snapshot, new Set(JSON.parse(row.rules ?? "[]") as string[])));
}

/** A finding, and the hash by which it is found again. */
export interface Kept {
  readonly finding: Finding;
  readonly hash: Buffer;
}

/** The life of each of some findings of a snapshot, in their order. */
export async function livesOf(sequelize: Sequelize, snapshot: number, kept: readonly Kept[]): Promise<Life[]> {
  const runs = await earlierRuns(sequelize, snapshot);
  if (runs.length === 0) return kept.map(() => "new");
  const earlier = await Promise.all(runs.map(async (run) => ({ snapshot: run.snapshot, couldTell: await run.couldTell() })));
  const lives: Life[] = [];
  for (let from = 0; from < kept.length; from += rowsAtOnce) {
    const some = kept.slice(from, from + rowsAtOnce);
    const rows = await select<{ hash: Buffer; snapshot: number }>(
      sequelize,
      "SELECT fingerprint_hash AS hash, snapshot FROM findings WHERE fingerprint_hash IN (:hashes) AND snapshot < :snapshot",
      { hashes: some.map(({ hash }) => hash), snapshot },
    );
    const found = new Map<string, Set<number>>();
    for (const row of rows) {
      const key = row.hash.toString("hex");
      const known = found.get(key);
      if (known) known.add(row.snapshot);
      else found.set(key, new Set([row.snapshot]));
    }
    for (const { finding, hash } of some) {
      const looks = earlier.map((run): EarlierLook => ({ snapshot: run.snapshot, couldTell: run.couldTell(finding.rule, finding.subject.id) }));
      lives.push(lifeOf(looks, found.get(hash.toString("hex")) ?? new Set()));
    }
  }
  return lives;
}

/**
 * Positions of the findings that the snapshot before had and this one has not, of rules that looked for them again and could tell of their subject,
 * and the number of that snapshot; undefined where none was before, or nothing can be said. Those that the one before could not tell of, but an
 * earlier one had, are not among them.
 */
export async function goneFrom(
  sequelize: Sequelize,
  snapshot: number,
): Promise<{ readonly before: number; readonly positions: readonly number[] } | undefined> {
  const [before] = await earlierRuns(sequelize, snapshot);
  const run = before && (await selectFirst<{ rules: string | null }>(sequelize, "SELECT rules FROM finding_runs WHERE snapshot = :snapshot", { snapshot }));
  const rules = JSON.parse(run?.rules ?? "[]") as string[];
  if (!before || rules.length === 0) return undefined;
  const rows = await select<{ position: number; rule: string; subject: string }>(
    sequelize,
    `SELECT f.position, f.rule, f.subject FROM findings f WHERE f.snapshot = :before AND f.rule IN (:rules)
       AND NOT EXISTS (SELECT 1 FROM findings n WHERE n.fingerprint_hash = f.fingerprint_hash AND n.snapshot = :snapshot) ORDER BY f.position`,
    { before: before.snapshot, snapshot, rules },
  );
  const untold = rows.length === 0 ? new Map<string, ReadonlySet<string>>() : await untoldOf(sequelize, snapshot);
  const positions = rows.filter(({ rule, subject }) => !(untold.get(rule)?.has(subject) ?? false)).map(({ position }) => position);
  return { before: before.snapshot, positions };
}

/** So many snapshots are remembered, until their findings, or those of the one before, are made anew. */
const snapshotsRemembered = 3;

/** What is read of a snapshot's findings and of those of the one before, remembered of the last few that were asked for. */
export function rememberedBySnapshot<T>(sequelize: Sequelize, read: (snapshot: number) => Promise<T>): (snapshot: number) => Promise<T> {
  const known = new Map<number, { readonly runs: string; readonly value: Promise<T> }>();
  return async (snapshot) => {
    const made = "SELECT snapshot, made_at FROM finding_runs WHERE snapshot <= :snapshot ORDER BY snapshot DESC LIMIT 2";
    const runs = JSON.stringify(await select(sequelize, made, { snapshot }));
    const before = known.get(snapshot);
    if (before?.runs === runs) return before.value;
    const value = read(snapshot);
    known.set(snapshot, { runs, value });
    value.catch(() => known.delete(snapshot));
    for (const oldest of known.keys()) {
      if (known.size <= snapshotsRemembered) break;
      known.delete(oldest);
    }
    return value;
  };
}
