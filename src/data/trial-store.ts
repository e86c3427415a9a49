import type { Sequelize } from "sequelize";
import type { Trial } from "@/core/evidence/trials";
import type { KeptTrial, TrialStore } from "@/operations/ports/trials";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface TrialRow {
  readonly id: number;
  readonly trial: string;
  readonly made_by: string;
  readonly made_at: string;
}

const asKept = ({ id, trial, made_by: madeBy, made_at: madeAt }: TrialRow): KeptTrial => ({ ...(JSON.parse(trial) as Trial), id, madeBy, madeAt });
const columns = "id, trial, made_by, made_at";

export const trialStore = (sequelize: Sequelize, folder: string): TrialStore => ({
  kept: async () => (await select<TrialRow>(sequelize, `SELECT ${columns} FROM trials WHERE dropped_at IS NULL ORDER BY id`)).map(asKept),
  add: async (trial, who, at) => {
    const id = await sequelize.transaction(async (transaction) => {
      const number = await insert(
        sequelize,
        "INSERT INTO trials (trial, made_by, made_at) VALUES (:trial, :by, :at)",
        { trial: JSON.stringify(trial), by: who.signIn, at },
        transaction,
      );
      await appendRecord(sequelize, transaction, who, at, { what: "trial.added", on: `trial ${number}`, after: trial });
      return number;
    });
    await writeHead(sequelize, folder);
    return id;
  },
  drop: async (id, who, at) => {
    const isDropped = await sequelize.transaction(async (transaction) => {
      const row = await selectFirst<TrialRow>(sequelize, `SELECT ${columns} FROM trials WHERE id = :id AND dropped_at IS NULL FOR UPDATE`, { id }, transaction);
      if (!row) return false;
      await execute(sequelize, "UPDATE trials SET dropped_at = :at WHERE id = :id", { at, id }, transaction);
      await appendRecord(sequelize, transaction, who, at, { what: "trial.dropped", on: `trial ${id}`, before: JSON.parse(row.trial) as Trial });
      return true;
    });
    if (isDropped) await writeHead(sequelize, folder);
    return isDropped;
  },
});
