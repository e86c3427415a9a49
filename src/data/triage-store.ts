import type { Sequelize, Transaction } from "sequelize";
import type { Actor, Recorded } from "@/operations/ports/record";
import type { TriageStore, Waiver } from "@/operations/ports/triage";
import { appendRecord, sha256, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

/** Under which a fingerprint, which may be of any length, is found again. */
export const fingerprintHash = (fingerprint: string): Buffer => Buffer.from(sha256(fingerprint).slice(0, 32), "hex");

export interface WaiverRow {
  readonly id: number;
  readonly fingerprint: string;
  readonly reason: string;
  readonly until_date: string;
  readonly risk: number;
  readonly made_by: string;
  readonly made_at: string;
  readonly confirmed_by: string | null;
  readonly ended_by: string | null;
  readonly ended_at: string | null;
}

export const asWaiver = (row: WaiverRow): Waiver => ({
  id: row.id,
  fingerprint: row.fingerprint,
  reason: row.reason,
  until: row.until_date,
  risk: row.risk,
  madeBy: row.made_by,
  madeAt: row.made_at,
  confirmedBy: row.confirmed_by ?? undefined,
});

/** A waiver that was neither ended nor has run out; `:today` is a date. */
export const isOpenWaiver = "ended_at IS NULL AND until_date >= :today";

export function triageStore(sequelize: Sequelize, folder: string): TriageStore {
  /** A change and what the record says of it, or nothing of either where the change gives undefined. */
  const recorded = async <T>(
    who: Actor,
    at: string,
    change: (transaction: Transaction) => Promise<{ readonly done: T; readonly entry: Recorded } | undefined>,
  ) => {
    const result = await sequelize.transaction(async (transaction) => {
      const made = await change(transaction);
      if (made) await appendRecord(sequelize, transaction, who, at, made.entry);
      return made;
    });
    if (result) await writeHead(sequelize, folder);
    return result?.done;
  };
  /** Of which finding a waiver is, for its entry. */
  const ofFinding = async (id: number, transaction: Transaction): Promise<{ readonly fingerprint: string | null }> => ({
    fingerprint:
      (await selectFirst<{ fingerprint: string }>(sequelize, "SELECT fingerprint FROM finding_waivers WHERE id = :id", { id }, transaction))?.fingerprint ??
      null,
  });
  return {
    waive: ({ fingerprint, reason, until, risk }, isConfirmed, today, who, at) =>
      recorded(who, at, async (transaction) => {
        const hash = fingerprintHash(fingerprint);
        await select(sequelize, "SELECT id FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
        const held = await selectFirst(
          sequelize,
          `SELECT id FROM finding_waivers WHERE fingerprint_hash = :hash AND ${isOpenWaiver} LIMIT 1`,
          { hash, today },
          transaction,
        );
        if (held) return undefined;
        const values = {
          hash,
          fingerprint,
          reason,
          until,
          risk,
          by: who.signIn,
          at,
          confirmedBy: isConfirmed ? who.signIn : null,
          confirmedAt: isConfirmed ? at : null,
        };
        const id = await insert(
          sequelize,
          `INSERT INTO finding_waivers (fingerprint_hash, fingerprint, reason, until_date, risk, made_by, made_at, confirmed_by, confirmed_at)
           VALUES (:hash, :fingerprint, :reason, :until, :risk, :by, :at, :confirmedBy, :confirmedAt)`,
          values,
          transaction,
        );
        const what = isConfirmed ? "finding.waived" : "finding.waiver-asked";
        return { done: id, entry: { what, on: `waiver ${id}`, after: { fingerprint, reason, until, risk } } };
      }),
    confirm: async (id, today, who, at) =>
      (await recorded(who, at, async (transaction) => {
        const changed = await execute(
          sequelize,
          `UPDATE finding_waivers SET confirmed_by = :by, confirmed_at = :at
           WHERE id = :id AND confirmed_by IS NULL AND ${isOpenWaiver} AND made_by <> :by`,
          { id, today, by: who.signIn, at },
          transaction,
        );
        return changed === 0
          ? undefined
          : { done: true, entry: { what: "finding.waiver-confirmed", on: `waiver ${id}`, after: await ofFinding(id, transaction) } };
      })) ?? false,
    end: async (id, who, at) =>
      (await recorded(who, at, async (transaction) => {
        const changed = await execute(
          sequelize,
          "UPDATE finding_waivers SET ended_by = :by, ended_at = :at WHERE id = :id AND ended_at IS NULL",
          { id, by: who.signIn, at },
          transaction,
        );
        return changed === 0 ? undefined : { done: true, entry: { what: "finding.waiver-ended", on: `waiver ${id}`, after: await ofFinding(id, transaction) } };
      })) ?? false,
    waiting: async (today) =>
      (await select<WaiverRow>(sequelize, `SELECT * FROM finding_waivers WHERE confirmed_by IS NULL AND ${isOpenWaiver} ORDER BY id`, { today })).map(asWaiver),
    endedBetween: async (from, today) => {
      const rows = await select<{ fingerprint: string }>(
        sequelize,
        `SELECT fingerprint FROM finding_waivers WHERE confirmed_by IS NOT NULL
           AND ((ended_at IS NULL AND until_date >= :since AND until_date < :today) OR (ended_at IS NOT NULL AND ended_at > :from)) ORDER BY id`,
        { from, since: from.slice(0, 10), today },
      );
      return [...new Set(rows.map(({ fingerprint }) => fingerprint))];
    },
    waiversOf: async (fingerprint) =>
      (
        await select<WaiverRow>(sequelize, "SELECT * FROM finding_waivers WHERE fingerprint_hash = :hash ORDER BY id DESC", {
          hash: fingerprintHash(fingerprint),
        })
      ).map((row) => ({ ...asWaiver(row), endedBy: row.ended_by ?? undefined, endedAt: row.ended_at ?? undefined })),
    note: async (fingerprint, note, who, at) =>
      void (await recorded(who, at, async (transaction) => {
        const id = await insert(
          sequelize,
          "INSERT INTO finding_notes (fingerprint_hash, note, made_by, made_at) VALUES (:hash, :note, :by, :at)",
          { hash: fingerprintHash(fingerprint), note, by: who.signIn, at },
          transaction,
        );
        return { done: true, entry: { what: "finding.noted", on: `note ${id}`, after: { fingerprint, note } } };
      })),
    notesOf: async (fingerprint) =>
      (
        await select<{ note: string; made_by: string; made_at: string }>(
          sequelize,
          "SELECT note, made_by, made_at FROM finding_notes WHERE fingerprint_hash = :hash ORDER BY id",
          { hash: fingerprintHash(fingerprint) },
        )
      ).map(({ note, made_by: by, made_at: at }) => ({ note, by, at })),
    assign: async (fingerprint, assignee, who, at) =>
      void (await recorded(who, at, async (transaction) => {
        const hash = fingerprintHash(fingerprint);
        const before = await selectFirst<{ assignee: string }>(
          sequelize,
          "SELECT assignee FROM finding_assignments WHERE fingerprint_hash = :hash FOR UPDATE",
          { hash },
          transaction,
        );
        if (before?.assignee === assignee) return undefined;
        if (assignee === undefined) await execute(sequelize, "DELETE FROM finding_assignments WHERE fingerprint_hash = :hash", { hash }, transaction);
        else
          await insert(
            sequelize,
            `INSERT INTO finding_assignments (fingerprint_hash, assignee, made_by, made_at) VALUES (:hash, :assignee, :by, :at)
             ON DUPLICATE KEY UPDATE assignee = VALUES(assignee), made_by = VALUES(made_by), made_at = VALUES(made_at)`,
            { hash, assignee, by: who.signIn, at },
            transaction,
          );
        const entry = {
          what: "finding.assigned",
          on: "finding",
          before: { fingerprint, assignee: before?.assignee ?? null },
          after: { fingerprint, assignee: assignee ?? null },
        };
        return { done: true, entry };
      })),
  };
}
