import { QueryTypes } from "sequelize";
import type { Sequelize } from "sequelize";
import type { Account, AccountStore, Role, SessionStore } from "@/operations/ports/accounts";

interface AccountRow {
  readonly id: number;
  readonly sign_in: string;
  readonly name: string;
  readonly role: Role;
  readonly cardholder: string | null;
  readonly password_hash: string;
  readonly barred_until: string | null;
}

const asAccount = (row: AccountRow): Account => ({
  id: row.id,
  signIn: row.sign_in,
  name: row.name,
  role: row.role,
  cardholder: row.cardholder ?? undefined,
});

const columns = "a.id, a.sign_in, a.name, a.role, a.cardholder, a.password_hash, a.barred_until";

export const accountStore = (sequelize: Sequelize): AccountStore => {
  const select = (condition: string, replacements: Record<string, unknown>) =>
    sequelize.query<AccountRow>(`SELECT ${columns} FROM accounts a ${condition}`, { type: QueryTypes.SELECT, replacements });
  return {
    bySignIn: async (signIn) => {
      const [row] = await select("WHERE a.sign_in = :signIn", { signIn });
      return row && { ...asAccount(row), passwordHash: row.password_hash, barredUntil: row.barred_until ?? undefined };
    },
    byCardholder: async (cardholder) => {
      const [row] = await select("WHERE a.cardholder = :cardholder", { cardholder });
      return row && asAccount(row);
    },
    all: async () => (await select("ORDER BY a.id", {})).map(asAccount),
    put: async ({ signIn, name, role, cardholder, passwordHash }) => {
      await sequelize.query(
        `INSERT INTO accounts (sign_in, name, role, cardholder, password_hash) VALUES (:signIn, :name, :role, :cardholder, :passwordHash)
         ON DUPLICATE KEY UPDATE name = VALUES(name), role = VALUES(role), cardholder = VALUES(cardholder), password_hash = VALUES(password_hash)`,
        { type: QueryTypes.INSERT, replacements: { signIn, name, role, cardholder: cardholder ?? null, passwordHash } },
      );
    },
    noteFailure: async (account, barAfter, barredUntil) => {
      await sequelize.query(
        `UPDATE accounts SET barred_until = IF(failures + 1 >= :barAfter, :barredUntil, barred_until),
         failures = IF(failures + 1 >= :barAfter, 0, failures + 1) WHERE id = :account`,
        { type: QueryTypes.UPDATE, replacements: { account, barAfter, barredUntil } },
      );
    },
    clearFailures: async (account) => {
      await sequelize.query("UPDATE accounts SET failures = 0, barred_until = NULL WHERE id = :account", {
        type: QueryTypes.UPDATE,
        replacements: { account },
      });
    },
  };
};

export const sessionStore = (sequelize: Sequelize): SessionStore => ({
  open: async (tokenHash, account, at) => {
    await sequelize
      .getQueryInterface()
      .bulkInsert("sessions", [{ token_hash: tokenHash, account, created_at: at, last_seen_at: at }]);
  },
  use: async (tokenHash, notBefore, at) => {
    const [row] = await sequelize.query<AccountRow & { last_seen_at: string }>(
      `SELECT ${columns}, s.last_seen_at FROM sessions s JOIN accounts a ON a.id = s.account WHERE s.token_hash = :tokenHash AND s.last_seen_at >= :notBefore`,
      { type: QueryTypes.SELECT, replacements: { tokenHash, notBefore } },
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
