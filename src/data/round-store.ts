import type { Sequelize } from "sequelize";
import type { Decision } from "@/core/certification/decide-line";
import type { LineContent } from "@/core/certification/line-content";
import { isDefinition as isAboutDefinition } from "@/core/certification/line-content";
import type { OccasionKind } from "@/core/certification/occasions";
import type { RoundTerms } from "@/core/certification/round-terms";
import { usualTerms } from "@/core/certification/round-terms";
import { canonicalJson } from "@/core/facility/canonical-json";
import type { Decided } from "@/core/findings/judged";
import type { EpochMinute } from "@/core/time/instant";
import type { Account } from "@/operations/ports/accounts";
import type { CertifiedDefinition, Docket, LineComment, LineFilter, LineOfFinding, Round, RoundStore } from "@/operations/ports/rounds";
import { docketDecisions } from "./docket-decisions";
import type { LineRow } from "./docket-rows";
import { asLine, lineColumns } from "./docket-rows";
import { appendRecord, writeHead } from "./record-store";
import { roundChanges } from "./round-changes";
import type { StatementValues } from "./statements";
import { execute, insert, insertRows, select, selectFirst } from "./statements";

interface RoundRow {
  readonly id: number;
  readonly name: string;
  readonly due: string;
  readonly snapshot: number;
  readonly opened_at: string;
  readonly terms: string | null;
  readonly closing_asked_at: string | null;
  readonly closing_asked_by: number | null;
  readonly asked_by_name: string | null;
  readonly closing_reason: string | null;
  readonly closed_at: string | null;
}

interface DocketRow {
  readonly id: number;
  readonly round: number;
  readonly certifier: string | null;
  readonly certifier_name: string | null;
  readonly account: number | null;
  readonly held: number | boolean;
  readonly corrects: number | null;
  readonly signed_at: string | null;
  readonly closed_at: string | null;
  readonly signer: string | null;
  readonly statement: string | null;
  readonly hash: string | null;
  readonly line_count: number;
  readonly flagged: number;
  readonly decided: number;
  readonly withdrawn: number;
  readonly narrowed: number;
  readonly passed_on: number;
  readonly kept_flagged: number;
  readonly comments: number;
  readonly first_decided: string | null;
  readonly last_decided: string | null;
}

interface RoundOfLine {
  readonly certifier_name: string | null;
  readonly signed_at: string | null;
  readonly round: number;
  readonly name: string;
  readonly due: string;
}

const asRound = (row: RoundRow): Round => ({
  id: row.id,
  name: row.name,
  due: row.due,
  snapshot: row.snapshot,
  openedAt: row.opened_at,
  // Rounds of older versions were run as usual.
  terms: row.terms === null ? usualTerms : (JSON.parse(row.terms) as RoundTerms),
  closingAsked:
    row.closing_asked_at === null || row.closing_asked_by === null
      ? undefined
      : { at: row.closing_asked_at, by: { id: row.closing_asked_by, name: row.asked_by_name ?? "" }, reason: row.closing_reason ?? "" },
  closedAt: row.closed_at ?? undefined,
});

const roundsOf = (condition: string): string =>
  `SELECT r.*, a.name AS asked_by_name FROM rounds r LEFT JOIN accounts a ON a.id = r.closing_asked_by WHERE r.dropped_at IS NULL ${condition}`;

const asDocket = (row: DocketRow): Docket => ({
  id: row.id,
  round: row.round,
  certifier: row.certifier ?? undefined,
  certifierName: row.certifier_name ?? undefined,
  account: row.account ?? undefined,
  held: !!row.held,
  corrects: row.corrects ?? undefined,
  lines: Number(row.line_count),
  flagged: Number(row.flagged),
  decided: Number(row.decided),
  withdrawn: Number(row.withdrawn),
  narrowed: Number(row.narrowed),
  passedOn: Number(row.passed_on),
  keptFlagged: Number(row.kept_flagged),
  comments: Number(row.comments),
  signedAt: row.signed_at ?? undefined,
  closedAt: row.closed_at ?? undefined,
  signedBy: row.signer ?? undefined,
  statement: row.statement ?? undefined,
  hash: row.hash ?? undefined,
  firstDecidedAt: row.first_decided ?? undefined,
  lastDecidedAt: row.last_decided ?? undefined,
});

/** Who decides a docket: whoever signs in as its certifier, at whatever time the account was made; else who was named. */
const accountOf = "COALESCE((SELECT MIN(a.id) FROM accounts a WHERE a.cardholder = d.certifier AND a.ended_at IS NULL), d.account)";

const isDefinition = "(l.cardholder IS NULL AND JSON_VALUE(l.content, '$.definition.kind') IS NOT NULL)";

/** What a filter asks of a line, as SQL. */
function conditionsOf({ docket, department, definitions, decision, flagged, commented }: LineFilter): string[] {
  return [
    ...(docket === undefined ? [] : ["l.docket = :docket"]),
    ...(department === undefined ? [] : [`JSON_VALUE(l.holder, '$.department') <=> :department`, `NOT ${isDefinition}`]),
    ...(definitions ? [isDefinition] : []),
    ...((department !== undefined || definitions) && decision !== "pass-on" ? ["NOT (l.decision <=> 'pass-on')"] : []),
    ...(decision === undefined
      ? []
      : [decision === "undecided" ? "l.decision IS NULL" : decision === "decided" ? "l.decision IS NOT NULL" : "l.decision = :decision"]),
    ...(flagged ? ["l.flagged"] : []),
    ...(commented ? ["EXISTS (SELECT 1 FROM line_comments c WHERE c.line = l.id)"] : []),
  ];
}

export const roundStore = (sequelize: Sequelize, folder: string): RoundStore => ({
  decided: async () => {
    const rows = await select<{ signed_at: string; decision: Decision; kind: string; area: string; cardholder: string | null; credential: string | null }>(
      sequelize,
      `SELECT d.signed_at, l.decision, JSON_VALUE(l.content, '$.subject.kind') AS kind, JSON_VALUE(l.content, '$.subject.id') AS area,
         JSON_VALUE(l.content, '$.cardholder') AS cardholder, JSON_VALUE(l.content, '$.credential') AS credential
       FROM docket_lines l JOIN dockets d ON d.id = l.docket WHERE d.signed_at IS NOT NULL AND l.decision IS NOT NULL`,
    );
    if (rows.length === 0) return undefined;
    return rows.flatMap(({ signed_at: at, decision, kind, area, cardholder, credential }): Decided[] => {
      if (kind !== "area") return [];
      const holder = cardholder === null ? { kind: "credential" as const, id: credential ?? "" } : { kind: "cardholder" as const, id: cardholder };
      return [{ at: Math.floor(Date.parse(at) / 60_000) as EpochMinute, holder, area, decision }];
    });
  },
  open: async ({ name, due, snapshot, openedAt, openedBy, terms }, dockets) => {
    const id = await sequelize.transaction(async (transaction) => {
      const put = (statement: string, values: StatementValues) => insert(sequelize, statement, values, transaction);
      const round = await put("INSERT INTO rounds (name, due, snapshot, opened_by, opened_at, terms) VALUES (:name, :due, :snapshot, :by, :openedAt, :terms)", {
        terms: canonicalJson(terms),
        name,
        due,
        snapshot,
        by: openedBy.id,
        openedAt,
      });
      for (const docket of dockets) {
        const docketId = await put(
          "INSERT INTO dockets (round, certifier, certifier_name, account, held) VALUES (:round, :certifier, :name, :account, :held)",
          {
            held: docket.held,
            round,
            certifier: docket.certifier ?? null,
            name: docket.certifierName ?? null,
            account: docket.account ?? null,
          },
        );
        const rows = docket.lines.map(({ line, holderName, holder, flagged }, position) => ({
          docket: docketId,
          position,
          cardholder: isAboutDefinition(line) ? null : (line.cardholder ?? null),
          holder_name: holderName,
          holder: holder ? JSON.stringify(holder) : null,
          flagged,
          content: JSON.stringify(line),
        }));
        await insertRows(sequelize, "docket_lines", rows, transaction);
      }
      await appendRecord(sequelize, transaction, openedBy, openedAt, {
        what: "round.opened",
        on: `round ${round}`,
        after: { name, due, snapshot, terms: canonicalJson(terms), dockets: dockets.length, lines: dockets.reduce((sum, { lines }) => sum + lines.length, 0) },
      });
      return round;
    });
    await writeHead(sequelize, folder);
    return id;
  },
  list: async () => (await select<RoundRow>(sequelize, roundsOf("ORDER BY r.id DESC"))).map(asRound),
  byId: async (id) => (await select<RoundRow>(sequelize, roundsOf("AND r.id = :id"), { id })).map(asRound)[0],
  dockets: async ({ round, account, id }) => {
    const conditions = [
      "d.dropped_at IS NULL",
      round === undefined ? "" : "d.round = :round",
      account === undefined
        ? ""
        : `(${accountOf} = :account OR EXISTS (SELECT 1 FROM substitutes s WHERE s.round = d.round AND s.certifier = d.certifier AND s.account = :account
            AND s.from_date <= :today AND s.until_date >= :today))`,
      id === undefined ? "" : "d.id = :id",
    ];
    const rows = await select<DocketRow>(
      sequelize,
      `SELECT d.id, d.round, d.certifier, d.certifier_name, d.held, d.corrects, d.signed_at, d.closed_at, d.statement, d.hash, ${accountOf} AS account,
              (SELECT a.name FROM accounts a WHERE a.id = d.signed_by) AS signer, COUNT(l.id) AS line_count, COALESCE(SUM(l.flagged), 0) AS flagged, COALESCE(SUM(l.decision IS NOT NULL), 0) AS decided,
              COALESCE(SUM(l.decision = 'withdraw'), 0) AS withdrawn, COALESCE(SUM(l.decision = 'narrow'), 0) AS narrowed,
              COALESCE(SUM(l.decision = 'pass-on'), 0) AS passed_on, COALESCE(SUM(l.flagged AND l.decision = 'keep'), 0) AS kept_flagged,
              (SELECT COUNT(*) FROM line_comments c JOIN docket_lines o ON o.id = c.line WHERE o.docket = d.id) AS comments, MIN(l.decided_at) AS first_decided, MAX(l.decided_at) AS last_decided
       FROM dockets d LEFT JOIN docket_lines l ON l.docket = d.id
       WHERE ${conditions.filter(Boolean).join(" AND ") || "TRUE"} GROUP BY d.id ORDER BY d.id`,
      { round, account: account?.id, today: account?.today, id },
    );
    return rows.map(asDocket);
  },
  lines: async ({ docket, round, id, ids, cardholders }) => {
    const conditions = [
      docket === undefined ? "" : "docket = :docket",
      round === undefined ? "" : "docket IN (SELECT d.id FROM dockets d WHERE d.round = :round)",
      id === undefined ? "" : "id = :id",
      ids === undefined ? "" : "id IN (:ids)",
      cardholders === undefined ? "" : "cardholder IN (:cardholders)",
    ];
    const rows = await select<LineRow>(
      sequelize,
      `SELECT ${lineColumns} FROM docket_lines WHERE ${conditions.filter(Boolean).join(" AND ") || "TRUE"} ORDER BY docket, position`,
      { docket, round, id, ids: ids && [0, ...ids], cardholders: cardholders && ["", ...cardholders] },
    );
    return rows.map(asLine);
  },
  certifiedDefinitions: async () => {
    const rows = await select<Omit<CertifiedDefinition, "certifier" | "signedAt"> & { certifier: string | null; signed_at: string }>(
      sequelize,
      `SELECT JSON_VALUE(l.content, '$.subject.kind') AS kind, JSON_VALUE(l.content, '$.subject.id') AS id, l.decision, d.certifier, d.signed_at, r.snapshot
       FROM docket_lines l JOIN dockets d ON d.id = l.docket JOIN rounds r ON r.id = d.round
       WHERE ${isDefinition} AND d.signed_at IS NOT NULL AND l.decision IN ('keep', 'withdraw')
       ORDER BY d.signed_at, l.id`,
    );
    return rows.map(({ certifier, signed_at: signedAt, ...row }) => ({ ...row, certifier: certifier ?? undefined, signedAt }));
  },
  linesTelling: async ({ kind, id }, fingerprint) => {
    const about = kind === "cardholder" ? "l.cardholder = :id" : "l.cardholder IS NULL AND JSON_VALUE(l.content, '$.credential') = :id";
    const rows = await select<Pick<LineRow, "id" | "content" | "decision"> & RoundOfLine>(
      sequelize,
      `SELECT l.id, l.content, l.decision, d.certifier_name, d.signed_at, r.id AS round, r.name, r.due
       FROM docket_lines l JOIN dockets d ON d.id = l.docket JOIN rounds r ON r.id = d.round WHERE ${about} ORDER BY r.id DESC, l.id`,
      { id },
    );
    return rows
      .filter(({ content }) => (JSON.parse(content) as LineContent).findings.some((told) => told.fingerprint === fingerprint))
      .map((row): LineOfFinding => ({
        line: row.id,
        round: { id: row.round, name: row.name, due: row.due },
        certifierName: row.certifier_name ?? undefined,
        decision: row.decision ?? undefined,
        signedAt: row.signed_at ?? undefined,
      }));
  },
  ...docketDecisions(sequelize, folder),
  ...roundChanges(sequelize, folder),
  substitutes: async (round) => {
    const rows = await select<{ id: number; round: number; certifier: string; account: number; name: string; from_date: string; until_date: string }>(
      sequelize,
      "SELECT s.id, s.round, s.certifier, s.account, a.name, s.from_date, s.until_date FROM substitutes s JOIN accounts a ON a.id = s.account WHERE s.round = :round ORDER BY s.id",
      { round },
    );
    return rows.map(({ account, name, from_date: from, until_date: until, ...row }) => ({ ...row, account: { id: account, name }, from, until }));
  },
  departments: async (round) => {
    const rows = await select<{
      name: string | null;
      is_definition: number;
      line_count: number;
      decided: number;
      withdrawn: number;
      narrowed: number;
      kept_flagged: number;
    }>(
      sequelize,
      `SELECT JSON_VALUE(l.holder, '$.department') AS name, ${isDefinition} AS is_definition, COUNT(*) AS line_count, COALESCE(SUM(l.decision IS NOT NULL), 0) AS decided,
         COALESCE(SUM(l.decision = 'withdraw'), 0) AS withdrawn, COALESCE(SUM(l.decision = 'narrow'), 0) AS narrowed,
         COALESCE(SUM(l.flagged AND l.decision = 'keep'), 0) AS kept_flagged
       FROM docket_lines l JOIN dockets d ON d.id = l.docket WHERE d.round = :round AND NOT (l.decision <=> 'pass-on')
       GROUP BY name, is_definition ORDER BY is_definition, name IS NULL, name`,
      { round },
    );
    return rows.map(({ name, is_definition, line_count, kept_flagged, ...row }) => ({
      name: name ?? undefined,
      isDefinitions: Number(is_definition) === 1,
      lines: Number(line_count),
      decided: Number(row.decided),
      withdrawn: Number(row.withdrawn),
      narrowed: Number(row.narrowed),
      keptFlagged: Number(kept_flagged),
    }));
  },
  someLines: async (round, filter, from, count) => {
    const where = `docket IN (SELECT d.id FROM dockets d WHERE d.round = :round)${conditionsOf(filter)
      .map((condition) => ` AND ${condition}`)
      .join("")}`;
    const values = { round, docket: filter.docket, department: filter.department ?? null, decision: filter.decision };
    const [rows, total] = await Promise.all([
      select<LineRow>(sequelize, `SELECT ${lineColumns} FROM docket_lines l WHERE ${where} ORDER BY docket, position LIMIT :count OFFSET :from`, {
        ...values,
        count,
        from,
      }),
      selectFirst<{ n: number }>(sequelize, `SELECT COUNT(*) AS n FROM docket_lines l WHERE ${where}`, values),
    ]);
    return { lines: rows.map(asLine), total: Number(total?.n ?? 0) };
  },
  occasions: async () => {
    const rows = await select<{
      kind: OccasionKind;
      days: number;
      id: number;
      sign_in: string;
      name: string;
      role: Account["role"];
      cardholder: string | null;
    }>(sequelize, "SELECT o.kind, o.days, a.id, a.sign_in, a.name, a.role, a.cardholder FROM occasions o JOIN accounts a ON a.id = o.set_by ORDER BY o.kind");
    return rows.map(({ kind, days, sign_in: signIn, cardholder, ...account }) => ({
      kind,
      days,
      setBy: { ...account, signIn, cardholder: cardholder ?? undefined },
    }));
  },
  comments: (docket) =>
    select<LineComment>(
      sequelize,
      "SELECT c.line, a.name AS `by`, c.at, c.words FROM line_comments c JOIN docket_lines l ON l.id = c.line JOIN accounts a ON a.id = c.account WHERE l.docket = :docket ORDER BY c.id",
      { docket },
    ),
  effect: async (line) =>
    (await selectFirst<{ effect: string | null }>(sequelize, "SELECT effect FROM docket_lines WHERE id = :line", { line }))?.effect ?? undefined,
  linesWithoutEffect: async (limit) =>
    (
      await select<{ id: number; snapshot: number; content: string }>(
        sequelize,
        `SELECT l.id, r.snapshot, l.content FROM docket_lines l JOIN dockets d ON d.id = l.docket JOIN rounds r ON r.id = d.round
         WHERE r.closed_at IS NULL AND r.dropped_at IS NULL AND l.effect IS NULL AND NOT ${isDefinition} ORDER BY r.id DESC, l.flagged DESC, l.docket, l.position LIMIT :limit`,
        { limit },
      )
    ).map(({ content, ...row }) => ({ ...row, line: JSON.parse(content) as LineContent })),
  keepEffects: async (effects) => {
    for (const { line, effect } of effects) await execute(sequelize, "UPDATE docket_lines SET effect = :effect WHERE id = :line", { line, effect });
  },
});
