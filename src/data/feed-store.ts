import { createHash, randomUUID } from "node:crypto";
import { UniqueConstraintError } from "sequelize";
import type { Sequelize, Transaction } from "sequelize";
import type { FedResource, FeedStore, JsonObject, ResourceKind } from "@/operations/ports/feeds";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface ResourceRow {
  readonly id: string;
  readonly kind: ResourceKind;
  readonly body: string;
  readonly version: number;
  readonly created_at: string;
  readonly changed_at: string;
  readonly inactive_since: string | null;
  readonly ended_at: string | null;
  readonly number: number;
}

const resourceOf = ({ id, kind, body, version, created_at, changed_at, inactive_since, ended_at }: ResourceRow): FedResource => ({
  id,
  kind,
  body: JSON.parse(body) as JsonObject,
  version,
  createdAt: created_at,
  changedAt: changed_at,
  inactiveSince: inactive_since ?? undefined,
  endedAt: ended_at ?? undefined,
});

const hashOf = (text: string): string => createHash("sha256").update(text).digest("hex");
const nameKey = (body: JsonObject): string | null => (typeof body.userName === "string" ? hashOf(body.userName.toLowerCase()) : null);
const externalKey = (body: JsonObject): string | null => (typeof body.externalId === "string" ? hashOf(body.externalId) : null);

const columns = "number, id, kind, body, version, created_at, changed_at, inactive_since, ended_at";
/** So many are read at a time where all are. */
const batch = 1000;
/** A source pushes at most so many people and groups, those that ended among them. */
const mostOfSource = 300_000;
/** A body of more characters fits into no column. */
const longestBody = 15_000_000;
/** When a token was last used is noted this often. */
const notedEveryMs = 60_000;

export const feedStore = (sequelize: Sequelize, folder: string): FeedStore => {
  const resources = async (condition: string, values: Readonly<Record<string, unknown>>, transaction?: Transaction): Promise<ResourceRow[]> =>
    select<ResourceRow>(sequelize, `SELECT ${columns} FROM feed_resources WHERE source = :source AND ${condition}`, values, transaction);
  const valuesOf = (body: JsonObject) => {
    const text = JSON.stringify(body);
    return text.length > longestBody ? undefined : { text, name: nameKey(body), external: externalKey(body), isActive: body.active !== false };
  };
  const notedAt = new Map<string, number>();
  async function* each(source: string, condition: string, values: Readonly<Record<string, unknown>>): AsyncGenerator<FedResource> {
    let last = 0;
    for (;;) {
      const rows = await resources(`${condition} AND number > :last ORDER BY number LIMIT ${batch}`, { source, ...values, last });
      for (const row of rows) yield resourceOf(row);
      const end = rows[rows.length - 1];
      if (!end || rows.length < batch) return;
      last = Number(end.number);
    }
  }
  return {
    tokens: async () =>
      (
        await select<{ id: number; source: string; made_at: string; made_by: string; last_used_at: string | null; revoked_at: string | null }>(
          sequelize,
          "SELECT id, source, made_at, made_by, last_used_at, revoked_at FROM feed_tokens ORDER BY source, id",
        )
      ).map(({ id, source, made_at, made_by, last_used_at, revoked_at }) => ({
        id,
        source,
        madeAt: made_at,
        madeBy: made_by,
        lastUsedAt: last_used_at ?? undefined,
        revokedAt: revoked_at ?? undefined,
      })),
    makeToken: async ({ source, hash }, who, at) => {
      await sequelize.transaction(async (transaction) => {
        const id = await insert(
          sequelize,
          "INSERT INTO feed_tokens (source, hash, made_at, made_by) VALUES (:source, :hash, :at, :who)",
          { source, hash, at, who: who.signIn },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "feed.token-made", on: source, after: { token: id } });
      });
      await writeHead(sequelize, folder);
    },
    revokeToken: async (id, who, at) => {
      const isRevoked = await sequelize.transaction(async (transaction) => {
        const token = await selectFirst<{ source: string }>(
          sequelize,
          "SELECT source FROM feed_tokens WHERE id = :id AND revoked_at IS NULL FOR UPDATE",
          { id },
          transaction,
        );
        if (!token) return false;
        await execute(sequelize, "UPDATE feed_tokens SET revoked_at = :at WHERE id = :id", { id, at }, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "feed.token-revoked", on: token.source, after: { token: id } });
        return true;
      });
      await writeHead(sequelize, folder);
      return isRevoked;
    },
    sourceOf: async (tokenHash, at) => {
      const token = await selectFirst<{ source: string }>(sequelize, "SELECT source FROM feed_tokens WHERE hash = :tokenHash AND revoked_at IS NULL", {
        tokenHash,
      });
      if (token && Date.parse(at) - (notedAt.get(tokenHash) ?? 0) > notedEveryMs) {
        notedAt.set(tokenHash, Date.parse(at));
        await execute(sequelize, "UPDATE feed_tokens SET last_used_at = :at WHERE hash = :tokenHash", { tokenHash, at });
      }
      return token?.source;
    },
    byId: async (source, kind, id) => {
      const [row] = await resources("kind = :kind AND id = :id AND ended_at IS NULL", { source, kind, id });
      return row && resourceOf(row);
    },
    find: async (source, kind, by, text) => {
      const key = by === "userName" ? "name_key" : "external_key";
      const hash = hashOf(by === "userName" ? text.toLowerCase() : text);
      return (await resources(`kind = :kind AND ${key} = :hash AND ended_at IS NULL ORDER BY number`, { source, kind, hash })).map(resourceOf);
    },
    count: async (source, kind) =>
      Number(
        (
          await selectFirst<{ count: number }>(
            sequelize,
            "SELECT COUNT(*) AS count FROM feed_resources WHERE source = :source AND kind = :kind AND ended_at IS NULL",
            { source, kind },
          )
        )?.count ?? 0,
      ),
    page: async (source, kind, skip, limit) =>
      (await resources("kind = :kind AND ended_at IS NULL ORDER BY number LIMIT :limit OFFSET :skip", { source, kind, skip, limit })).map(resourceOf),
    each: (source, kind) => each(source, "kind = :kind AND ended_at IS NULL", { kind }),
    all: async (source) => {
      const found: FedResource[] = [];
      for await (const one of each(source, "TRUE", {})) found.push(one);
      return found;
    },
    create: async (source, kind, body, at) => {
      const values = valuesOf(body);
      if (!values) return "too-many";
      const there = await selectFirst<{ count: number }>(sequelize, "SELECT COUNT(*) AS count FROM feed_resources WHERE source = :source", { source });
      if (Number(there?.count ?? 0) >= mostOfSource) return "too-many";
      const { text, name, external, isActive } = values;
      const [id, since] = [randomUUID(), isActive ? null : at];
      try {
        await insert(
          sequelize,
          `INSERT INTO feed_resources (id, source, kind, name_key, external_key, body, version, created_at, changed_at, inactive_since)
           VALUES (:id, :source, :kind, :name, :external, :text, 1, :at, :at, :since)`,
          { id, source, kind, name, external, text, at, since },
        );
      } catch (error) {
        if (error instanceof UniqueConstraintError) return "taken";
        throw error;
      }
      return { id, kind, body, version: 1, createdAt: at, changedAt: at, inactiveSince: since ?? undefined, endedAt: undefined };
    },
    change: async (source, kind, { id, version }, body, at) => {
      const values = valuesOf(body);
      if (!values) return "changed-meanwhile";
      const { text, name, external, isActive } = values;
      try {
        const changed = await execute(
          sequelize,
          `UPDATE feed_resources SET body = :text, name_key = :name, external_key = :external, version = version + 1, changed_at = :at,
           inactive_since = ${isActive ? "NULL" : "COALESCE(inactive_since, :at)"}
           WHERE source = :source AND kind = :kind AND id = :id AND version = :version AND ended_at IS NULL`,
          { source, kind, id, version, text, name, external, at },
        );
        if (changed === 0) return "changed-meanwhile";
      } catch (error) {
        if (error instanceof UniqueConstraintError) return "taken";
        throw error;
      }
      const [row] = await resources("id = :id", { source, id });
      return row ? resourceOf(row) : "changed-meanwhile";
    },
    end: async (source, kind, { id, version }, at) =>
      (await execute(
        sequelize,
        `UPDATE feed_resources SET ended_at = :at, changed_at = :at, name_key = NULL, version = version + 1
         WHERE source = :source AND kind = :kind AND id = :id AND version = :version AND ended_at IS NULL`,
        { source, kind, id, version, at },
      )) > 0,
    states: async () =>
      (
        await select<{ source: string; people: number; groups: number; changes: number; changed_at: string | null }>(
          sequelize,
          `SELECT sources.source, COALESCE(SUM(kind = 'User' AND ended_at IS NULL), 0) AS people, COALESCE(SUM(kind = 'Group' AND ended_at IS NULL), 0) AS \`groups\`,
           COALESCE(SUM(changed_at >= COALESCE(taken_at, '')), 0) AS changes, MAX(changed_at) AS changed_at
           FROM (SELECT DISTINCT source FROM feed_tokens) AS sources LEFT JOIN feed_resources ON feed_resources.source = sources.source
           LEFT JOIN feeds_taken ON feeds_taken.source = sources.source GROUP BY sources.source ORDER BY sources.source`,
        )
      ).map(({ source, people, groups, changes, changed_at }) => ({
        source,
        people: Number(people),
        groups: Number(groups),
        changes: Number(changes),
        changedAt: changed_at ?? undefined,
      })),
    noteTaken: async (source, at) => {
      await insert(
        sequelize,
        "INSERT INTO feeds_taken (source, taken_at) VALUES (:source, :at) ON DUPLICATE KEY UPDATE taken_at = GREATEST(taken_at, VALUES(taken_at))",
        { source, at },
      );
    },
  };
};
