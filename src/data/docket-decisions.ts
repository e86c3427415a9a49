import type { Sequelize, Transaction } from "sequelize";
import { required } from "@/core/kernel/invariant";
import { groupBy } from "@/core/kernel/compare";
import type { Account } from "@/operations/ports/accounts";
import type { LineDecision, RoundStore } from "@/operations/ports/rounds";
import type { LineRow } from "./docket-rows";
import { termsOf } from "./docket-rows";
import { insertOrders } from "./order-rows";
import { appendRecord, appendRecords, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface LockedDocket {
  readonly id: number;
  readonly round: number;
  readonly certifier: string | null;
  readonly certifier_name: string | null;
  readonly account: number | null;
  readonly signed_at: string | null;
  readonly closed_at: string | null;
}

/** Locks dockets for a change, in the order of their numbers, so that two who pass lines on to each other wait and do not clash. */
async function lockDockets(sequelize: Sequelize, transaction: Transaction, ids: readonly number[]): Promise<Map<number, LockedDocket>> {
  const rows = await select<LockedDocket>(
    sequelize,
    "SELECT id, round, certifier, certifier_name, account, signed_at, closed_at FROM dockets WHERE id IN (:ids) ORDER BY id FOR UPDATE",
    { ids: [0, ...ids] },
    transaction,
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Locks a docket for a change; undefined if it was signed, or closed without that. */
async function lockUnsigned(sequelize: Sequelize, transaction: Transaction, docket: number): Promise<LockedDocket | undefined> {
  const locked = (await lockDockets(sequelize, transaction, [docket])).get(docket);
  return locked?.signed_at === null && locked.closed_at === null ? locked : undefined;
}

interface PassedOnRow {
  readonly id: number;
  readonly docket: number;
  readonly passed_from: number;
  readonly decided_at: string | null;
  readonly signed_at: string | null;
}

/** Lines that were passed on before are taken back, if nobody took them up; false if somebody did. */
async function takeBackPassedOn(sequelize: Sequelize, transaction: Transaction, decisions: readonly ({ readonly line: number } & LineDecision)[]) {
  const passed = await select<PassedOnRow>(
    sequelize,
    "SELECT l.id, l.docket, l.passed_from, l.decided_at, d.signed_at FROM docket_lines l JOIN dockets d ON d.id = l.docket WHERE l.passed_from IN (:lines)",
    { lines: [0, ...decisions.map(({ line }) => line)] },
    transaction,
  );
  const wanted = new Map(decisions.map((decision) => [decision.line, decision]));
  const moved = passed.filter(({ docket, passed_from: from }) => wanted.get(from)?.passedTo !== docket);
  if (moved.some(({ decided_at, signed_at }) => decided_at !== null || signed_at !== null)) return undefined;
  if (moved.length > 0) await execute(sequelize, "DELETE FROM docket_lines WHERE id IN (:ids)", { ids: moved.map(({ id }) => id) }, transaction);
  const gone = new Set(moved.map(({ id }) => id));
  return new Set(passed.filter(({ id }) => !gone.has(id)).map(({ passed_from: from }) => from));
}

/** The docket of the same certifier that is not signed: the one that was named, or another, or a new one. */
async function openDocketLike(sequelize: Sequelize, transaction: Transaction, named: LockedDocket): Promise<number> {
  if (named.signed_at === null) return named.id;
  const other = await selectFirst<{ id: number }>(
    sequelize,
    "SELECT id FROM dockets WHERE round = :round AND certifier <=> :certifier AND account <=> :account AND signed_at IS NULL ORDER BY id LIMIT 1 FOR UPDATE",
    { round: named.round, certifier: named.certifier, account: named.account },
    transaction,
  );
  return (
    other?.id ??
    insert(
      sequelize,
      "INSERT INTO dockets (round, certifier, certifier_name, account) VALUES (:round, :certifier, :name, :account)",
      { round: named.round, certifier: named.certifier, name: named.certifier_name, account: named.account },
      transaction,
    )
  );
}

/** Writes decisions and signatures of dockets, each with what comes of it, in one transaction. */
export const docketDecisions = (sequelize: Sequelize, folder: string): Pick<RoundStore, "decide" | "sign"> => ({
  decide: async (docket, decisions, by, at) => {
    const done = await sequelize.transaction(async (transaction) => {
      const targets = decisions.flatMap(({ passedTo }) => passedTo ?? []);
      const locked = await lockDockets(sequelize, transaction, [docket, ...targets]);
      const own = locked.get(docket);
      if (own?.signed_at !== null || own.closed_at !== null) return "docket-signed" as const;
      const there = await takeBackPassedOn(sequelize, transaction, decisions);
      if (!there) return "taken-up" as const;
      const written: ({ readonly line: number } & LineDecision)[] = [];
      for (const decision of decisions) {
        const { line, passedTo } = decision;
        if (passedTo === undefined || there.has(line)) {
          written.push(decision);
          continue;
        }
        const to = await openDocketLike(sequelize, transaction, required(locked.get(passedTo), "the docket that lines are passed on to is there"));
        await execute(
          sequelize,
          `INSERT INTO docket_lines (docket, position, cardholder, holder_name, holder, flagged, content, effect, passed_from)
           SELECT :to, (SELECT COALESCE(MAX(o.position), -1) + 1 FROM docket_lines o WHERE o.docket = :to), cardholder, holder_name, holder, flagged, content, effect, id
           FROM docket_lines WHERE id = :line AND docket = :docket`,
          { to, line, docket },
          transaction,
        );
        written.push({ ...decision, passedTo: to });
      }
      await writeDecisions(sequelize, transaction, docket, written, by, at);
      return "written" as const;
    });
    await writeHead(sequelize, folder);
    return done;
  },
  sign: async (docket, { statement, hash, decisions }, orders, by, at) => {
    const done = await sequelize.transaction(async (transaction) => {
      if (!(await lockUnsigned(sequelize, transaction, docket))) return "already-signed" as const;
      const present = await select<Pick<LineRow, "id" | "decision" | "reason" | "terms">>(
        sequelize,
        "SELECT id, decision, reason, terms FROM docket_lines WHERE docket = :docket",
        { docket },
        transaction,
      );
      const signed = new Map(decisions.map((decision) => [decision.line, decision]));
      const isSame = ({ id, decision, reason, terms }: (typeof present)[number]): boolean => {
        const one = signed.get(id);
        return one?.decision === decision && one?.reason === (reason ?? "") && termsOf(one) === terms;
      };
      if (present.length !== signed.size || !present.every(isSame)) return "changed-meanwhile" as const;
      await execute(
        sequelize,
        "UPDATE dockets SET signed_at = :at, signed_by = :by, statement = :statement, hash = :hash WHERE id = :docket",
        { docket, at, by: by.id, statement, hash },
        transaction,
      );
      const written = await insertOrders(sequelize, transaction, orders, at);
      await appendRecord(sequelize, transaction, by, at, { what: "docket.signed", on: `docket ${docket}`, after: { statement, hash, ...written } });
      return "signed" as const;
    });
    await writeHead(sequelize, folder);
    return done;
  },
});

/** Writes decisions on lines of one docket, with what they were before in the record. */
export async function writeDecisions(
  sequelize: Sequelize,
  transaction: Transaction,
  docket: number,
  decisions: readonly ({ readonly line: number } & LineDecision)[],
  by: Account,
  at: string,
): Promise<void> {
  const before = new Map(
    (
      await select<Pick<LineRow, "id" | "decision" | "reason" | "terms">>(
        sequelize,
        "SELECT id, decision, reason, terms FROM docket_lines WHERE docket = :docket AND id IN (:ids)",
        { docket, ids: [0, ...decisions.map(({ line }) => line)] },
        transaction,
      )
    ).map((row) => [row.id, row]),
  );
  // Whoever keeps many lines at once decides the same of all of them.
  for (const same of groupBy(decisions, (decision) => JSON.stringify([decision.decision, decision.reason, termsOf(decision)])).values()) {
    const first = required(same[0], "groups are not empty");
    await execute(
      sequelize,
      "UPDATE docket_lines SET decision = :decision, reason = :reason, terms = :terms, decided_at = :at, decided_by = :by WHERE docket = :docket AND id IN (:lines)",
      { docket, at, by: by.id, decision: first.decision ?? null, reason: first.reason, terms: termsOf(first), lines: same.map(({ line }) => line) },
      transaction,
    );
  }
  const told = (decision: string | null, reason: string | null, terms: string | null) => ({ decision, reason, ...(terms !== null && { terms }) });
  const recorded = decisions.map((decision) => {
    const was = before.get(decision.line);
    return {
      what: "line.decided",
      on: `line ${decision.line} of docket ${docket}`,
      before: told(was?.decision ?? null, was?.reason ?? null, was?.terms ?? null),
      after: told(decision.decision ?? null, decision.reason, termsOf(decision)),
    };
  });
  await appendRecords(sequelize, transaction, by, at, recorded);
}
