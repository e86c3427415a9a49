import { createConnection } from "mariadb";
import type { Connection, ConnectionConfig } from "mariadb";
import { required } from "@/core/kernel/invariant";

const environment = (name: string): string => required(process.env[name], `${name} is set by npm run bench`);

/** A connection to the database that `npm run bench` started. */
export const benchConnection = (more: ConnectionConfig = {}): Promise<Connection> =>
  createConnection({
    host: "127.0.0.1",
    port: Number(environment("NOMADE_DB_PORT")),
    user: environment("NOMADE_DB_USER"),
    password: environment("NOMADE_DB_PASSWORD"),
    database: environment("NOMADE_DB_NAME"),
    bigIntAsNumber: true,
    ...more,
  });
