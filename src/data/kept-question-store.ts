import type { Sequelize } from "sequelize";
import type { KeptQuestionStore } from "@/operations/ports/kept-questions";
import { execute, insert, select } from "./statements";

interface KeptRow {
  readonly id: number;
  readonly query: string;
  readonly watched: number;
  readonly kept_at: string;
}

export const keptQuestionStore = (sequelize: Sequelize): KeptQuestionStore => ({
  of: async (account) =>
    (await select<KeptRow>(sequelize, "SELECT id, query, watched, kept_at FROM kept_questions WHERE account = :account ORDER BY id DESC", { account })).map(
      ({ id, query, watched, kept_at: keptAt }) => ({ id, query, watched: watched === 1, keptAt }),
    ),
  keep: async (account, query, at) => {
    await insert(sequelize, "INSERT INTO kept_questions (account, query, watched, kept_at) VALUES (:account, :query, 0, :at)", { account, query, at });
  },
  watch: async (account, id, watched) => {
    await execute(sequelize, "UPDATE kept_questions SET watched = :watched WHERE account = :account AND id = :id", { account, id, watched: watched ? 1 : 0 });
    return (await select(sequelize, "SELECT 1 FROM kept_questions WHERE account = :account AND id = :id", { account, id })).length > 0;
  },
  drop: async (account, id) => (await execute(sequelize, "DELETE FROM kept_questions WHERE account = :account AND id = :id", { account, id })) > 0,
});
