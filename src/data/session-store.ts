import type { Sequelize } from "sequelize";
import type { SessionStore } from "@/operations/ports/accounts";
import type { AccountRow } from "./account-rows";
import { accountColumns, asAccount } from "./account-rows";
import { execute, select, selectFirst } from "./statements";

const idLength = 16;

export const sessionStore = (sequelize: Sequelize): SessionStore => ({
  open: async ({ tokenHash, account, agent }, passwordHash, at) => {
    const opened = await execute(
      sequelize,
      `INSERT INTO sessions (token_hash, account, created_at, last_seen_at, agent) SELECT :tokenHash, id, :at, :at, :agent FROM accounts
       WHERE id = :account AND ended_at IS NULL AND (:passwordHash IS NULL OR password_hash = :passwordHash)`,
      { tokenHash, account, passwordHash: passwordHash ?? null, at, agent: agent.slice(0, 255) },
    );
    if (opened > 0) await execute(sequelize, "UPDATE accounts SET last_sign_in = :at WHERE id = :account", { account, at });
    return opened > 0;
  },
  use: async (tokenHash, { usedSince, openedSince }, at) => {
    const row = await selectFirst<AccountRow & { last_seen_at: string; is_asked: number | null }>(
      sequelize,
      `SELECT ${accountColumns}, s.last_seen_at, (SELECT r.second_factor FROM role_rules r WHERE r.role = a.role) AS is_asked
       FROM sessions s JOIN accounts a ON a.id = s.account
       WHERE s.token_hash = :tokenHash AND s.last_seen_at >= :usedSince AND s.created_at >= :openedSince AND a.ended_at IS NULL`,
      { tokenHash, usedSince, openedSince },
    );
    if (!row) return undefined;
    // To the minute is enough, and spares a write with every request.
    if (row.last_seen_at.slice(0, 16) !== at.slice(0, 16))
      await execute(sequelize, "UPDATE sessions SET last_seen_at = :at WHERE token_hash = :tokenHash", { tokenHash, at });
    return { ...asAccount(row), ...(row.is_asked && row.second_factor === null && { setUp: "second-factor" as const }) };
  },
  ofAccount: async (account, tokenHash, openedSince) => {
    const rows = await select<{ token_hash: string; created_at: string; last_seen_at: string; agent: string }>(
      sequelize,
      "SELECT token_hash, created_at, last_seen_at, agent FROM sessions WHERE account = :account AND created_at >= :openedSince ORDER BY last_seen_at DESC",
      { account, openedSince },
    );
    return rows.map((row) => ({
      id: row.token_hash.slice(0, idLength),
      openedAt: row.created_at,
      lastUsedAt: row.last_seen_at,
      agent: row.agent,
      isThis: row.token_hash === tokenHash,
    }));
  },
  close: async (tokenHash) => {
    await execute(sequelize, "DELETE FROM sessions WHERE token_hash = :tokenHash", { tokenHash });
  },
  closeOne: async (account, id) =>
    id.length === idLength && (await execute(sequelize, "DELETE FROM sessions WHERE account = :account AND LEFT(token_hash, 16) = :id", { account, id })) > 0,
});
