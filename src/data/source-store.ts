import { QueryTypes } from "sequelize";
import type { Sequelize } from "sequelize";
import type { SourceStore } from "@/operations/ports";
import { appendRecord, writeHead } from "./record-store";

export const sourceStore = (sequelize: Sequelize, folder: string): SourceStore => {
  const mappingOf = async (source: string): Promise<string | undefined> =>
    (await sequelize.query<{ mapping: string }>("SELECT mapping FROM source_profiles WHERE source = :source", { type: QueryTypes.SELECT, replacements: { source } }))[0]?.mapping;
  return {
    names: async () => (await sequelize.query<{ source: string }>("SELECT source FROM source_profiles ORDER BY source", { type: QueryTypes.SELECT })).map(({ source }) => source),
    brought: async () =>
      (await sequelize.query<{ source: string; brings: string }>("SELECT source, brings FROM source_lists ORDER BY snapshot DESC, source", { type: QueryTypes.SELECT })).map(({ source, brings }) => ({
        source,
        brings: JSON.parse(brings) as Awaited<ReturnType<SourceStore["brought"]>>[number]["brings"],
      })),
    mapping: async (source) => JSON.parse((await mappingOf(source)) ?? "{}") as Awaited<ReturnType<SourceStore["mapping"]>>,
    put: async (source, mapping, who, at) => {
      const text = JSON.stringify(mapping);
      const before = await mappingOf(source);
      if (before === text) return;
      await sequelize.transaction(async (transaction) => {
        await sequelize.query(
          "INSERT INTO source_profiles (source, mapping, changed_at, changed_by) VALUES (:source, :text, :at, :who) ON DUPLICATE KEY UPDATE mapping = VALUES(mapping), changed_at = VALUES(changed_at), changed_by = VALUES(changed_by)",
          { type: QueryTypes.INSERT, replacements: { source, text, at, who: who.signIn }, transaction },
        );
        await appendRecord(sequelize, transaction, who, at, { what: "source.mapped", on: source, before: before === undefined ? undefined : (JSON.parse(before) as unknown), after: mapping });
      });
      await writeHead(sequelize, folder);
    },
  };
};
