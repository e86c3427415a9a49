import type { DatabaseSettings } from "@/data/connection";

function required(name: string): string {
  const value = process.env[name];
  if (value === undefined || value === "") throw new Error(`${name} is not set; start Nomade with npm start or npm run nomade.`);
  return value;
}

export const databaseSettings = (): DatabaseSettings => ({
  port: Number(required("NOMADE_DB_PORT")),
  name: required("NOMADE_DB_NAME"),
  user: required("NOMADE_DB_USER"),
  password: required("NOMADE_DB_PASSWORD"),
});

/** The folder beside the database: uploads, heads of the record. */
export const dataFolder = (): string => required("NOMADE_DATA");
