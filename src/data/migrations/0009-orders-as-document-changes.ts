import { DataTypes, QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const long = { type: DataTypes.TEXT("medium"), allowNull: false };

interface OrderRow {
  readonly id: number;
  readonly round: number;
  readonly line: number;
  readonly position: number;
  readonly made_at: string;
  readonly change: string;
  readonly also_lost: string;
}

/** How orders told a change before they told it in terms of the document. */
type FormerChange =
  | { readonly kind: "end-grant"; readonly grant: string }
  | { readonly kind: "end-membership"; readonly group: string; readonly cardholder: string }
  | { readonly kind: "end-override"; readonly cardholder: string }
  | { readonly kind: "end-credential"; readonly credential: string }
  | { readonly kind: "add-block"; readonly cardholder: string; readonly doors: readonly string[] };

/** The same as changes of a document. Of an override and a credential only what was ordered is known, not the whole object. */
function documentChanges(former: FormerChange): object[] {
  switch (former.kind) {
    case "end-grant":
      return [{ change: { do: "remove", list: "grants", id: former.grant }, fields: [] }];
    case "end-membership":
      return [{ change: { do: "remove", list: "memberships", membership: { group: former.group, cardholder: former.cardholder } }, fields: [] }];
    case "end-override":
      return [
        {
          change: { do: "alter", list: "cardholders", id: former.cardholder, object: { id: former.cardholder } },
          fields: [{ field: "override", before: true }],
        },
      ];
    case "end-credential":
      return [{ change: { do: "alter", list: "credentials", id: former.credential, object: { id: former.credential } }, fields: [] }];
    case "add-block":
      return former.doors.map((door) => ({
        change: { do: "add", list: "grants", id: "", object: { to: { cardholder: former.cardholder }, open: { door }, effect: "block" } },
        fields: [],
      }));
  }
}

/** Orders say what is to be changed in the document's own terms; what may be longer than 64 KB is no longer cut off. */
export async function up(schema: QueryInterface): Promise<void> {
  for (const column of ["change", "also_lost"]) await schema.changeColumn("orders", column, long);
  for (const column of ["proof", "sentence", "remedy", "parts"]) await schema.changeColumn("findings", column, long);
  await schema.changeColumn("finding_runs", "cannot_tell", long);
  const rows = await schema.sequelize.query<OrderRow>("SELECT * FROM orders ORDER BY id", { type: QueryTypes.SELECT });
  for (const { id, change, ...row } of rows) {
    const [first, ...more] = documentChanges(JSON.parse(change) as FormerChange).map((made) => JSON.stringify(made));
    if (first === undefined) continue;
    await schema.bulkUpdate("orders", { change: first }, { id });
    if (more.length > 0)
      await schema.bulkInsert(
        "orders",
        more.map((made) => ({ ...row, change: made })),
      );
  }
}
