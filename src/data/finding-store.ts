import type { Sequelize } from "sequelize";
import type { CannotTell, SubjectKind } from "@/core/findings/finding";
import type { FindingStore, StoredFinding } from "@/operations/ports/findings";
import { execute, insertRows, select, selectFirst } from "./statements";

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
}

/** What tells findings apart stands at the end of a fingerprint; those of before are written with bars between. */
function distinctOf({ rule, fingerprint, subject, subject_kind }: FindingRow): readonly string[] {
  if (fingerprint.startsWith("[")) return (JSON.parse(fingerprint) as string[]).slice(3);
  const head = `${rule}|${subject_kind}|${subject}|`;
  return fingerprint.startsWith(head) ? [fingerprint.slice(head.length)] : [];
}

/** What was written by this store is of the kind of its rule. */
const asFinding = (row: FindingRow): StoredFinding =>
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
    ...(row.sentence !== null && {
      written: { sentence: row.sentence, remedy: row.remedy ?? "", proof: JSON.parse(row.proof) as unknown, terms: JSON.parse(row.parts) as unknown },
    }),
  }) as StoredFinding;

/** Risks of so many snapshots are remembered, until their findings are made anew. */
const risksRemembered = 3;

export function findingStore(sequelize: Sequelize): FindingStore {
  const risks = new Map<number, { readonly madeAt: string | undefined; readonly risks: ReadonlyMap<string, number> }>();
  return {
    put: async (snapshot, { findings, cannotTell }, at) => {
      await sequelize.transaction(async (transaction) => {
        const remove = (table: string) => execute(sequelize, `DELETE FROM ${table} WHERE snapshot = :snapshot`, { snapshot }, transaction);
        await remove("finding_runs");
        await remove("findings");
        const rows = findings.map((finding, position) => ({
          snapshot,
          position,
          rule: finding.rule,
          fingerprint: finding.fingerprint,
          subject_kind: finding.subject.kind,
          subject: finding.subject.id,
          cardholder: finding.cardholder ?? null,
          risk: finding.risk,
          proof: JSON.stringify(finding.proof),
          parts: JSON.stringify(finding.terms),
          since_minute: finding.since ?? null,
        }));
        await insertRows(sequelize, "findings", rows, transaction);
        await insertRows(sequelize, "finding_runs", [{ snapshot, made_at: at, cannot_tell: JSON.stringify(cannotTell) }], transaction);
      });
    },
    isMade: async (snapshot) => (await select(sequelize, "SELECT snapshot FROM finding_runs WHERE snapshot = :snapshot", { snapshot })).length > 0,
    page: async (snapshot, { rule, cardholders, credentials }, limit) => {
      const about: string[] = [];
      if (cardholders?.length) about.push("cardholder IN (:cardholders)");
      if (credentials?.length) about.push("(subject IN (:credentials) AND subject_kind = 'credential')");
      // Asked about nobody, it knows of nothing.
      if ((cardholders || credentials) && about.length === 0) return [];
      const conditions = ["snapshot = :snapshot", rule === undefined ? "" : "rule = :rule", about.length === 0 ? "" : `(${about.join(" OR ")})`];
      const rows = await select<FindingRow>(
        sequelize,
        `SELECT * FROM findings WHERE ${conditions.filter(Boolean).join(" AND ")} ORDER BY position LIMIT :limit`,
        { snapshot, rule, cardholders, credentials, limit },
      );
      return rows.map(asFinding);
    },
    risks: async (snapshot) => {
      const run = await selectFirst<{ made_at: string }>(sequelize, "SELECT made_at FROM finding_runs WHERE snapshot = :snapshot", { snapshot });
      const known = risks.get(snapshot);
      if (known?.madeAt === run?.made_at && known) return known.risks;
      const rows = await select<{ holder: string; risk: number }>(
        sequelize,
        "SELECT IF(cardholder IS NULL, CONCAT(subject_kind, ' ', subject), CONCAT('cardholder ', cardholder)) AS holder, MAX(risk) AS risk FROM findings WHERE snapshot = :snapshot GROUP BY holder",
        { snapshot },
      );
      const found = new Map(rows.map(({ holder, risk }) => [holder, Number(risk)]));
      risks.set(snapshot, { madeAt: run?.made_at, risks: found });
      for (const oldest of risks.keys()) {
        if (risks.size <= risksRemembered) break;
        risks.delete(oldest);
      }
      return found;
    },
    byFingerprint: async (snapshot, fingerprint) =>
      (
        await select<FindingRow>(sequelize, "SELECT * FROM findings WHERE snapshot = :snapshot AND fingerprint = :fingerprint LIMIT 1", {
          snapshot,
          fingerprint,
        })
      ).map(asFinding)[0],
    counts: async (snapshot) => {
      const rows = await select<{ rule: string; n: number }>(sequelize, "SELECT rule, COUNT(*) AS n FROM findings WHERE snapshot = :snapshot GROUP BY rule", {
        snapshot,
      });
      const run = await selectFirst<{ cannot_tell: string }>(sequelize, "SELECT cannot_tell FROM finding_runs WHERE snapshot = :snapshot", { snapshot });
      return {
        byRule: Object.fromEntries(rows.map(({ rule, n }) => [rule, Number(n)])),
        total: rows.reduce((sum, { n }) => sum + Number(n), 0),
        cannotTell: run ? (JSON.parse(run.cannot_tell) as CannotTell[]) : [],
      };
    },
  };
}
