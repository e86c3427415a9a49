import { QueryTypes } from "sequelize";
import type { Sequelize, Transaction } from "sequelize";
import type { Decision } from "@/core/certification/decide-line";
import type { Line } from "@/core/certification/line";
import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import type { Docket, DocketLine, Order, Round, RoundStore } from "@/operations/ports/rounds";
import { appendRecord, sha256, writeHead } from "./record-store";

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
  readonly flagged: number | boolean;
  readonly content: string;
  readonly decision: Decision | null;
  readonly reason: string | null;
}

const asRound = (row: RoundRow): Round => ({ id: row.id, name: row.name, due: row.due, snapshot: row.snapshot, openedAt: row.opened_at });

const asDocket = (row: DocketRow): Docket => ({
  id: row.id,
  round: row.round,
  certifier: row.certifier ?? undefined,
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

const asLine = (row: LineRow): DocketLine => ({
  id: row.id,
  docket: row.docket,
  position: row.position,
  holderName: row.holder_name,
  flagged: !!row.flagged,
  line: JSON.parse(row.content) as Line,
  decision: row.decision ?? undefined,
  reason: row.reason ?? "",
});

const rowsAtOnce = 1000;

/** SHA-256 of the orders of a docket as they are stored, in their order. */
export const hashOfOrders = (orders: readonly { readonly line: number; readonly change: string; readonly also_lost: string }[]): string => sha256(JSON.stringify(orders.map(({ line, change, also_lost }) => [line, change, also_lost])));

/** Who decides a docket: whoever signs in as its certifier, at whatever time the account was made; else who was named. */
const accountOf = "COALESCE((SELECT MIN(a.id) FROM accounts a WHERE a.cardholder = d.certifier), d.account)";

/** Locks a docket for a change; false if it was signed. */
async function lockUnsigned(sequelize: Sequelize, transaction: Transaction, docket: number): Promise<boolean> {
  const [row] = await sequelize.query<{ signed_at: string | null }>("SELECT signed_at FROM dockets WHERE id = :docket FOR UPDATE", {
    type: QueryTypes.SELECT,
    replacements: { docket },
    transaction,
  });
  return row?.signed_at === null;
}

export const roundStore = (sequelize: Sequelize, folder: string): RoundStore => ({
  open: async ({ name, due, snapshot, openedAt, openedBy }, dockets) => {
    const id = await sequelize.transaction(async (transaction) => {
      const insert = async (statement: string, replacements: Record<string, unknown>): Promise<number> => {
        const [made] = await sequelize.query(statement, { type: QueryTypes.INSERT, replacements, transaction });
        return made;
      };
      const round = await insert("INSERT INTO rounds (name, due, snapshot, opened_by, opened_at) VALUES (:name, :due, :snapshot, :by, :openedAt)", {
        name,
        due,
        snapshot,
        by: openedBy.id,
        openedAt,
      });
      for (const docket of dockets) {
        const docketId = await insert("INSERT INTO dockets (round, certifier, account) VALUES (:round, :certifier, :account)", {
          round,
          certifier: docket.certifier ?? null,
          account: docket.account ?? null,
        });
        const rows = docket.lines.map(({ line, holderName, flagged }, position) => ({
          docket: docketId,
          position,
          cardholder: line.cardholder ?? null,
          holder_name: holderName,
          flagged,
          content: JSON.stringify(line),
        }));
        for (let i = 0; i < rows.length; i += rowsAtOnce)
          await sequelize.getQueryInterface().bulkInsert("docket_lines", rows.slice(i, i + rowsAtOnce), { transaction });
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
  list: async () => (await sequelize.query<RoundRow>("SELECT * FROM rounds ORDER BY id DESC", { type: QueryTypes.SELECT })).map(asRound),
  byId: async (id) =>
    (await sequelize.query<RoundRow>("SELECT * FROM rounds WHERE id = :id", { type: QueryTypes.SELECT, replacements: { id } })).map(asRound)[0],
  dockets: async ({ round, account, id }) => {
    const conditions = [round === undefined ? "" : "d.round = :round", account === undefined ? "" : `${accountOf} = :account`, id === undefined ? "" : "d.id = :id"];
    const rows = await sequelize.query<DocketRow>(
      `SELECT d.id, d.round, d.certifier, d.signed_at, d.statement, d.hash, ${accountOf} AS account, COUNT(l.id) AS line_count, COALESCE(SUM(l.flagged), 0) AS flagged, COALESCE(SUM(l.decision IS NOT NULL), 0) AS decided,
              COALESCE(SUM(l.decision = 'withdraw'), 0) AS withdrawn, MIN(l.decided_at) AS first_decided, MAX(l.decided_at) AS last_decided
       FROM dockets d LEFT JOIN docket_lines l ON l.docket = d.id
       WHERE ${conditions.filter(Boolean).join(" AND ") || "TRUE"} GROUP BY d.id ORDER BY d.id`,
      { type: QueryTypes.SELECT, replacements: { round, account, id } },
    );
    return rows.map(asDocket);
  },
  lines: async ({ docket, id }) =>
    (
      await sequelize.query<LineRow>(
        `SELECT id, docket, position, holder_name, flagged, content, decision, reason FROM docket_lines WHERE ${docket === undefined ? "id = :id" : "docket = :docket"} ORDER BY position`,
        { type: QueryTypes.SELECT, replacements: { docket, id } },
      )
    ).map(asLine),
  decide: async (docket, decisions, by, at) => {
    const done = await sequelize.transaction(async (transaction) => {
      if (!(await lockUnsigned(sequelize, transaction, docket))) return false;
      for (const { line, decision, reason } of decisions) {
        const [before] = await sequelize.query<LineRow>("SELECT decision, reason FROM docket_lines WHERE id = :line AND docket = :docket", {
          type: QueryTypes.SELECT,
          replacements: { line, docket },
          transaction,
        });
        await sequelize.query(
          "UPDATE docket_lines SET decision = :decision, reason = :reason, decided_at = :at, decided_by = :by WHERE id = :line AND docket = :docket",
          { type: QueryTypes.UPDATE, replacements: { line, docket, decision, reason, at, by: by.id }, transaction },
        );
        await appendRecord(sequelize, transaction, by, at, {
          what: "line.decided",
          on: `line ${line} of docket ${docket}`,
          before: { decision: before?.decision ?? null, reason: before?.reason ?? null },
          after: { decision, reason },
        });
      }
      return true;
    });
    await writeHead(sequelize, folder);
    return done;
  },
  sign: async (docket, { statement, hash, decisions }, orders, by, at) => {
    const done = await sequelize.transaction(async (transaction) => {
      if (!(await lockUnsigned(sequelize, transaction, docket))) return "already-signed" as const;
      const present = await sequelize.query<{ id: number; decision: Decision | null; reason: string | null }>("SELECT id, decision, reason FROM docket_lines WHERE docket = :docket", {
        type: QueryTypes.SELECT,
        replacements: { docket },
        transaction,
      });
      const signed = new Map(decisions.map(({ line, decision, reason }) => [line, { decision, reason }]));
      const isSame = ({ id, decision, reason }: (typeof present)[number]): boolean => signed.get(id)?.decision === decision && signed.get(id)?.reason === (reason ?? "");
      if (present.length !== signed.size || !present.every(isSame)) return "changed-meanwhile" as const;
      await sequelize.query("UPDATE dockets SET signed_at = :at, signed_by = :by, statement = :statement, hash = :hash WHERE id = :docket", {
        type: QueryTypes.UPDATE,
        replacements: { docket, at, by: by.id, statement, hash },
        transaction,
      });
      const rows = orders.map(({ round, line, described, alsoLost }, position) => ({
        round,
        line,
        position,
        made_at: at,
        change: JSON.stringify(described),
        also_lost: JSON.stringify(alsoLost),
      }));
      if (rows.length > 0) await sequelize.getQueryInterface().bulkInsert("orders", rows, { transaction });
      await appendRecord(sequelize, transaction, by, at, { what: "docket.signed", on: `docket ${docket}`, after: { statement, hash, orders: rows.length, ordersHash: hashOfOrders(rows) } });
      return "signed" as const;
    });
    await writeHead(sequelize, folder);
    return done;
  },
  orders: async (round) => {
    const rows = await sequelize.query<{ id: number; round: number; line: number; change: string; also_lost: string; made_at: string }>(
      "SELECT id, round, line, `change`, also_lost, made_at FROM orders WHERE round = :round ORDER BY id",
      { type: QueryTypes.SELECT, replacements: { round } },
    );
    return rows.map(
      (row): Order => ({
        id: row.id,
        round: row.round,
        line: row.line,
        described: JSON.parse(row.change) as DescribedChange,
        alsoLost: JSON.parse(row.also_lost) as string[],
        madeAt: row.made_at,
      }),
    );
  },
});
