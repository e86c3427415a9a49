import { QueryTypes } from "sequelize";
import type { Sequelize } from "sequelize";
import type { ObjectKind, RegisterItem, RegisterStore } from "@/operations/ports";

/** How objects of a kind are listed: `name` and `detail` as shown, `fields` as searched; `o` is the object's own row. */
interface Listing {
  readonly table: string;
  readonly joins: readonly { readonly table: string; readonly as: string; readonly on: string }[];
  readonly name: string;
  readonly detail: string;
  readonly status: string;
  readonly fields: readonly string[];
}

const join = (table: string, as: string, on: string) => ({ table: `register_${table}`, as, on });

const listings: Readonly<Record<ObjectKind, Listing>> = {
  cardholder: {
    table: "register_cardholders",
    joins: [join("groups", "g", "g.id = o.department")],
    name: "o.name",
    detail: "CONCAT_WS(' · ', COALESCE(g.name, 'no department'), o.company, o.staff_number)",
    status: "o.status",
    fields: ["o.name", "o.id", "o.staff_number", "o.email", "g.name", "o.company"],
  },
  credential: {
    table: "register_credentials",
    joins: [join("cardholders", "h", "h.id = o.cardholder")],
    name: "CONCAT(UPPER(LEFT(o.kind, 1)), SUBSTR(o.kind, 2), ' ', COALESCE(CONCAT_WS('-', o.facility_code, o.number), o.id))",
    detail: "CONCAT_WS(' · ', COALESCE(h.name, 'no cardholder'), o.printed_number)",
    status: "o.status",
    fields: ["o.id", "CONCAT_WS('-', o.facility_code, o.number)", "o.printed_number", "h.name"],
  },
  door: {
    table: "register_doors",
    joins: [join("areas", "a", "a.id = o.area"), join("sites", "s", "s.id = o.site")],
    name: "o.name",
    detail: "CONCAT_WS(' · ', a.name, s.name)",
    status: "NULL",
    fields: ["o.name", "o.id", "a.name", "s.name"],
  },
  area: {
    table: "register_areas",
    joins: [join("sites", "s", "s.id = o.site")],
    name: "o.name",
    detail: "CONCAT_WS(' · ', s.name, CONCAT('sensitivity ', o.sensitivity))",
    status: "NULL",
    fields: ["o.name", "o.id", "s.name"],
  },
  level: { table: "register_levels", joins: [], name: "o.name", detail: "o.id", status: "NULL", fields: ["o.name", "o.id"] },
  group: {
    table: "register_groups",
    joins: [join("groups", "p", "p.id = o.parent")],
    name: "o.name",
    detail: "CONCAT_WS(' · ', o.kind, CONCAT('below ', p.name))",
    status: "NULL",
    fields: ["o.name", "o.id", "p.name"],
  },
  schedule: { table: "register_schedules", joins: [], name: "o.name", detail: "o.id", status: "NULL", fields: ["o.name", "o.id"] },
  calendar: { table: "register_calendars", joins: [], name: "o.name", detail: "o.id", status: "NULL", fields: ["o.name", "o.id"] },
};

const stands = (alias: string): string =>
  `${alias}.since_snapshot <= :snapshot AND (${alias}.until_snapshot IS NULL OR ${alias}.until_snapshot > :snapshot)`;

/** Case and accents do not count where people search. */
const folded = (field: string): string => `CONVERT(COALESCE(${field}, '') USING utf8mb4) COLLATE utf8mb4_unicode_ci`;

const escaped = (word: string): string => `%${word.replace(/[\\%_]/g, "\\$&")}%`;

export const registerStore = (sequelize: Sequelize): RegisterStore => ({
  search: async ({ snapshot, kinds, text, offset, limit }) => {
    const words = text.split(/\s+/).filter((word) => word !== "");
    const replacements: Record<string, unknown> = { snapshot, offset, limit };
    words.forEach((word, i) => (replacements[`word${i}`] = escaped(word)));
    const parts = kinds.map((kind) => {
      const { table, joins, name, detail, status, fields } = listings[kind];
      const found = words.map((_, i) => `(${fields.map((field) => `${folded(field)} LIKE :word${i}`).join(" OR ")})`);
      return {
        select: `SELECT '${kind}' AS kind, o.id AS id, ${name} AS name, ${detail} AS detail, ${status} AS status`,
        from: `FROM \`${table}\` o ${joins.map((j) => `LEFT JOIN \`${j.table}\` ${j.as} ON ${j.on} AND ${stands(j.as)}`).join(" ")}
               WHERE ${[stands("o"), ...found].join(" AND ")}`,
      };
    });
    const [items, counts] = await Promise.all([
      sequelize.query<{ kind: ObjectKind; id: string; name: string; detail: string | null; status: string | null }>(
        `SELECT * FROM (${parts.map(({ select, from }) => `${select} ${from}`).join(" UNION ALL ")}) found ORDER BY ${folded("found.name")}, found.id LIMIT :limit OFFSET :offset`,
        { type: QueryTypes.SELECT, replacements },
      ),
      sequelize.query<{ n: number }>(parts.map(({ from }) => `SELECT COUNT(*) AS n ${from}`).join(" UNION ALL "), {
        type: QueryTypes.SELECT,
        replacements,
      }),
    ]);
    return {
      items: items.map((item): RegisterItem => ({ ...item, detail: item.detail ?? "", status: item.status ?? undefined })),
      total: counts.reduce((sum, { n }) => sum + Number(n), 0),
    };
  },
});
