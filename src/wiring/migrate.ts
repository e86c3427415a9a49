import { connect } from "@/data/connection";
import { migrate } from "@/data/migrate";
import { databaseSettings } from "./environment";

/** The user of the application, as the starting scripts name it. */
const applicationUser = "nomade_app";

/** Brings the schema up to date as the owner whose credentials the environment holds. */
export async function migrateAsOwner(): Promise<void> {
  const owner = connect(databaseSettings(), 1);
  try {
    await migrate(owner, applicationUser);
  } finally {
    await owner.close();
  }
}
