import type { Sequelize } from "sequelize";
import type { Account, AccountStore, Role, SessionStore } from "@/operations/ports/accounts";
import { appendRecord, writeHead } from "./record-store";
import type { StatementValues } from "./statements";
import { execute, insert, select, selectFirst } from "./statements";

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
  const accounts = (condition: string, replacements: StatementValues = {}) =>
    select<AccountRow>(sequelize, `SELECT ${columns} FROM accounts a ${condition}`, replacements);
  return {
    bySignIn: async (signIn) => {
      const [row] = await accounts("WHERE a.sign_in = :signIn", { signIn });
      return row && { ...asAccount(row), passwordHash: row.password_hash };
    },
    byCardholder: async (cardholder) => {
      const [row] = await accounts("WHERE a.cardholder = :cardholder", { cardholder });
      return row && asAccount(row);
    },
    all: async () => (await accounts("ORDER BY a.id")).map(asAccount),
    put: async ({ signIn, name, role, cardholder, passwordHash }, who, at) => {
      await sequelize.transaction(async (transaction) => {
        await insert(
          sequelize,
          `INSERT INTO accounts (sign_in, name, role, cardholder, password_hash) VALUES (:signIn, :name, :role, :cardholder, :passwordHash)
           ON DUPLICATE KEY UPDATE name = VALUES(name), role = VALUES(role), cardholder = VALUES(cardholder), password_hash = VALUES(password_hash)`,
          { signIn, name, role, cardholder: cardholder ?? null, passwordHash },
          transaction,
        );
        await execute(sequelize, "DELETE s FROM sessions s JOIN accounts a ON a.id = s.account WHERE a.sign_in = :signIn", { signIn }, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "account.put", on: signIn, after: { name, role, cardholder } });
      });
      await writeHead(sequelize, folder);
    },
  };
};

export const sessionStore = (sequelize: Sequelize): SessionStore => ({
  open: async (tokenHash, account, passwordHash, at) => {
    const opened = await execute(
      sequelize,
      "INSERT INTO sessions (token_hash, account, created_at, last_seen_at) SELECT :tokenHash, id, :at, :at FROM accounts WHERE id = :account AND password_hash = :passwordHash",
      { tokenHash, account, passwordHash, at },
    );
    return opened > 0;
  },
  use: async (tokenHash, { usedSince, openedSince }, at) => {
    const row = await selectFirst<AccountRow & { last_seen_at: string }>(
      sequelize,
      `SELECT ${columns}, s.last_seen_at FROM sessions s JOIN accounts a ON a.id = s.account WHERE s.token_hash = :tokenHash AND s.last_seen_at >= :usedSince AND s.created_at >= :openedSince`,
      { tokenHash, usedSince, openedSince },
    );
    if (!row) return undefined;
    // To the minute is enough, and spares a write with every request.
    if (row.last_seen_at.slice(0, 16) !== at.slice(0, 16))
      await execute(sequelize, "UPDATE sessions SET last_seen_at = :at WHERE token_hash = :tokenHash", { tokenHash, at });
    return asAccount(row);
  },
  close: async (tokenHash) => {
    await execute(sequelize, "DELETE FROM sessions WHERE token_hash = :tokenHash", { tokenHash });
  },
});
