import { QueryTypes } from "sequelize";
import type { Sequelize } from "sequelize";
import type { Account, AccountStore, Role, SessionStore } from "@/operations/ports/accounts";
import { appendRecord, writeHead } from "./record-store";

interface AccountRow {
  readonly id: number;
  readonly sign_in: string;
  readonly name: string;
  readonly role: Role;
  readonly cardholder: string | null;
  readonly password_hash: string;
}

const asAccount = (row: AccountRow): Account => ({
  id: row.id,
  signIn: row.sign_in,
  name: row.name,
  role: row.role,
  cardholder: row.cardholder ?? undefined,
});

const columns = "a.id, a.sign_in, a.name, a.role, a.cardholder, a.password_hash";

export const accountStore = (sequelize: Sequelize, folder: string): AccountStore => {
  const select = (condition: string, replacements: Record<string, unknown>) =>
    sequelize.query<AccountRow>(`SELECT ${columns} FROM accounts a ${condition}`, { type: QueryTypes.SELECT, replacements });
  return {
    bySignIn: async (signIn) => {
      const [row] = await select("WHERE a.sign_in = :signIn", { signIn });
      return row && { ...asAccount(row), passwordHash: row.password_hash };
    },
    byCardholder: async (cardholder) => {
      const [row] = await select("WHERE a.cardholder = :cardholder", { cardholder });
      return row && asAccount(row);
    },
    all: async () => (await select("ORDER BY a.id", {})).map(asAccount),
    put: async ({ signIn, name, role, cardholder, passwordHash }, who, at) => {
      await sequelize.transaction(async (transaction) => {
        await sequelize.query(
          `INSERT INTO accounts (sign_in, name, role, cardholder, password_hash) VALUES (:signIn, :name, :role, :cardholder, :passwordHash)
           ON DUPLICATE KEY UPDATE name = VALUES(name), role = VALUES(role), cardholder = VALUES(cardholder), password_hash = VALUES(password_hash)`,
          { type: QueryTypes.INSERT, replacements: { signIn, name, role, cardholder: cardholder ?? null, passwordHash }, transaction },
        );
        await sequelize.query("DELETE s FROM sessions s JOIN accounts a ON a.id = s.account WHERE a.sign_in = :signIn", {
          type: QueryTypes.DELETE,
          replacements: { signIn },
          transaction,
        });
        await appendRecord(sequelize, transaction, who, at, { what: "account.put", on: signIn, after: { name, role, cardholder } });
      });
      await writeHead(sequelize, folder);
    },
  };
};

export const sessionStore = (sequelize: Sequelize): SessionStore => ({
  open: async (tokenHash, account, passwordHash, at) => {
    const [, opened] = await sequelize.query(
      "INSERT INTO sessions (token_hash, account, created_at, last_seen_at) SELECT :tokenHash, id, :at, :at FROM accounts WHERE id = :account AND password_hash = :passwordHash",
      { type: QueryTypes.INSERT, replacements: { tokenHash, account, passwordHash, at } },
    );
    return opened > 0;
  },
  use: async (tokenHash, { usedSince, openedSince }, at) => {
    const [row] = await sequelize.query<AccountRow & { last_seen_at: string }>(
      `SELECT ${columns}, s.last_seen_at FROM sessions s JOIN accounts a ON a.id = s.account WHERE s.token_hash = :tokenHash AND s.last_seen_at >= :usedSince AND s.created_at >= :openedSince`,
      { type: QueryTypes.SELECT, replacements: { tokenHash, usedSince, openedSince } },
    );
    if (!row) return undefined;
    // To the minute is enough, and spares a write with every request.
    if (row.last_seen_at.slice(0, 16) !== at.slice(0, 16))
      await sequelize.query("UPDATE sessions SET last_seen_at = :at WHERE token_hash = :tokenHash", {
        type: QueryTypes.UPDATE,
        replacements: { tokenHash, at },
      });
    return asAccount(row);
  },
  close: async (tokenHash) => {
    await sequelize.query("DELETE FROM sessions WHERE token_hash = :tokenHash", { type: QueryTypes.DELETE, replacements: { tokenHash } });
  },
});
