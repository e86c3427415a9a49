import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** How one file was understood before there were profiles. */
interface Mapping {
  readonly table?: string;
  readonly headers?: Readonly<Record<string, string | null>>;
  readonly writes?: {
    readonly dates?: "dmy" | "mdy";
    readonly endless?: string;
    readonly zone?: string;
    readonly endsIncluded?: boolean;
    readonly backwards?: string;
    readonly noPin?: readonly string[];
  };
  readonly dayTypes?: Readonly<Record<string, string>>;
}

const moments = new Set(["from", "until", "on", "to", "statusSince", "firstUse", "lastUse", "issuedAt", "asOf"]);

/** A mapping of headers as a profile that reads the same. */
function profileOf(mappings: Readonly<Record<string, Mapping>>): object {
  const files = Object.entries(mappings);
  const tables = files.flatMap(([name, { table, headers = {}, writes = {} }]) => {
    if (Object.keys(headers).length === 0) return [];
    const { dates, endless, zone, endsIncluded, backwards = "overnight", noPin } = writes;
    const moment = {
      forms: ["iso", ...(dates ? [dates] : [])],
      ...(zone !== undefined && { zone }),
      ...(endless !== undefined && { neverFrom: Number(endless.slice(0, 4)) }),
      never: [""],
    };
    const read = Object.entries(headers).flatMap(([header, column]) => (column === null ? [] : [[column, header] as const]));
    const fields = read.map(([column, header]) => [
      column,
      {
        columns: [header],
        ...(moments.has(column) && { moment }),
        ...((column === "start" || column === "end") && { hours: { backwards, ...(endsIncluded && { endsIncluded: true }) } }),
        ...(column === "pin" && noPin && { noPin }),
        ...((column === "sites" || column === "actions") && { split: ";" }),
      },
    ]);
    const aside = Object.keys(headers).filter((header) => headers[header] === null);
    return [
      {
        name,
        headers: Object.keys(headers),
        ...(aside.length > 0 && { aside }),
        makes: [{ table: table ?? name, fields: Object.fromEntries(fields) as object }],
      },
    ];
  });
  const calendars = Object.fromEntries(files.flatMap(([name, { dayTypes }]) => (dayTypes ? [[name, { dayTypes }]] : [])));
  return { format: "nomade.profile/1", tables, ...(Object.keys(calendars).length > 0 && { calendars }) };
}

/** Whole profiles take the place of mappings of headers. */
export async function up(schema: QueryInterface): Promise<void> {
  const { sequelize } = schema;
  await sequelize.query("ALTER TABLE source_profiles CHANGE COLUMN IF EXISTS mapping profile MEDIUMTEXT NOT NULL DEFAULT '{}'", { type: QueryTypes.RAW });
  for (const { source, profile } of await sequelize.query<{ source: string; profile: string }>("SELECT source, profile FROM source_profiles", {
    type: QueryTypes.SELECT,
  })) {
    const mapping = JSON.parse(profile) as Record<string, Mapping>;
    if ("format" in mapping || Object.keys(mapping).length === 0) continue;
    await sequelize.query("UPDATE source_profiles SET profile = :profile WHERE source = :source", {
      type: QueryTypes.UPDATE,
      replacements: { source, profile: JSON.stringify(profileOf(mapping)) },
    });
  }
}
