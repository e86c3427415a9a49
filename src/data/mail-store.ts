import type { Sequelize } from "sequelize";
import type { Attachment, MailKind, MailStore } from "@/operations/ports/mail";
import { execute, insert, select, selectFirst } from "./statements";

interface MailRow {
  readonly id: number;
  readonly kind: MailKind;
  readonly due_key: string;
  readonly round: number | null;
  readonly docket: number | null;
  readonly account: number | null;
  readonly path: string;
  readonly to_address: string;
  readonly to_name: string;
  readonly subject: string;
  readonly words: string;
  readonly made_at: string;
  readonly sent_at: string | null;
  readonly tries: number;
  readonly last_error: string | null;
  readonly next_at: string;
  readonly attachment: string | null;
}

const longestError = 500;

export const mailStore = (sequelize: Sequelize): MailStore => ({
  queue: async (mails, at) => {
    let queued = 0;
    for (const { kind, dueKey, round, docket, account, path, toAddress, toName, subject, words, attachment } of mails) {
      // What is queued already stays as it was; the insert gives the number of a new one, or none.
      const id = await insert(
        sequelize,
        `INSERT IGNORE INTO mails (kind, due_key, round, docket, account, path, to_address, to_name, subject, words, attachment, made_at, next_at)
         VALUES (:kind, :dueKey, :round, :docket, :account, :path, :toAddress, :toName, :subject, :words, :attachment, :at, :at)`,
        {
          ...{ kind, dueKey, path, toAddress, toName, subject, words, at },
          round: round ?? null,
          docket: docket ?? null,
          account: account ?? null,
          attachment: attachment ? JSON.stringify(attachment) : null,
        },
      );
      if (id > 0) queued += 1;
    }
    return queued;
  },
  queuedKeys: async (rounds) =>
    new Set(
      (await select<{ due_key: string }>(sequelize, "SELECT due_key FROM mails WHERE round IN (:rounds)", { rounds: [0, ...rounds] })).map(
        ({ due_key }) => due_key,
      ),
    ),
  due: async (at, limit) =>
    (await select<MailRow>(sequelize, "SELECT * FROM mails WHERE sent_at IS NULL AND next_at <= :at ORDER BY next_at, id LIMIT :limit", { at, limit })).map(
      ({ id, kind, due_key: dueKey, round, docket, account, path, to_address: toAddress, to_name: toName, subject, words, tries, attachment }) => ({
        id,
        kind,
        dueKey,
        round: round ?? undefined,
        docket: docket ?? undefined,
        account: account ?? undefined,
        ...(attachment !== null && { attachment: JSON.parse(attachment) as Attachment }),
        path,
        toAddress,
        toName,
        subject,
        words,
        tries,
      }),
    ),
  sent: async (id, at) => {
    await execute(sequelize, "UPDATE mails SET sent_at = :at, tries = tries + 1, last_error = NULL WHERE id = :id", { id, at });
  },
  failed: async (id, error, nextAt) => {
    await execute(sequelize, "UPDATE mails SET tries = tries + 1, last_error = :error, next_at = :nextAt WHERE id = :id", {
      id,
      error: error.slice(0, longestError),
      nextAt,
    });
  },
  lastOf: async (kind) => (await selectFirst<{ at: string | null }>(sequelize, "SELECT MAX(made_at) AS at FROM mails WHERE kind = :kind", { kind }))?.at ?? undefined,
  ofRound: async (round) =>
    (await select<MailRow>(sequelize, "SELECT * FROM mails WHERE round = :round ORDER BY id", { round })).map((row) => ({
      kind: row.kind,
      docket: row.docket ?? undefined,
      toName: row.to_name,
      madeAt: row.made_at,
      sentAt: row.sent_at ?? undefined,
      tries: row.tries,
      lastError: row.last_error ?? undefined,
      nextAt: row.next_at,
    })),
});
