import type { Sequelize, Transaction } from "sequelize";
import { groupBy } from "@/core/kernel/compare";
import type { Decision } from "@/core/certification/decide-line";
import type { Line } from "@/core/certification/line";
import type { Decided } from "@/core/findings/judged";
import type { EpochMinute } from "@/core/time/instant";
import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import type { Docket, DocketLine, LineHolder, LineOfFinding, Order, Round, RoundStore } from "@/operations/ports/rounds";
import { appendRecord, appendRecords, sha256, writeHead } from "./record-store";
import type { StatementValues } from "./statements";
import { execute, insert, insertRows, select, selectFirst } from "./statements";

interface RoundRow {
  readonly id: number;
  readonly name: string;
  readonly due: string;
  readonly snapshot: number;
  readonly opened_at: string;
}

interface DocketRow {
  readonly id: number;
  readonly round: number;
  readonly certifier: string | null;
  readonly certifier_name: string | null;
  readonly account: number | null;
  readonly signed_at: string | null;
  readonly statement: string | null;
  readonly hash: string | null;
  readonly line_count: number;
  readonly flagged: number;
  readonly decided: number;
  readonly withdrawn: number;
  readonly first_decided: string | null;
  readonly last_decided: string | null;
}

interface LineRow {
  readonly id: number;
  readonly docket: number;
  readonly position: number;
  readonly holder_name: string;
  readonly holder: string | null;
  readonly flagged: number | boolean;
  readonly content: string;
  readonly decision: Decision | null;
  readonly reason: string | null;
}

interface RoundOfLine {
  readonly certifier_name: string | null;
  readonly signed_at: string | null;
  readonly round: number;
  readonly name: string;
  readonly due: string;
}

const asRound = (row: RoundRow): Round => ({ id: row.id, name: row.name, due: row.due, snapshot: row.snapshot, openedAt: row.opened_at });

const asDocket = (row: DocketRow): Docket => ({
  id: row.id,
  round: row.round,
  certifier: row.certifier ?? undefined,
  certifierName: row.certifier_name ?? undefined,
  account: row.account ?? undefined,
  lines: Number(row.line_count),
  flagged: Number(row.flagged),
  decided: Number(row.decided),
  withdrawn: Number(row.withdrawn),
  signedAt: row.signed_at ?? undefined,
  statement: row.statement ?? undefined,
  hash: row.hash ?? undefined,
  firstDecidedAt: row.first_decided ?? undefined,
  lastDecidedAt: row.last_decided ?? undefined,
});

/** Of a holder what the snapshot said when the round was opened; nothing of one that was a credential. */
function asHolder(text: string | null): LineHolder | undefined {
  if (text === null) return undefined;
  const said = JSON.parse(text) as Readonly<Record<string, string | null>>;
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== null)) as unknown as LineHolder;
}

const asLine = (row: LineRow): DocketLine => ({
  id: row.id,
  docket: row.docket,
  position: row.position,
  holderName: row.holder_name,
  holder: asHolder(row.holder),
  flagged: !!row.flagged,
  line: JSON.parse(row.content) as Line,
  decision: row.decision ?? undefined,
  reason: row.reason ?? "",
});

/** SHA-256 of the orders of a docket as they are stored, in their order. */
export const hashOfOrders = (orders: readonly { readonly line: number; readonly change: string; readonly also_lost: string }[]): string =>
  sha256(JSON.stringify(orders.map(({ line, change, also_lost }) => [line, change, also_lost])));

/** Who decides a docket: whoever signs in as its certifier, at whatever time the account was made; else who was named. */
const accountOf = "COALESCE((SELECT MIN(a.id) FROM accounts a WHERE a.cardholder = d.certifier), d.account)";

/** Locks a docket for a change; false if it was signed. */
async function lockUnsigned(sequelize: Sequelize, transaction: Transaction, docket: number): Promise<boolean> {
  const row = await selectFirst<{ signed_at: string | null }>(
    sequelize,
    "SELECT signed_at FROM dockets WHERE id = :docket FOR UPDATE",
    { docket },
    transaction,
  );
  return row?.signed_at === null;
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
  open: async ({ name, due, snapshot, openedAt, openedBy }, dockets) => {
    const id = await sequelize.transaction(async (transaction) => {
      const put = (statement: string, values: StatementValues) => insert(sequelize, statement, values, transaction);
      const round = await put("INSERT INTO rounds (name, due, snapshot, opened_by, opened_at) VALUES (:name, :due, :snapshot, :by, :openedAt)", {
        name,
        due,
        snapshot,
        by: openedBy.id,
        openedAt,
      });
      for (const docket of dockets) {
        const docketId = await put("INSERT INTO dockets (round, certifier, certifier_name, account) VALUES (:round, :certifier, :name, :account)", {
          round,
          certifier: docket.certifier ?? null,
          name: docket.certifierName ?? null,
          account: docket.account ?? null,
        });
        const rows = docket.lines.map(({ line, holderName, holder, flagged }, position) => ({
          docket: docketId,
          position,
          cardholder: line.cardholder ?? null,
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
        after: { name, due, snapshot, dockets: dockets.length, lines: dockets.reduce((sum, { lines }) => sum + lines.length, 0) },
      });
      return round;
    });
    await writeHead(sequelize, folder);
    return id;
  },
  list: async () => (await select<RoundRow>(sequelize, "SELECT * FROM rounds ORDER BY id DESC")).map(asRound),
  byId: async (id) => (await select<RoundRow>(sequelize, "SELECT * FROM rounds WHERE id = :id", { id })).map(asRound)[0],
  dockets: async ({ round, account, id }) => {
    const conditions = [
      round === undefined ? "" : "d.round = :round",
      account === undefined ? "" : `${accountOf} = :account`,
      id === undefined ? "" : "d.id = :id",
    ];
    const rows = await select<DocketRow>(
      sequelize,
      `SELECT d.id, d.round, d.certifier, d.certifier_name, d.signed_at, d.statement, d.hash, ${accountOf} AS account, COUNT(l.id) AS line_count, COALESCE(SUM(l.flagged), 0) AS flagged, COALESCE(SUM(l.decision IS NOT NULL), 0) AS decided,
              COALESCE(SUM(l.decision = 'withdraw'), 0) AS withdrawn, MIN(l.decided_at) AS first_decided, MAX(l.decided_at) AS last_decided
       FROM dockets d LEFT JOIN docket_lines l ON l.docket = d.id
       WHERE ${conditions.filter(Boolean).join(" AND ") || "TRUE"} GROUP BY d.id ORDER BY d.id`,
      { round, account, id },
    );
    return rows.map(asDocket);
  },
  lines: async ({ docket, id, ids }) =>
    (
      await select<LineRow>(
        sequelize,
        `SELECT id, docket, position, holder_name, holder, flagged, content, decision, reason FROM docket_lines WHERE ${docket !== undefined ? "docket = :docket" : ids ? "id IN (:ids)" : "id = :id"} ORDER BY position`,
        { docket, id, ids: ids && [0, ...ids] },
      )
    ).map(asLine),
  linesTelling: async ({ kind, id }, fingerprint) => {
    const about = kind === "cardholder" ? "l.cardholder = :id" : "l.cardholder IS NULL AND JSON_VALUE(l.content, '$.credential') = :id";
    const rows = await select<Pick<LineRow, "id" | "content" | "decision"> & RoundOfLine>(
      sequelize,
      `SELECT l.id, l.content, l.decision, d.certifier_name, d.signed_at, r.id AS round, r.name, r.due
       FROM docket_lines l JOIN dockets d ON d.id = l.docket JOIN rounds r ON r.id = d.round WHERE ${about} ORDER BY r.id DESC, l.id`,
      { id },
    );
    return rows
      .filter(({ content }) => (JSON.parse(content) as Line).findings.some((told) => told.fingerprint === fingerprint))
      .map((row): LineOfFinding => ({
        line: row.id,
        round: { id: row.round, name: row.name, due: row.due },
        certifierName: row.certifier_name ?? undefined,
        decision: row.decision ?? undefined,
        signedAt: row.signed_at ?? undefined,
      }));
  },
  decide: async (docket, decisions, by, at) => {
    const done = await sequelize.transaction(async (transaction) => {
      if (!(await lockUnsigned(sequelize, transaction, docket))) return false;
      const ids = decisions.map(({ line }) => line);
      const before = new Map(
        (
          await select<Pick<LineRow, "id" | "decision" | "reason">>(
            sequelize,
            "SELECT id, decision, reason FROM docket_lines WHERE docket = :docket AND id IN (:ids)",
            { docket, ids: [0, ...ids] },
            transaction,
          )
        ).map((row) => [row.id, row]),
      );
      // Whoever keeps many lines at once decides the same of all of them.
      for (const same of groupBy(decisions, ({ decision, reason }) => JSON.stringify([decision, reason])).values())
        await execute(
          sequelize,
          "UPDATE docket_lines SET decision = :decision, reason = :reason, decided_at = :at, decided_by = :by WHERE docket = :docket AND id IN (:lines)",
          { docket, at, by: by.id, decision: same[0]?.decision, reason: same[0]?.reason, lines: same.map(({ line }) => line) },
          transaction,
        );
      const recorded = decisions.map(({ line, decision, reason }) => ({
        what: "line.decided",
        on: `line ${line} of docket ${docket}`,
        before: { decision: before.get(line)?.decision ?? null, reason: before.get(line)?.reason ?? null },
        after: { decision, reason },
      }));
      await appendRecords(sequelize, transaction, by, at, recorded);
      return true;
    });
    await writeHead(sequelize, folder);
    return done;
  },
  sign: async (docket, { statement, hash, decisions }, orders, by, at) => {
    const done = await sequelize.transaction(async (transaction) => {
      if (!(await lockUnsigned(sequelize, transaction, docket))) return "already-signed" as const;
      const present = await select<{ id: number; decision: Decision | null; reason: string | null }>(
        sequelize,
        "SELECT id, decision, reason FROM docket_lines WHERE docket = :docket",
        { docket },
        transaction,
      );
      const signed = new Map(decisions.map(({ line, decision, reason }) => [line, { decision, reason }]));
      const isSame = ({ id, decision, reason }: (typeof present)[number]): boolean =>
        signed.get(id)?.decision === decision && signed.get(id)?.reason === (reason ?? "");
      if (present.length !== signed.size || !present.every(isSame)) return "changed-meanwhile" as const;
      await execute(
        sequelize,
        "UPDATE dockets SET signed_at = :at, signed_by = :by, statement = :statement, hash = :hash WHERE id = :docket",
        { docket, at, by: by.id, statement, hash },
        transaction,
      );
      const rows = orders.map(({ round, line, described, alsoLost, names }, position) => ({
        round,
        line,
        position,
        made_at: at,
        change: JSON.stringify(described),
        also_lost: JSON.stringify(alsoLost),
        names: JSON.stringify(names),
      }));
      await insertRows(sequelize, "orders", rows, transaction);
      await appendRecord(sequelize, transaction, by, at, {
        what: "docket.signed",
        on: `docket ${docket}`,
        after: { statement, hash, orders: rows.length, ordersHash: hashOfOrders(rows) },
      });
      return "signed" as const;
    });
    await writeHead(sequelize, folder);
    return done;
  },
  orders: async (round) => {
    const rows = await select<{ id: number; round: number; line: number; change: string; also_lost: string; names: string | null; made_at: string }>(
      sequelize,
      "SELECT id, round, line, `change`, also_lost, names, made_at FROM orders WHERE round = :round ORDER BY id",
      { round },
    );
    return rows.map((row): Order => ({
      id: row.id,
      round: row.round,
      line: row.line,
      described: JSON.parse(row.change) as DescribedChange,
      alsoLost: JSON.parse(row.also_lost) as string[],
      names: row.names === null ? undefined : (JSON.parse(row.names) as Record<string, string>),
      madeAt: row.made_at,
    }));
  },
});
