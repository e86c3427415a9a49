import { migrateDatabase as migrate } from "@/wiring/command-line";

/** `nomade migrate`: brings the schema up to date; runs as the database's owner. */
export async function migrateDatabase(): Promise<number> {
  await migrate();
  return 0;
}
