import type { Sequelize, Transaction } from "sequelize";
import type { RoundTerms } from "@/core/certification/round-terms";
import { usualTerms } from "@/core/certification/round-terms";
import { required } from "@/core/kernel/invariant";
import type { Account } from "@/operations/ports/accounts";
import type { RoundStore } from "@/operations/ports/rounds";
import { writeDecisions } from "./docket-decisions";
import { insertOrders } from "./order-rows";
import type { Recorded } from "@/operations/ports/record";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

/** What a reviewer changes of a round while it runs, and how it ends; each in one transaction with its entry in the record. */
export function roundChanges(
  sequelize: Sequelize,
  folder: string,
): Pick<RoundStore, "correct" | "release" | "giveTo" | "addSubstitute" | "askToClose" | "close" | "comment" | "setOccasion"> {
  /** Makes a change and records it, unless it comes to nothing. */
  async function recorded<T>(
    by: Account,
    at: string,
    change: (transaction: Transaction) => Promise<{ readonly done: T; readonly entry: Recorded | undefined }>,
  ) {
    const done = await sequelize.transaction(async (transaction) => {
      const changed = await change(transaction);
      if (changed.entry) await appendRecord(sequelize, transaction, by, at, changed.entry);
      return changed.done;
    });
    await writeHead(sequelize, folder);
    return done;
  }
  return {
    correct: (docket, by, at) =>
      recorded(by, at, async (transaction) => {
        const id = await insert(
          sequelize,
          "INSERT INTO dockets (round, certifier, certifier_name, account, corrects) SELECT round, certifier, certifier_name, account, id FROM dockets WHERE id = :docket",
          { docket },
          transaction,
        );
        const made = required(
          await selectFirst<{ id: number }>(sequelize, "SELECT MAX(id) AS id FROM dockets WHERE corrects = :docket", { docket }, transaction),
          `docket ${id} was made`,
        ).id;
        await execute(
          sequelize,
          `INSERT INTO docket_lines (docket, position, cardholder, holder_name, holder, flagged, content, effect)
           SELECT :made, position, cardholder, holder_name, holder, flagged, content, effect FROM docket_lines WHERE docket = :docket AND decision <> 'pass-on'`,
          { made, docket },
          transaction,
        );
        return { done: made, entry: { what: "docket.corrected", on: `docket ${docket}`, after: { docket: made } } };
      }),
    release: (round, by, at) =>
      recorded(by, at, async (transaction) => {
        const released = await execute(sequelize, "UPDATE dockets SET held = FALSE WHERE round = :round AND held", { round }, transaction);
        return { done: undefined, entry: released === 0 ? undefined : { what: "round.released", on: `round ${round}`, after: { dockets: released } } };
      }),
    giveTo: (docket, { id, name }, by, at) =>
      recorded(by, at, async (transaction) => {
        const before = await selectFirst<{ certifier: string | null; certifier_name: string | null }>(
          sequelize,
          "SELECT certifier, certifier_name FROM dockets WHERE id = :docket AND signed_at IS NULL AND closed_at IS NULL FOR UPDATE",
          { docket },
          transaction,
        );
        if (!before) return { done: false, entry: undefined };
        await execute(
          sequelize,
          "UPDATE dockets SET certifier = :id, certifier_name = :name, account = NULL WHERE id = :docket",
          { docket, id, name },
          transaction,
        );
        const entry = {
          what: "docket.given",
          on: `docket ${docket}`,
          before: { certifier: before.certifier, name: before.certifier_name },
          after: { certifier: id, name },
        };
        return { done: true, entry };
      }),
    addSubstitute: ({ round, certifier, account, from, until }, by, at) =>
      recorded(by, at, async (transaction) => {
        await insert(
          sequelize,
          "INSERT INTO substitutes (round, certifier, account, from_date, until_date) VALUES (:round, :certifier, :account, :from, :until)",
          { round, certifier, account: account.id, from, until },
          transaction,
        );
        return { done: undefined, entry: { what: "substitute.added", on: `round ${round}`, after: { certifier, substitute: account.name, from, until } } };
      }),
    askToClose: (round, reason, by, at) =>
      recorded(by, at, async (transaction) => {
        const asked = await execute(
          sequelize,
          "UPDATE rounds SET closing_asked_by = :by, closing_asked_at = :at, closing_reason = :reason WHERE id = :round AND closed_at IS NULL",
          { round, by: by.id, at, reason },
          transaction,
        );
        return { done: undefined, entry: asked === 0 ? undefined : { what: "round.closing-asked", on: `round ${round}`, after: { reason } } };
      }),
    close: (round, seen, orders, by, at) =>
      recorded(by, at, async (transaction) => {
        const open = await selectFirst<{ terms: string | null; closing_reason: string | null }>(
          sequelize,
          "SELECT terms, closing_reason FROM rounds WHERE id = :round AND closed_at IS NULL FOR UPDATE",
          { round },
          transaction,
        );
        const dockets = await select<{ id: number; signed_at: string | null }>(
          sequelize,
          "SELECT id, signed_at FROM dockets WHERE round = :round AND closed_at IS NULL ORDER BY id FOR UPDATE",
          { round },
          transaction,
        );
        const lines = await select<{ id: number; docket: number; decision: string | null; decided_at: string | null }>(
          sequelize,
          "SELECT l.id, l.docket, l.decision, l.decided_at FROM docket_lines l JOIN dockets d ON d.id = l.docket WHERE d.round = :round ORDER BY l.id",
          { round },
          transaction,
        );
        const [decided, signed] = [lines.filter(({ decision }) => decision !== null).length, dockets.filter(({ signed_at: at }) => at !== null).length];
        const lastDecidedAt = lines.reduce((last, { decided_at: at }) => (at !== null && at > last ? at : last), "");
        if (!open || decided !== seen.decided || lastDecidedAt !== (seen.lastDecidedAt ?? "") || signed !== seen.signed)
          return { done: false, entry: undefined };
        const { undecided } = open.terms === null ? usualTerms : (JSON.parse(open.terms) as RoundTerms);
        for (const { id, signed_at: signedAt } of dockets) {
          if (signedAt !== null) continue;
          const left = lines.filter(({ docket, decision }) => docket === id && decision === null);
          const ruled = left.map(({ id: line }) => ({ line, decision: undecided, reason: "Undecided when the round was closed." }));
          if (ruled.length > 0) await writeDecisions(sequelize, transaction, id, ruled, by, at);
          await execute(sequelize, "UPDATE dockets SET closed_at = :at WHERE id = :id", { at, id }, transaction);
          const written = await insertOrders(sequelize, transaction, orders.find(({ docket }) => docket === id)?.orders ?? [], at);
          await appendRecord(sequelize, transaction, by, at, { what: "docket.closed", on: `docket ${id}`, after: { undecided: ruled.length, ...written } });
        }
        await execute(sequelize, "UPDATE rounds SET closed_at = :at, closed_by = :by WHERE id = :round", { round, at, by: by.id }, transaction);
        const after = { undecided: lines.length - decided, countAs: undecided, unsigned: dockets.length - signed, reason: open.closing_reason };
        return { done: true, entry: { what: "round.closed", on: `round ${round}`, after } };
      }),
    setOccasion: (kind, days, by, at) =>
      recorded(by, at, async (transaction) => {
        const before = await selectFirst<{ days: number }>(sequelize, "SELECT days FROM occasions WHERE kind = :kind FOR UPDATE", { kind }, transaction);
        if (days === undefined) await execute(sequelize, "DELETE FROM occasions WHERE kind = :kind", { kind }, transaction);
        else
          await insert(
            sequelize,
            `INSERT INTO occasions (kind, days, set_by, set_at) VALUES (:kind, :days, :by, :at)
             ON DUPLICATE KEY UPDATE days = VALUES(days), set_by = VALUES(set_by), set_at = VALUES(set_at)`,
            { kind, days, by: by.id, at },
            transaction,
          );
        const entry = { what: "occasion.set", on: `occasion ${kind}`, before: { days: before?.days ?? null }, after: { days: days ?? null } };
        return { done: undefined, entry };
      }),
    comment: (line, words, by, at) =>
      recorded(by, at, async (transaction) => {
        await insert(
          sequelize,
          "INSERT INTO line_comments (line, account, at, words) VALUES (:line, :by, :at, :words)",
          { line, by: by.id, at, words },
          transaction,
        );
        const of = await selectFirst<{ docket: number }>(sequelize, "SELECT docket FROM docket_lines WHERE id = :line", { line }, transaction);
        return { done: undefined, entry: { what: "line.commented", on: `line ${line} of docket ${of?.docket ?? ""}`, after: { words } } };
      }),
  };
}
