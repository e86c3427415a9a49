import type { Sequelize } from "sequelize";
import type { Brings, OwnershipProfile } from "@/core/facility/ownership";
import type { SourceRhythm } from "@/operations/ports/deliveries";
import type { Actor } from "@/operations/ports/record";
import type { OrdersTo, SourceProfile, SourceStore } from "@/operations/ports/sources";
import { appendRecord, writeHead } from "./record-store";
import { insert, select } from "./statements";

type ProfileColumn = "profile" | "owns" | "orders_to" | "rhythm";

export const sourceStore = (sequelize: Sequelize, folder: string): SourceStore => {
  const read = async (source: string, column: ProfileColumn): Promise<string> =>
    (await select<{ value: string }>(sequelize, `SELECT COALESCE(${column}, '{}') AS value FROM source_profiles WHERE source = :source`, { source }))[0]
      ?.value ?? "{}";
  /** Writes one part of a profile, with an entry in the record; nothing where it is so already. */
  const write = async (source: string, column: ProfileColumn, value: object, what: string, who: Actor, at: string): Promise<void> => {
    const [before, text] = [await read(source, column), JSON.stringify(value)];
    if (before === text) return;
    const of = (one: ProfileColumn): string => (column === one ? text : "{}");
    const parts = { profile: of("profile"), owns: of("owns"), ordersTo: of("orders_to"), rhythm: of("rhythm") };
    await sequelize.transaction(async (transaction) => {
      await insert(
        sequelize,
        `INSERT INTO source_profiles (source, profile, owns, orders_to, rhythm, changed_at, changed_by) VALUES (:source, :profile, :owns, :ordersTo, :rhythm, :at, :who) ON DUPLICATE KEY UPDATE ${column} = VALUES(${column}), changed_at = VALUES(changed_at), changed_by = VALUES(changed_by)`,
        { source, ...parts, at, who: who.signIn },
        transaction,
      );
      await appendRecord(sequelize, transaction, who, at, { what, on: source, before: JSON.parse(before) as unknown, after: value });
    });
    await writeHead(sequelize, folder);
  };
  return {
    names: async () =>
      (await select<{ source: string }>(sequelize, "SELECT source FROM source_profiles UNION SELECT source FROM source_lists ORDER BY source")).map(
        ({ source }) => source,
      ),
    brought: async () =>
      (
        await select<{ source: string; brings: string; snapshot: number }>(
          sequelize,
          "SELECT source, brings, snapshot FROM source_lists ORDER BY snapshot DESC, source",
        )
      ).map(({ source, brings, snapshot }) => ({
        source,
        brings: JSON.parse(brings) as Brings,
        snapshot,
      })),
    profile: async (source) => {
      const profile = JSON.parse(await read(source, "profile")) as Partial<SourceProfile>;
      return profile.format === undefined ? undefined : (profile as SourceProfile);
    },
    putProfile: (source, profile, who, at) => write(source, "profile", profile, "source.mapped", who, at),
    owns: async (source) => JSON.parse(await read(source, "owns")) as OwnershipProfile,
    ordersTo: async (source) => {
      const to = JSON.parse(await read(source, "orders_to")) as Partial<OrdersTo>;
      return to.address === undefined ? undefined : { address: to.address, language: to.language ?? "en" };
    },
    putOrdersTo: (source, to, who, at) => write(source, "orders_to", to ?? {}, "source.orders-to", who, at),
    rhythm: async (source) => JSON.parse(await read(source, "rhythm")) as SourceRhythm,
    putRhythm: (source, rhythm, who, at) => write(source, "rhythm", rhythm, "source.rhythm", who, at),
    putOwns: (source, owns, who, at) => write(source, "owns", owns, "source.ownership", who, at),
  };
};
