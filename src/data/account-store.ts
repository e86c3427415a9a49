import type { Sequelize, Transaction } from "sequelize";
import type { AccountStore, NewAccount, Role } from "@/operations/ports/accounts";
import type { Actor, Recorded } from "@/operations/ports/record";
import type { AccountRow, DetailsRow } from "./account-rows";
import { accountColumns, asAccount, asDetails, asSecondFactor } from "./account-rows";
import { appendRecord, writeHead } from "./record-store";
import type { StatementValues } from "./statements";
import { execute, insert, select, selectFirst } from "./statements";

/** Sites as they are kept, in one order. */
const sitesText = (sites: readonly string[]): string => JSON.stringify([...sites].sort());

/** What of an account stands in the record, and is compared with it. */
const recorded = ({
  name,
  role,
  cardholder,
  sites,
  endedAt,
}: Pick<NewAccount, "name" | "role" | "cardholder" | "sites"> & { readonly endedAt?: string | null }) => ({
  name,
  role,
  cardholder,
  ...(sites && { sites: sitesText(sites) }),
  ...(endedAt && { endedAt }),
});

export const accountStore = (sequelize: Sequelize, folder: string): AccountStore => {
  const accounts = (condition: string, replacements: StatementValues = {}) =>
    select<AccountRow>(sequelize, `SELECT ${accountColumns} FROM accounts a ${condition}`, replacements);
  async function written<T>(write: (transaction: Transaction) => Promise<T>): Promise<T> {
    const done = await sequelize.transaction(write);
    await writeHead(sequelize, folder);
    return done;
  }
  const put = (transaction: Transaction, { signIn, name, role, cardholder, passwordHash, email, language, sites }: NewAccount) =>
    insert(
      sequelize,
      `INSERT INTO accounts (sign_in, name, role, cardholder, password_hash, email, language, sites)
       VALUES (:signIn, :name, :role, :cardholder, :passwordHash, :email, :language, :sites)
       ON DUPLICATE KEY UPDATE name = VALUES(name), role = VALUES(role), cardholder = VALUES(cardholder), password_hash = VALUES(password_hash), sites = VALUES(sites), ended_at = NULL`,
      {
        ...{ signIn, name, role, passwordHash },
        cardholder: cardholder ?? null,
        email: email ?? null,
        language: language ?? null,
        sites: sites ? sitesText(sites) : null,
      },
      transaction,
    );
  const endSessions = (transaction: Transaction, id: number, keep?: string) =>
    execute(sequelize, "DELETE FROM sessions WHERE account = :id AND token_hash <> :keep", { id, keep: keep ?? "" }, transaction);
  const locked = (transaction: Transaction, id: number) =>
    selectFirst<AccountRow & { readonly ended_at: string | null }>(
      sequelize,
      `SELECT ${accountColumns}, a.ended_at FROM accounts a WHERE a.id = :id FOR UPDATE`,
      { id },
      transaction,
    );
  /** Changes an account that is there, with an entry of the record; false where it is not. */
  const changed = (
    id: number,
    who: Actor,
    at: string,
    change: (transaction: Transaction, before: NonNullable<Awaited<ReturnType<typeof locked>>>) => Promise<Omit<Recorded, "on"> | undefined>,
  ): Promise<boolean> =>
    written(async (transaction) => {
      const before = await locked(transaction, id);
      const said = before && (await change(transaction, before));
      if (!before || !said) return false;
      await appendRecord(sequelize, transaction, who, at, { ...said, on: before.sign_in });
      return true;
    });
  return {
    bySignIn: async (signIn) => {
      const [row] = await accounts("WHERE a.sign_in = :signIn AND a.ended_at IS NULL", { signIn });
      return row && { ...asAccount(row), passwordHash: row.password_hash, secondFactor: asSecondFactor(row.second_factor) };
    },
    byCardholder: async (cardholder) => {
      const [row] = await accounts("WHERE a.cardholder = :cardholder AND a.ended_at IS NULL ORDER BY a.id", { cardholder });
      return row && asAccount(row);
    },
    all: async () => (await accounts("WHERE a.ended_at IS NULL ORDER BY a.id")).map(asAccount),
    details: async () =>
      (
        await select<DetailsRow>(
          sequelize,
          `SELECT ${accountColumns}, a.email, a.ended_at, a.last_sign_in, (SELECT COUNT(*) FROM sessions s WHERE s.account = a.id) AS session_count
           FROM accounts a ORDER BY a.ended_at IS NOT NULL, a.name, a.id`,
        )
      ).map(asDetails),
    put: (given, who, at) =>
      written(async (transaction) => {
        const [known] = await select<{ sites: string | null }>(
          sequelize,
          "SELECT sites FROM accounts WHERE sign_in = :signIn AND role = :role FOR UPDATE",
          { signIn: given.signIn, role: given.role },
          transaction,
        );
        // Whoever only sets a password anew does not take a limit away.
        const account = given.sites === undefined && known?.sites ? { ...given, sites: JSON.parse(known.sites) as string[] } : given;
        await put(transaction, account);
        await execute(
          sequelize,
          "DELETE s FROM sessions s JOIN accounts a ON a.id = s.account WHERE a.sign_in = :signIn",
          { signIn: account.signIn },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "account.put", on: account.signIn, after: recorded(account) });
      }),
    add: (account, who, at) =>
      written(async (transaction) => {
        const { signIn, cardholder } = account;
        const taken = await select<{ sign_in: string; ended_at: string | null }>(
          sequelize,
          "SELECT sign_in, ended_at FROM accounts WHERE sign_in = :signIn OR (cardholder = :cardholder AND ended_at IS NULL) FOR UPDATE",
          { signIn, cardholder: cardholder ?? null },
          transaction,
        );
        if (taken.some((one) => one.sign_in === signIn)) return "name-taken" as const;
        if (taken.length > 0) return "cardholder-taken" as const;
        await put(transaction, account);
        await appendRecord(sequelize, transaction, who, at, { what: "account.put", on: signIn, after: recorded(account) });
        return "added" as const;
      }),
    change: (id, to, who, at) =>
      changed(id, who, at, async (transaction, before) => {
        const { name, role, cardholder, email, language, sites } = to;
        const nowSites = sites ? sitesText(sites) : null;
        const other =
          cardholder === undefined
            ? undefined
            : await selectFirst<{ id: number }>(
                sequelize,
                "SELECT id FROM accounts WHERE cardholder = :cardholder AND ended_at IS NULL AND id <> :id FOR UPDATE",
                { cardholder, id },
                transaction,
              );
        if (other) return undefined;
        await execute(
          sequelize,
          "UPDATE accounts SET name = :name, role = :role, cardholder = :cardholder, email = :email, language = :language, sites = :sites WHERE id = :id",
          { id, name, role, cardholder: cardholder ?? null, email: email ?? null, language: language ?? null, sites: nowSites },
          transaction,
        );
        if (role !== before.role || (cardholder ?? null) !== before.cardholder || nowSites !== before.sites) await endSessions(transaction, id);
        const was = recorded({ ...asAccount(before), endedAt: before.ended_at });
        return { what: "account.put", before: was, after: recorded({ name, role, cardholder, sites, endedAt: before.ended_at }) };
      }),
    end: (id, isEnded, who, at) =>
      changed(id, who, at, async (transaction, account) => {
        if ((account.ended_at !== null) === isEnded) return undefined;
        const endedAt = isEnded ? at : null;
        await execute(sequelize, "UPDATE accounts SET ended_at = :endedAt WHERE id = :id", { id, endedAt }, transaction);
        await endSessions(transaction, id);
        await execute(sequelize, "DELETE FROM sign_in_links WHERE account = :id AND used_at IS NULL", { id }, transaction);
        return { what: "account.put", after: recorded({ ...asAccount(account), endedAt }) };
      }),
    reset: (id, who, at) =>
      changed(id, who, at, async (transaction) => {
        await execute(sequelize, "UPDATE accounts SET password_hash = '', second_factor = NULL WHERE id = :id", { id }, transaction);
        await endSessions(transaction, id);
        await execute(sequelize, "DELETE FROM sign_in_links WHERE account = :id AND used_at IS NULL", { id }, transaction);
        return { what: "account.reset" };
      }),
    setPassword: async (id, passwordHash, keep, who, at) => {
      await changed(id, who, at, async (transaction) => {
        await execute(sequelize, "UPDATE accounts SET password_hash = :passwordHash WHERE id = :id", { id, passwordHash }, transaction);
        await endSessions(transaction, id, keep);
        return { what: "account.password" };
      });
    },
    secondFactor: async (id) =>
      asSecondFactor(
        (await selectFirst<{ second_factor: string | null }>(sequelize, "SELECT second_factor FROM accounts WHERE id = :id", { id }))?.second_factor ?? null,
      ),
    setSecondFactor: async (id, factor, keep, who, at) => {
      await changed(id, who, at, async (transaction) => {
        await execute(
          sequelize,
          "UPDATE accounts SET second_factor = :factor WHERE id = :id",
          { id, factor: factor === undefined ? null : JSON.stringify(factor) },
          transaction,
        );
        await endSessions(transaction, id, keep);
        return { what: "account.second-factor", after: { set: factor !== undefined } };
      });
    },
    useSecondFactor: async (id, instead, factor) =>
      (await execute(sequelize, "UPDATE accounts SET second_factor = :factor WHERE id = :id AND second_factor = :instead", {
        id,
        factor: JSON.stringify(factor),
        instead: JSON.stringify(instead),
      })) > 0,
    rolesWithSecondFactor: async () =>
      (await select<{ role: Role }>(sequelize, "SELECT role FROM role_rules WHERE second_factor ORDER BY role")).map(({ role }) => role),
    askSecondFactor: (role, isAsked, who, at) =>
      written(async (transaction) => {
        await insert(
          sequelize,
          "INSERT INTO role_rules (role, second_factor) VALUES (:role, :isAsked) ON DUPLICATE KEY UPDATE second_factor = VALUES(second_factor)",
          { role, isAsked },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "role.second-factor", on: role, after: { asked: isAsked } });
      }),
    makeLink: async ({ tokenHash, account, path, until }, at) => {
      await insert(sequelize, "INSERT INTO sign_in_links (token_hash, account, path, made_at, until_at) VALUES (:tokenHash, :account, :path, :at, :until)", {
        tokenHash,
        account,
        path,
        at,
        until,
      });
    },
    link: async (tokenHash, at) => {
      const row = await selectFirst<AccountRow & { path: string }>(
        sequelize,
        `SELECT ${accountColumns}, l.path FROM sign_in_links l JOIN accounts a ON a.id = l.account
         WHERE l.token_hash = :tokenHash AND l.used_at IS NULL AND l.until_at > :at AND a.ended_at IS NULL`,
        { tokenHash, at },
      );
      return row && { account: asAccount(row), path: row.path };
    },
    useLink: async (tokenHash, at) =>
      (await execute(sequelize, "UPDATE sign_in_links SET used_at = :at WHERE token_hash = :tokenHash AND used_at IS NULL AND until_at > :at", {
        tokenHash,
        at,
      })) > 0,
  };
};
