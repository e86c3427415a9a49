import type { Sequelize } from "sequelize";
import type { Picture, PlacedDoor, PlanHead } from "@/core/plans/plan";
import type { Plan, PlanStore } from "@/operations/ports/plans";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface PlanRow {
  readonly id: number;
  readonly head: string;
  readonly media_type: Picture["mediaType"];
  readonly width: number;
  readonly height: number;
  readonly sha256: string;
  readonly doors: string;
  readonly version: number;
  readonly changed_by: string;
  readonly changed_at: string;
}

const asPlan = ({ head, media_type: mediaType, doors, changed_by: changedBy, changed_at: changedAt, ...same }: PlanRow): Plan => ({
  ...(JSON.parse(head) as PlanHead),
  ...same,
  mediaType,
  doors: JSON.parse(doors) as readonly PlacedDoor[],
  changedBy,
  changedAt,
});

/** What stands in the record of a plan: not its picture, but its hash. */
const told = ({ name, site, area, storey, sha256, doors }: PlanHead & Pick<Plan, "sha256" | "doors">) => ({ name, site, area, storey, picture: sha256, doors });

const columns = "id, head, media_type, width, height, sha256, doors, version, changed_by, changed_at";

export const planStore = (sequelize: Sequelize, folder: string): PlanStore => {
  const find = async (id: number, transaction?: Parameters<typeof select>[3]) => {
    const row = await selectFirst<PlanRow>(sequelize, `SELECT ${columns} FROM plans WHERE id = :id ${transaction ? "FOR UPDATE" : ""}`, { id }, transaction);
    return row && asPlan(row);
  };
  return {
    all: async () => (await select<PlanRow>(sequelize, `SELECT ${columns} FROM plans ORDER BY id`)).map(asPlan),
    byId: find,
    picture: async (id, sha256) => {
      const row = await selectFirst<{ media_type: Picture["mediaType"]; picture: Buffer }>(
        sequelize,
        "SELECT media_type, picture FROM plans WHERE id = :id AND sha256 = :sha256",
        { id, sha256 },
      );
      return row && { mediaType: row.media_type, bytes: row.picture };
    },
    add: async (head, { bytes, mediaType, width, height, sha256 }, doors, who, at) => {
      const id = await sequelize.transaction(async (transaction) => {
        const number = await insert(
          sequelize,
          `INSERT INTO plans (head, media_type, width, height, sha256, picture, doors, version, changed_by, changed_at)
           VALUES (:head, :mediaType, :width, :height, :sha256, :picture, :doors, 1, :by, :at)`,
          { head: JSON.stringify(head), mediaType, width, height, sha256, picture: Buffer.from(bytes), doors: JSON.stringify(doors), by: who.signIn, at },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "plan.added", on: `plan ${number}`, after: told({ ...head, sha256, doors }) });
        return number;
      });
      await writeHead(sequelize, folder);
      return id;
    },
    change: async (id, version, { head, picture, doors }, who, at) => {
      const outcome = await sequelize.transaction(async (transaction) => {
        const before = await find(id, transaction);
        if (!before) return "gone";
        if (before.version !== version) return "outdated";
        const { name, site, area, storey } = head ?? before;
        const after = { ...before, name, site, area, storey, ...(picture && { sha256: picture.sha256 }), ...(doors && { doors }) };
        await execute(
          sequelize,
          "UPDATE plans SET head = :head, doors = :doors, version = version + 1, changed_by = :by, changed_at = :at WHERE id = :id",
          { head: JSON.stringify({ name, site, area, storey }), doors: JSON.stringify(after.doors), by: who.signIn, at, id },
          transaction,
        );
        if (picture) {
          const { bytes, ...same } = picture;
          await execute(
            sequelize,
            "UPDATE plans SET media_type = :mediaType, width = :width, height = :height, sha256 = :sha256, picture = :picture WHERE id = :id",
            { ...same, picture: Buffer.from(bytes), id },
            transaction,
          );
        }
        await appendRecord(sequelize, transaction, who, at, { what: "plan.changed", on: `plan ${id}`, before: told(before), after: told(after) });
        return "changed";
      });
      if (outcome === "changed") await writeHead(sequelize, folder);
      return outcome;
    },
    drop: async (id, who, at) => {
      const isDropped = await sequelize.transaction(async (transaction) => {
        const before = await find(id, transaction);
        if (!before) return false;
        await execute(sequelize, "DELETE FROM plans WHERE id = :id", { id }, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "plan.dropped", on: `plan ${id}`, before: told(before) });
        return true;
      });
      if (isDropped) await writeHead(sequelize, folder);
      return isDropped;
    },
  };
};
