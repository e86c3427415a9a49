import type { Sequelize } from "sequelize";
import type { LookedAt, LookUpStore } from "@/operations/ports/look-ups";
import { insert, select } from "./statements";

interface LookUpRow {
  readonly id: number;
  readonly at: string;
  readonly what: LookedAt;
  readonly kind: "cardholder" | "credential";
  readonly object: string;
  readonly name: string;
  readonly account_name: string;
}

export const lookUpStore = (sequelize: Sequelize): LookUpStore => ({
  note: async ({ account, what, kind, id, name }, at) => {
    await insert(sequelize, "INSERT INTO look_ups (account, at, what, kind, object, name) VALUES (:account, :at, :what, :kind, :id, :name)", {
      account,
      at,
      what,
      kind,
      id,
      name: name.slice(0, 255),
    });
  },
  page: async ({ text, before }, limit) => {
    const like = `%${text.replace(/[\\%_]/g, "\\$&")}%`;
    const rows = await select<LookUpRow>(
      sequelize,
      `SELECT l.id, l.at, l.what, l.kind, l.object, l.name, a.name AS account_name FROM look_ups l JOIN accounts a ON a.id = l.account
       WHERE l.id < :before ${text === "" ? "" : "AND (LOWER(l.name) LIKE LOWER(:like) OR LOWER(l.object) LIKE LOWER(:like) OR LOWER(a.name) LIKE LOWER(:like) OR LOWER(a.sign_in) LIKE LOWER(:like))"}
       ORDER BY l.id DESC LIMIT :limit`,
      { before: before ?? Number.MAX_SAFE_INTEGER, like, limit },
    );
    return rows.map(({ id: number, object: id, account_name: by, ...row }) => ({ ...row, number, id, by }));
  },
});
