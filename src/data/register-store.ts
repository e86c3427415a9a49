import type { Sequelize } from "sequelize";
import type { ObjectVersion, RegisterStore } from "@/operations/ports/snapshots";
import { select } from "./statements";

const tableOfKind: Parameters<RegisterStore["versions"]>[0] extends infer K ? Readonly<Record<K & string, string>> : never = {
  cardholder: "register_cardholders",
  credential: "register_credentials",
  group: "register_groups",
  door: "register_doors",
  area: "register_areas",
  site: "register_sites",
  doorGroup: "register_door_groups",
  level: "register_levels",
  bundle: "register_bundles",
  grant: "register_grants",
  schedule: "register_schedules",
  calendar: "register_calendars",
};

interface VersionRow extends Readonly<Record<string, unknown>> {
  readonly since_snapshot: number;
  readonly until_snapshot: number | null;
}

const bookkeeping = new Set(["row_id", "row_hash", "since_snapshot", "until_snapshot"]);

export const registerStore = (sequelize: Sequelize): RegisterStore => ({
  versions: async (kind, id) => {
    const rows = await select<VersionRow>(sequelize, `SELECT * FROM \`${tableOfKind[kind]}\` WHERE id = :id ORDER BY since_snapshot`, { id });
    return rows.map((row): ObjectVersion => ({
      since: row.since_snapshot,
      until: row.until_snapshot ?? undefined,
      values: Object.fromEntries(
        Object.entries(row).flatMap(([column, value]) =>
          bookkeeping.has(column) || value === null ? [] : [[column, typeof value === "string" ? value : JSON.stringify(value)]],
        ),
      ),
    }));
  },
});
