import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** What was said of those that a rule could not judge. */
const said = /^events cover (\d+) of (\d+) days/;

/** Findings are kept as facts; those that are there keep the sentences that they were made with. */
export async function up(schema: QueryInterface): Promise<void> {
  const { sequelize } = schema;
  await sequelize.query("ALTER TABLE findings MODIFY sentence LONGTEXT NULL, MODIFY remedy LONGTEXT NULL", { type: QueryTypes.RAW });
  const runs = await sequelize.query<{ snapshot: number; cannot_tell: string }>("SELECT snapshot, cannot_tell FROM finding_runs", { type: QueryTypes.SELECT });
  for (const { snapshot, cannot_tell: told } of runs) {
    const facts = (JSON.parse(told) as { rule: string; concerned: number; reason: string }[]).map(({ rule, concerned, reason }) => {
      const [, covered, days] = said.exec(reason) ?? [];
      return { rule, concerned, covered: Number(covered ?? 0), days: Number(days ?? 90) };
    });
    await sequelize.query("UPDATE finding_runs SET cannot_tell = :facts WHERE snapshot = :snapshot", {
      type: QueryTypes.UPDATE,
      replacements: { snapshot, facts: JSON.stringify(facts) },
    });
  }
}
