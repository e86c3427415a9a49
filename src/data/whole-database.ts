import { QueryTypes } from "sequelize";
import type { DatabaseSettings } from "./connection";
import { connect } from "./connection";
import { select } from "./statements";

/** What is done to databases as a whole, by their owner. Names are our own and hold no quotes. */
export interface WholeDatabase {
  /** How many snapshots a database holds; −1 where it has no register at all. */
  readonly snapshots: (name: string) => Promise<number>;
  readonly makeAnew: (name: string) => Promise<void>;
  /** Puts the tables of one database in the place of another's. */
  readonly putInPlace: (from: string, to: string) => Promise<void>;
  readonly drop: (name: string) => Promise<void>;
  readonly close: () => Promise<void>;
}

export function ownDatabase(settings: DatabaseSettings): WholeDatabase {
  const sequelize = connect(settings, 1);
  const run = (sql: string) => sequelize.query(sql, { type: QueryTypes.RAW });
  const tables = (name: string) =>
    select<{ name: string }>(sequelize, "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = :name", { name });
  const create = (name: string) => run(`CREATE DATABASE \`${name}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin`);
  const drop = async (name: string) => void (await run(`DROP DATABASE IF EXISTS \`${name}\``));
  return {
    snapshots: async (name) => {
      if (!(await tables(name)).some((table) => table.name === "snapshots")) return -1;
      const [count] = await select<{ n: number }>(sequelize, `SELECT COUNT(*) AS n FROM \`${name}\`.snapshots`);
      return Number(count?.n);
    },
    makeAnew: async (name) => {
      await drop(name);
      await create(name);
    },
    putInPlace: async (from, to) => {
      const replaced = `${to}_replaced`;
      await drop(replaced);
      await create(replaced);
      const moves = async (source: string, target: string) =>
        (await tables(source)).map(({ name }) => `\`${source}\`.\`${name}\` TO \`${target}\`.\`${name}\``);
      // One statement: the old tables go and the new ones come, or nothing happens.
      await run(`RENAME TABLE ${[...(await moves(to, replaced)), ...(await moves(from, to))].join(", ")}`);
      await drop(replaced);
    },
    drop,
    close: () => sequelize.close(),
  };
}
