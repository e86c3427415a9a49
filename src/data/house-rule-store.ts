import type { Sequelize } from "sequelize";
import type { HouseRuleStore, KeptHouseRule, WrittenHouseRule } from "@/operations/ports/house-rules";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface RuleRow {
  readonly id: number;
  readonly rule: string;
  readonly made_by: string;
  readonly made_at: string;
  readonly end_asked_by: string | null;
}

const asKept = ({ id, rule, made_by: madeBy, made_at: madeAt, end_asked_by: endAskedBy }: RuleRow): KeptHouseRule => ({
  ...(JSON.parse(rule) as WrittenHouseRule),
  id,
  madeBy,
  madeAt,
  endAskedBy: endAskedBy ?? undefined,
});

const columns = "id, rule, made_by, made_at, end_asked_by";

export const houseRuleStore = (sequelize: Sequelize, folder: string): HouseRuleStore => {
  const inForce = (id: number, transaction: Parameters<typeof select>[3]) =>
    selectFirst<RuleRow>(sequelize, `SELECT ${columns} FROM house_rules WHERE id = :id AND ended_at IS NULL FOR UPDATE`, { id }, transaction);
  return {
    inForce: async () => (await select<RuleRow>(sequelize, `SELECT ${columns} FROM house_rules WHERE ended_at IS NULL ORDER BY id`)).map(asKept),
    add: async (rule, who, at) => {
      const id = await sequelize.transaction(async (transaction) => {
        const number = await insert(
          sequelize,
          "INSERT INTO house_rules (rule, made_by, made_at) VALUES (:rule, :by, :at)",
          { rule: JSON.stringify(rule), by: who.signIn, at },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "house-rule.added", on: `house rule ${number}`, after: rule });
        return number;
      });
      await writeHead(sequelize, folder);
      return id;
    },
    askEnd: async (id, asks, who, at) => {
      const isChanged = await sequelize.transaction(async (transaction) => {
        const row = await inForce(id, transaction);
        if (!row || (row.end_asked_by !== null) === asks) return false;
        await execute(sequelize, "UPDATE house_rules SET end_asked_by = :by WHERE id = :id", { by: asks ? who.signIn : null, id }, transaction);
        await appendRecord(sequelize, transaction, who, at, {
          what: asks ? "house-rule.end-asked" : "house-rule.end-dropped",
          on: `house rule ${id}`,
          before: JSON.parse(row.rule) as WrittenHouseRule,
        });
        return true;
      });
      if (isChanged) await writeHead(sequelize, folder);
      return isChanged;
    },
    end: async (id, who, at) => {
      const isEnded = await sequelize.transaction(async (transaction) => {
        const row = await inForce(id, transaction);
        if (!row || row.end_asked_by === null || row.end_asked_by === who.signIn) return false;
        await execute(sequelize, "UPDATE house_rules SET ended_at = :at WHERE id = :id", { at, id }, transaction);
        await appendRecord(sequelize, transaction, who, at, {
          what: "house-rule.ended",
          on: `house rule ${id}`,
          before: JSON.parse(row.rule) as WrittenHouseRule,
        });
        return true;
      });
      if (isEnded) await writeHead(sequelize, folder);
      return isEnded;
    },
  };
};
