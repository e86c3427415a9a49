import { Sequelize, Transaction } from "sequelize";

export interface DatabaseSettings {
  readonly port: number;
  readonly name: string;
  readonly user: string;
  readonly password: string;
}

/** A machine with much else to do takes its time; a database that is not there is told at once all the same. */
const connectMs = 20_000;

/**
 * A connection to the private MariaDB on loopback. READ COMMITTED, so that what is read behind a lock is what was
 * committed last, whatever was read before.
 */
export const connect = (settings: DatabaseSettings, pool = 8): Sequelize =>
  new Sequelize(settings.name, settings.user, settings.password, {
    dialect: "mariadb",
    host: "127.0.0.1",
    port: settings.port,
    logging: false,
    isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED,
    pool: { max: pool, min: 0, idle: 10_000 },
    // Rows are loaded from streams of our own; the server that might ask for a file is ours, on loopback.
    dialectOptions: { connectTimeout: connectMs, permitLocalInfile: true },
    define: { timestamps: false, freezeTableName: true },
  });
