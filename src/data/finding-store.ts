import { promisify } from "node:util";
import zlib from "node:zlib";
import type { Sequelize } from "sequelize";
import type { CannotTell, Finding, RuleKey, SubjectKind } from "@/core/findings/finding";
import { mostOfARule } from "@/core/findings/find";
import { lifeOf } from "@/core/findings/life";
import type { EarlierLook, Life } from "@/core/findings/life";
import type { FindingFilter, FindingGrouping, FindingStore, StoredFinding } from "@/operations/ports/findings";
import { loadRows } from "./load-rows";
import type { LoadedValue } from "./load-rows";
import { execute, insertRows, rowsAtOnce, select, selectFirst } from "./statements";
import { asWaiver, fingerprintHash } from "./triage-store";
import type { WaiverRow } from "./triage-store";

const [gzip, gunzip] = [promisify(zlib.gzip), promisify(zlib.gunzip)];

interface FindingRow {
  readonly position: number;
  readonly rule: string;
  readonly fingerprint: string;
  readonly subject_kind: SubjectKind;
  readonly subject: string;
  readonly cardholder: string | null;
  readonly risk: number;
  /** The words of a finding that was made before they were left to whoever tells it. */
  readonly sentence: string | null;
  readonly remedy: string | null;
  readonly proof: string;
  readonly parts: string;
  readonly since_minute: number | null;
  readonly life: Life | null;
}

/** A finding with what people did about it. */
interface ListedRow extends FindingRow {
  readonly waiver_id?: number | null;
  readonly reason?: string | null;
  readonly until_date?: string | null;
  readonly waiver_risk?: number | null;
  readonly made_by?: string | null;
  readonly made_at?: string | null;
  readonly confirmed_by?: string | null;
  readonly assignee?: string | null;
  readonly notes?: number | null;
}

/** What tells findings apart stands at the end of a fingerprint; those of before are written with bars between. */
function distinctOf({ rule, fingerprint, subject, subject_kind }: FindingRow): readonly string[] {
  if (fingerprint.startsWith("[")) return (JSON.parse(fingerprint) as string[]).slice(3);
  const head = `${rule}|${subject_kind}|${subject}|`;
  return fingerprint.startsWith(head) ? [fingerprint.slice(head.length)] : [];
}

function waiverOf(row: ListedRow): Pick<StoredFinding, "waiver"> {
  if (row.waiver_id == null) return {};
  const waiver: WaiverRow = {
    id: row.waiver_id,
    fingerprint: row.fingerprint,
    reason: row.reason ?? "",
    until_date: row.until_date ?? "",
    risk: row.waiver_risk ?? 0,
    made_by: row.made_by ?? "",
    made_at: row.made_at ?? "",
    confirmed_by: row.confirmed_by ?? null,
    ended_by: null,
    ended_at: null,
  };
  return { waiver: asWaiver(waiver) };
}

/** What was written by this store is of the kind of its rule. */
const asFinding = (row: ListedRow): StoredFinding =>
  ({
    position: row.position,
    rule: row.rule,
    fingerprint: row.fingerprint,
    subject: { kind: row.subject_kind, id: row.subject },
    distinct: distinctOf(row),
    ...(row.cardholder !== null && { cardholder: row.cardholder }),
    risk: row.risk,
    proof: JSON.parse(row.proof) as unknown,
    terms: row.sentence === null ? (JSON.parse(row.parts) as unknown) : [],
    ...(row.since_minute !== null && { since: Number(row.since_minute) }),
    ...(row.life !== null && { life: row.life }),
    ...waiverOf(row),
    ...(row.assignee != null && { assignee: row.assignee }),
    ...(row.notes != null && Number(row.notes) > 0 && { notes: Number(row.notes) }),
    ...(row.sentence !== null && {
      written: { sentence: row.sentence, remedy: row.remedy ?? "", proof: JSON.parse(row.proof) as unknown, terms: JSON.parse(row.parts) as unknown },
    }),
  }) as StoredFinding;

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

interface Kept {
  readonly finding: Finding;
  readonly hash: Buffer;
}

/** The life of each of some findings of a snapshot, in their order. */
async function livesOf(sequelize: Sequelize, snapshot: number, kept: readonly Kept[]): Promise<Life[]> {
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
async function goneFrom(sequelize: Sequelize, snapshot: number): Promise<{ readonly before: number; readonly positions: readonly number[] } | undefined> {
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

const groupColumn: Readonly<Record<FindingGrouping, string>> = {
  rule: "f.rule",
  cardholder: "IF(f.cardholder IS NULL, CONCAT(f.subject_kind, ' ', f.subject), CONCAT('cardholder ', f.cardholder))",
  area: "f.area",
  manager: "f.manager",
  department: "f.department",
};

/** What hides a finding, or waits to. */
const waiverJoin = `LEFT JOIN finding_waivers w ON w.fingerprint_hash = f.fingerprint_hash AND w.ended_at IS NULL AND w.until_date >= :today`;

/** Conditions of a filter; undefined where nothing can hold. */
function conditionsOf(
  snapshot: number,
  filter: FindingFilter,
  today: string,
): { readonly where: string; readonly values: Record<string, unknown> } | undefined {
  const conditions = ["f.snapshot = :snapshot"];
  const values: Record<string, unknown> = { snapshot, today };
  const { rule, life, cardholders, credentials, subject, group, assignee, waived = "without" } = filter;
  if (rule !== undefined) {
    conditions.push("f.rule = :rule");
    values.rule = rule;
  }
  if (life !== undefined) {
    conditions.push("f.life = :life");
    values.life = life;
  }
  if (cardholders ?? credentials) {
    const about: string[] = [];
    if (cardholders?.length) about.push("f.cardholder IN (:cardholders)");
    if (credentials?.length) about.push("(f.subject IN (:credentials) AND f.subject_kind = 'credential')");
    // Asked about nobody, it knows of nothing.
    if (about.length === 0) return undefined;
    conditions.push(`(${about.join(" OR ")})`);
    Object.assign(values, { cardholders, credentials });
  }
  if (subject) {
    conditions.push("f.subject_kind = :subjectKind AND f.subject = :subject");
    Object.assign(values, { subjectKind: subject.kind, subject: subject.id });
  }
  if (group) {
    conditions.push(group.key === "" ? `${groupColumn[group.by]} IS NULL` : `${groupColumn[group.by]} = :groupKey`);
    values.groupKey = group.key;
  }
  if (assignee !== undefined) {
    conditions.push("a.assignee = :assignee");
    values.assignee = assignee;
  }
  if (waived === "without") conditions.push("w.confirmed_by IS NULL");
  if (waived === "only") conditions.push("w.confirmed_by IS NOT NULL");
  return { where: conditions.join(" AND "), values };
}

const assignmentJoin = "LEFT JOIN finding_assignments a ON a.fingerprint_hash = f.fingerprint_hash";

const findingColumns =
  "snapshot, position, rule, fingerprint, fingerprint_hash, subject_kind, subject, cardholder, risk, proof, parts, since_minute, life, area, department, manager";
const loadedColumns = `(${findingColumns.replace("fingerprint_hash", "@hash")}) SET fingerprint_hash = UNHEX(@hash)`;

/** So many snapshots are remembered, until their findings, or those of the one before, are made anew. */
const snapshotsRemembered = 3;

/** What is read of a snapshot's findings and of those of the one before, remembered of the last few that were asked for. */
function rememberedBySnapshot<T>(sequelize: Sequelize, read: (snapshot: number) => Promise<T>): (snapshot: number) => Promise<T> {
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

export function findingStore(sequelize: Sequelize): FindingStore {
  const gone = rememberedBySnapshot(sequelize, (snapshot) => goneFrom(sequelize, snapshot));
  const listed = (where: string, values: Readonly<Record<string, unknown>>) =>
    select<ListedRow>(
      sequelize,
      `SELECT f.*, w.id AS waiver_id, w.reason, w.until_date, w.risk AS waiver_risk, w.made_by, w.made_at, w.confirmed_by, a.assignee,
         (SELECT COUNT(*) FROM finding_notes n WHERE n.fingerprint_hash = f.fingerprint_hash) AS notes
       FROM findings f ${waiverJoin} ${assignmentJoin} WHERE ${where}`,
      values,
    );
  return {
    put: async (snapshot, { findings, cannotTell, totals }, placeOf, earlier, at) => {
      const kept = findings.map((finding): Kept => ({ finding, hash: fingerprintHash(finding.fingerprint) }));
      const lives = await livesOf(sequelize, snapshot, kept);
      const isBeyond = (rule: RuleKey): boolean => (totals.get(rule) ?? 0) > mostOfARule;
      const rows = kept.map(({ finding, hash }, position): LoadedValue[] => {
        const { area, department, manager } = placeOf(finding);
        return [
          snapshot,
          position,
          finding.rule,
          finding.fingerprint,
          hash.toString("hex"),
          finding.subject.kind,
          finding.subject.id,
          finding.cardholder ?? null,
          finding.risk,
          JSON.stringify(finding.proof),
          JSON.stringify(finding.terms),
          finding.since ?? null,
          isBeyond(finding.rule) ? null : (lives[position] ?? null),
          area ?? null,
          department ?? null,
          manager ?? null,
        ];
      });
      const untold = await gzip(JSON.stringify(Object.fromEntries(cannotTell.map(({ rule, subjects }) => [rule, subjects]))));
      // A rule that was not given what it needs told nothing of anybody, as one of which not all is kept.
      const withoutAny = new Set(cannotTell.filter(({ without }) => without).map(({ rule }) => rule));
      const run = {
        snapshot,
        made_at: at,
        cannot_tell: JSON.stringify(cannotTell.map(({ subjects: _, ...told }) => told)),
        rules: JSON.stringify([...totals.keys()].filter((rule) => !withoutAny.has(rule) && !isBeyond(rule))),
        totals: JSON.stringify(Object.fromEntries(totals)),
        earlier: JSON.stringify(earlier),
        untold,
      };
      await sequelize.transaction(async (transaction) => {
        await select(sequelize, "SELECT id FROM finding_turn WHERE id = 1 FOR UPDATE", {}, transaction);
        await execute(sequelize, "DELETE FROM findings_loading", {});
        if (rows.length > 0) await loadRows(sequelize, "findings_loading", loadedColumns, rows);
        for (const table of ["finding_runs", "findings"])
          await execute(sequelize, `DELETE FROM ${table} WHERE snapshot = :snapshot`, { snapshot }, transaction);
        await execute(sequelize, `INSERT INTO findings (${findingColumns}) SELECT ${findingColumns} FROM findings_loading ORDER BY position`, {}, transaction);
        await insertRows(sequelize, "finding_runs", [run], transaction);
      });
    },
    isMade: async (snapshot) => (await select(sequelize, "SELECT snapshot FROM finding_runs WHERE snapshot = :snapshot", { snapshot })).length > 0,
    page: async (snapshot, filter, today, limit, { newFirst, skip } = { newFirst: false, skip: 0 }) => {
      const asked = conditionsOf(snapshot, filter, today);
      if (!asked) return [];
      const order = newFirst ? "FIELD(COALESCE(f.life, 'still'), 'new', 'back', 'still'), f.position" : "f.position";
      const rows = await listed(`${asked.where} ORDER BY ${order} LIMIT :limit OFFSET :skip`, { ...asked.values, limit, skip });
      return rows.map(asFinding);
    },
    count: async (snapshot, filter, today) => {
      const asked = conditionsOf(snapshot, filter, today);
      if (!asked) return 0;
      const row = await selectFirst<{ n: number }>(
        sequelize,
        `SELECT COUNT(*) AS n FROM findings f ${waiverJoin} ${assignmentJoin} WHERE ${asked.where}`,
        asked.values,
      );
      return Number(row?.n ?? 0);
    },
    groups: async (snapshot, filter, today, by) => {
      const asked = conditionsOf(snapshot, filter, today);
      if (!asked) return [];
      const rows = await select<{ key: string | null; n: number; risk: number }>(
        sequelize,
        `SELECT ${groupColumn[by]} AS \`key\`, COUNT(*) AS n, MAX(f.risk) AS risk FROM findings f ${waiverJoin} ${assignmentJoin} WHERE ${asked.where}
         GROUP BY ${groupColumn[by]} ORDER BY risk DESC, n DESC, \`key\``,
        asked.values,
      );
      return rows.map(({ key, n, risk }) => ({ key: key ?? "", findings: Number(n), risk: Number(risk) }));
    },
    gone: async (snapshot, limit) => {
      const found = await gone(snapshot);
      const positions = found?.positions.slice(0, limit) ?? [];
      if (!found || positions.length === 0) return [];
      const rows = await select<FindingRow>(sequelize, "SELECT * FROM findings WHERE snapshot = :before AND position IN (:positions) ORDER BY position", {
        before: found.before,
        positions,
      });
      return rows.map((row) => asFinding({ ...row, life: null }));
    },
    risks: rememberedBySnapshot(sequelize, async (snapshot) => {
      const rows = await select<{ holder: string; risk: number }>(
        sequelize,
        `SELECT ${groupColumn.cardholder} AS holder, MAX(f.risk) AS risk FROM findings f WHERE f.snapshot = :snapshot GROUP BY holder`,
        { snapshot },
      );
      return new Map(rows.map(({ holder, risk }) => [holder, Number(risk)]));
    }),
    byFingerprint: async (snapshot, fingerprint) =>
      (
        await listed("f.snapshot = :snapshot AND f.fingerprint_hash = :hash LIMIT 1", {
          snapshot,
          hash: fingerprintHash(fingerprint),
          today: "0000-00-00",
        })
      ).map(asFinding)[0],
    counts: async (snapshot, today) => {
      const rows = await select<{ rule: RuleKey; life: Life | null; waived: number; n: number }>(
        sequelize,
        `SELECT f.rule, f.life, w.confirmed_by IS NOT NULL AS waived, COUNT(*) AS n FROM findings f ${waiverJoin}
         WHERE f.snapshot = :snapshot GROUP BY f.rule, f.life, waived`,
        { snapshot, today },
      );
      const run = await selectFirst<{ cannot_tell: string; totals: string | null; earlier: string | null }>(
        sequelize,
        "SELECT cannot_tell, totals, earlier FROM finding_runs WHERE snapshot = :snapshot",
        { snapshot },
      );
      const byRule: Partial<Record<RuleKey, number>> = {};
      const byLife: Partial<Record<Life, number>> = {};
      let [total, waived] = [0, 0];
      for (const row of rows) {
        const n = Number(row.n);
        if (Number(row.waived) > 0) {
          waived += n;
          continue;
        }
        total += n;
        byRule[row.rule] = (byRule[row.rule] ?? 0) + n;
        if (row.life !== null) byLife[row.life] = (byLife[row.life] ?? 0) + n;
      }
      const totals = JSON.parse(run?.totals ?? "{}") as Partial<Record<RuleKey, number>>;
      const found = await gone(snapshot);
      return {
        byRule,
        byLife,
        total,
        waived,
        gone: found?.positions.length ?? 0,
        beyond: Object.fromEntries(Object.entries(totals).filter(([, n]) => n > mostOfARule)),
        cannotTell: run ? (JSON.parse(run.cannot_tell) as Omit<CannotTell, "subjects">[]).map((told) => ({ ...told, sites: told.sites ?? [] })) : [],
        earlier: JSON.parse(run?.earlier ?? "[]") as number[],
      };
    },
    trend: async () => {
      const rows = await select<{ snapshot: number; totals: string | null }>(sequelize, "SELECT snapshot, totals FROM finding_runs ORDER BY snapshot");
      return rows.map(({ snapshot, totals }) => ({ snapshot, totals: JSON.parse(totals ?? "{}") as Partial<Record<RuleKey, number>> }));
    },
  };
}
