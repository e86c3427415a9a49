import type { Sequelize } from "sequelize";
import type { CannotTell, RuleKey } from "@/core/findings/finding";
import { mostOfARule } from "@/core/findings/find";
import type { Life } from "@/core/findings/life";
import type { FindingFilter, FindingGrouping, FindingStore } from "@/operations/ports/findings";
import { goneFrom, keptUntold, livesOf, rememberedBySnapshot } from "./finding-lives";
import type { Kept } from "./finding-lives";
import { asFinding } from "./finding-rows";
import type { FindingRow, ListedRow } from "./finding-rows";
import { loadRows } from "./load-rows";
import type { LoadedValue } from "./load-rows";
import { execute, insertRows, select, selectFirst } from "./statements";
import { fingerprintHash } from "./triage-store";

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
      const untold = await keptUntold(Object.fromEntries(cannotTell.map(({ rule, subjects }) => [rule, subjects])));
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
