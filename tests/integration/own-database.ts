import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { QueryTypes } from "sequelize";
import { connect } from "@/data/connection";
import type { Account } from "@/operations/ports/accounts";
import { openServices } from "@/wiring/services";

type Services = ReturnType<typeof openServices>;

/** The services on a database and a folder of their own. */
export interface OwnDatabase {
  readonly services: Services;
  readonly folder: string;
  readonly account: (signIn: string, role: Account["role"], cardholder?: string) => Promise<Account>;
  /** Runs statements with all rights, as somebody would who owns the server. */
  readonly asOwner: (...statements: readonly string[]) => Promise<void>;
  readonly close: () => Promise<void>;
}

const needed = (name: string): string => {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set: run these tests with npm test.`);
  return value;
};

/** Whoever has all rights on a database of this name. */
export const ownerOf = (name: string) => ({
  port: Number(needed("NOMADE_DB_PORT")),
  name,
  user: needed("NOMADE_TEST_OWNER"),
  password: needed("NOMADE_TEST_OWNER_PASSWORD"),
});

/** Makes a database, empty but for its tables, on the server that `npm test` starts. */
export async function ownDatabase(name: string): Promise<OwnDatabase> {
  const folder = mkdtempSync(path.join(tmpdir(), `${name}-`));
  const owner = ownerOf(needed("NOMADE_DB_NAME"));
  const main = connect(owner, 1);
  await main.query(`DROP DATABASE IF EXISTS ${name}`, { type: QueryTypes.RAW });
  await main.query(`CREATE DATABASE ${name}`, { type: QueryTypes.RAW });
  await main.close();
  const env = { ...process.env, NOMADE_DATA: folder, NOMADE_DB_NAME: name };
  const migrated = spawnSync(process.execPath, ["dist/nomade.mjs", "migrate"], {
    env: { ...env, NOMADE_DB_USER: owner.user, NOMADE_DB_PASSWORD: owner.password },
    encoding: "utf8",
  });
  if (migrated.stderr !== "") throw new Error(migrated.stderr);
  process.env.NOMADE_DATA = folder;
  process.env.NOMADE_DB_NAME = name;
  const services = openServices();
  return {
    services,
    folder,
    account: async (signIn, role, cardholder) => {
      await services.accounts.put({ signIn, name: signIn, role, cardholder, passwordHash: "none" }, { signIn: "test" }, services.now());
      return (await services.accounts.bySignIn(signIn)) as Account;
    },
    asOwner: async (...statements) => {
      const connection = connect({ ...owner, name }, 1);
      for (const statement of statements) await connection.query(statement, { type: QueryTypes.RAW });
      await connection.close();
    },
    close: async () => {
      await services.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
