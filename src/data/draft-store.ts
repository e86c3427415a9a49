import type { Sequelize, Transaction } from "sequelize";
import type { ListKey } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import type { DraftChange, FieldChange } from "@/core/drafting/change";
import { sameValue } from "@/core/drafting/change";
import type { DraftOrder } from "@/core/drafting/settle-draft";
import type { Account } from "@/operations/ports/accounts";
import type { Draft, DraftStore, StoredChange } from "@/operations/ports/drafts";
import { appendRecord, sha256, writeHead } from "./record-store";
import { lockHead, storeWithin } from "./snapshot-store";
import type { StatementValues } from "./statements";
import { execute, insert, insertRows, rowsAtOnce, select, selectFirst } from "./statements";

interface DraftRow {
  readonly id: number;
  readonly name: string;
  readonly owner: number;
  readonly owner_name: string;
  readonly opened_at: string;
  readonly state: Draft["state"];
  readonly revision: number;
  readonly changes: number;
  readonly ended_at: string | null;
  readonly ender_name: string | null;
  readonly made_snapshot: number | null;
}

interface ChangeRow {
  readonly id: number;
  readonly list: ListKey;
  readonly object_key: string;
  readonly base: string | null;
  readonly value: string | null;
  readonly version: number;
  readonly changed_at: string;
  readonly changer_name: string;
}

const selectDrafts = `SELECT d.id, d.name, d.owner, o.name AS owner_name, d.opened_at, d.state, d.revision, d.ended_at, e.name AS ender_name, d.made_snapshot,
  (SELECT COUNT(*) FROM draft_changes c WHERE c.draft = d.id) AS changes
  FROM drafts d JOIN accounts o ON o.id = d.owner LEFT JOIN accounts e ON e.id = d.ended_by`;
const selectChanges =
  "SELECT c.id, c.list, c.object_key, c.base, c.value, c.version, c.changed_at, a.name AS changer_name FROM draft_changes c JOIN accounts a ON a.id = c.changed_by";

const read = (text: string | null): Plain | undefined => (text === null ? undefined : (JSON.parse(text) as Plain));
const written = (object: Plain | undefined): string | null => (object === undefined ? null : JSON.stringify(object));

const asChange = (row: ChangeRow): StoredChange => ({
  id: row.id,
  list: row.list,
  key: row.object_key,
  base: read(row.base),
  value: read(row.value),
  version: row.version,
  changedAt: row.changed_at,
  changedBy: row.changer_name,
});

/** A field that is not there is left out by JSON; here it must be told from one that is. */
const asField = ({ field, before, after }: FieldChange) => ({ field, ...(before !== undefined && { before }), ...(after !== undefined && { after }) });

export const draftStore = (sequelize: Sequelize, folder: string): DraftStore => {
  const drafts = async (condition: string, replacements: StatementValues = {}): Promise<Draft[]> => {
    const rows = await select<DraftRow>(sequelize, `${selectDrafts} ${condition}`, replacements);
    const shares = await select<{ draft: number; id: number; name: string }>(
      sequelize,
      "SELECT s.draft, a.id, a.name FROM draft_shares s JOIN accounts a ON a.id = s.account ORDER BY a.name",
    );
    return rows.map((row) => ({
      id: row.id,
      name: row.name,
      owner: { id: row.owner, name: row.owner_name },
      openedAt: row.opened_at,
      state: row.state,
      revision: row.revision,
      changes: Number(row.changes),
      sharedWith: shares.filter(({ draft }) => draft === row.id).map(({ id, name }) => ({ id, name })),
      ended: row.ended_at === null ? undefined : { at: row.ended_at, by: row.ender_name ?? "", snapshot: row.made_snapshot ?? undefined },
    }));
  };
  const changesOf = async (draft: number, transaction?: Transaction): Promise<StoredChange[]> =>
    (await select<ChangeRow>(sequelize, `${selectChanges} WHERE c.draft = :draft ORDER BY c.id`, { draft }, transaction)).map(asChange);

  /** Locks an open draft until the transaction ends, so that two writers take turns; undefined where it is open no more. */
  const lockOpen = async (draft: number, transaction: Transaction): Promise<{ revision: number } | undefined> =>
    selectFirst(sequelize, "SELECT revision FROM drafts WHERE id = :draft AND state = 'open' FOR UPDATE", { draft }, transaction);

  const end = (draft: number, state: Draft["state"], snapshot: number | undefined, who: Account, at: string, transaction: Transaction) =>
    execute(
      sequelize,
      "UPDATE drafts SET state = :state, ended_at = :at, ended_by = :who, made_snapshot = :snapshot WHERE id = :draft",
      { draft, state, at, who: who.id, snapshot: snapshot ?? null },
      transaction,
    );

  /** Writes changes with their new versions; those that say what the register says are taken out. */
  const writeChanges = async (
    draft: number,
    changes: readonly (DraftChange & { readonly version: number })[],
    who: Account,
    at: string,
    transaction: Transaction,
  ): Promise<void> => {
    const taken = changes.filter(({ base, value }) => sameValue(base, value)).map(({ list, key }) => [list, sha256(key)]);
    for (let i = 0; i < taken.length; i += rowsAtOnce)
      await execute(
        sequelize,
        "DELETE FROM draft_changes WHERE draft = :draft AND (list, key_hash) IN (:taken)",
        { draft, taken: taken.slice(i, i + rowsAtOnce) },
        transaction,
      );
    const rows = changes
      .filter(({ base, value }) => !sameValue(base, value))
      .map(({ list, key, base, value, version }) => ({
        draft,
        list,
        object_key: key,
        key_hash: sha256(key),
        base: written(base),
        value: written(value),
        version,
        changed_at: at,
        changed_by: who.id,
      }));
    await insertRows(
      sequelize,
      "draft_changes",
      rows,
      transaction,
      "ON DUPLICATE KEY UPDATE base = VALUES(base), value = VALUES(value), version = VALUES(version), changed_at = VALUES(changed_at), changed_by = VALUES(changed_by)",
    );
  };

  const recorded = async <T>(run: (transaction: Transaction) => Promise<T>): Promise<T> => {
    const done = await sequelize.transaction(run);
    await writeHead(sequelize, folder);
    return done;
  };

  return {
    open: (name, who, at) =>
      recorded(async (transaction) => {
        const id = await insert(
          sequelize,
          "INSERT INTO drafts (name, owner, opened_at, state) VALUES (:name, :owner, :at, 'open')",
          { name, owner: who.id, at },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "draft.opened", on: `draft ${id}`, after: { name } });
        return id;
      }),
    list: () => drafts("ORDER BY d.id DESC"),
    byId: async (id) => (await drafts("WHERE d.id = :id", { id }))[0],
    changes: (draft) => changesOf(draft),
    write: (draft, changes, who, at) =>
      recorded(async (transaction) => {
        const locked = await lockOpen(draft, transaction);
        if (!locked) return { outcome: "ended" as const };
        const standing = new Map((await changesOf(draft, transaction)).map((change) => [`${change.list} ${change.key}`, change]));
        const before = changes.map(({ list, key }) => standing.get(`${list} ${key}`));
        const theirs = before.filter((change, i) => (change?.version ?? 0) !== changes[i]?.seen);
        if (theirs.length > 0) return { outcome: "changed-meanwhile" as const, theirs: theirs.flatMap((change) => change ?? []) };
        await writeChanges(
          draft,
          changes.map((change, i) => ({ ...change, version: (before[i]?.version ?? 0) + 1 })),
          who,
          at,
          transaction,
        );
        await execute(sequelize, "UPDATE drafts SET revision = revision + 1 WHERE id = :draft", { draft }, transaction);
        await appendRecord(sequelize, transaction, who, at, {
          what: "draft.changed",
          on: `draft ${draft}`,
          before: changes.map(({ list, key }, i) => ({ list, key, value: before[i]?.value ?? before[i]?.base ?? null })),
          after: changes.map(({ list, key, value }) => ({ list, key, value: value ?? null })),
        });
        return { outcome: "written" as const, revision: locked.revision + 1 };
      }),
    share: (draft, account, who, at) =>
      recorded(async (transaction) => {
        await insert(sequelize, "INSERT IGNORE INTO draft_shares (draft, account) VALUES (:draft, :account)", { draft, account: account.id }, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "draft.shared", on: `draft ${draft}`, after: { with: account.signIn } });
      }),
    drop: (draft, who, at) =>
      recorded(async (transaction) => {
        if (!(await lockOpen(draft, transaction))) return false;
        await end(draft, "dropped", undefined, who, at, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "draft.dropped", on: `draft ${draft}` });
        return true;
      }),
    close: ({ id, revision, onSnapshot }, { orders, snapshot }, who, at, report) =>
      recorded(async (transaction) => {
        // The register first, as every intake does; the other way round two of them could wait for each other.
        const head = await lockHead(sequelize, transaction);
        const locked = await lockOpen(id, transaction);
        if (locked?.revision !== revision || head !== onSnapshot) return { outcome: "changed-meanwhile" as const };
        const made = snapshot && (await storeWithin(sequelize, transaction, head, snapshot, who, at, report));
        const rows = orders.map((order, position) => ({
          draft: id,
          position,
          source: order.source,
          action: order.action,
          list: order.list,
          object_key: order.key,
          fields: JSON.stringify(order.fields.map(asField)),
          made_at: at,
        }));
        await insertRows(sequelize, "draft_orders", rows, transaction);
        await end(id, "closed", made?.id, who, at, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "draft.closed", on: `draft ${id}`, after: { snapshot: made?.id ?? null, orders } });
        return { outcome: "closed" as const, snapshot: made?.id };
      }),
    orders: async (draft) =>
      (
        await select<{ id: number; source: string; action: DraftOrder["action"]; list: ListKey; object_key: string; fields: string; made_at: string }>(
          sequelize,
          "SELECT * FROM draft_orders WHERE draft = :draft ORDER BY position",
          { draft },
        )
      ).map((row) => ({
        id: row.id,
        draft,
        source: row.source,
        action: row.action,
        list: row.list,
        key: row.object_key,
        fields: JSON.parse(row.fields) as FieldChange[],
        madeAt: row.made_at,
      })),
    alsoChanging: async (draft, object) => {
      const rows = await select<{ list: ListKey; object_key: string; draft: number; owner: string }>(
        sequelize,
        `SELECT c.list, c.object_key, c.draft, o.name AS owner FROM draft_changes c JOIN drafts d ON d.id = c.draft AND d.state = 'open' JOIN accounts o ON o.id = d.owner
         ${object ? "" : "JOIN draft_changes own ON own.draft = :draft AND own.list = c.list AND own.key_hash = c.key_hash"}
         WHERE c.draft <> :draft ${object ? "AND c.list = :list AND c.key_hash = :hash" : ""} ORDER BY c.draft`,
        { draft, ...(object && { list: object.list, hash: sha256(object.key) }) },
      );
      return rows.map(({ list, object_key, draft: other, owner }) => ({ list, key: object_key, draft: other, owner }));
    },
  };
};
