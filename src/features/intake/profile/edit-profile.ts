import type { FieldSource, MadeObject, ProfileTarget, SourceProfile, TableProfile } from "@/operations/intake/try-profile";

/** Changes of a source profile, each giving a new one. Columns are named as they came; a target is a table and its field, `cardholders.name`. */

export const leftAside = "(leave aside)";
export const toRows = "(turn into rows)";
export const headingColumn = "(heading)";
export const cellColumn = "(cell)";

export const targetKey = (table: string, field: string): string => `${table}.${field}`;
export const splitKey = (key: string): readonly [table: string, field: string] => {
  const at = key.indexOf(".");
  return [key.slice(0, at), key.slice(at + 1)];
};

/** What a column is read as: its targets, that it is left aside, or turned into rows; nothing where nobody has said. */
export function usesOf(table: TableProfile, column: string): readonly string[] {
  if (table.aside?.includes(column)) return [leftAside];
  if (table.unfold?.some(({ columns }) => columns.includes(column))) return [toRows];
  return table.makes.flatMap(({ table: makes, fields }) =>
    Object.entries(fields).flatMap(([field, { columns }]) => (columns?.includes(column) ? [targetKey(makes, field)] : [])),
  );
}

const changeTable = (profile: SourceProfile, name: string, change: (table: TableProfile) => TableProfile): SourceProfile => ({
  ...profile,
  tables: profile.tables.some((table) => table.name === name)
    ? profile.tables.map((table) => (table.name === name ? change(table) : table))
    : [...profile.tables, change({ name, headers: [], makes: [] })],
});

/** Objects without a field of their own make nothing. */
const withoutEmpty = (makes: readonly MadeObject[]): MadeObject[] => makes.filter(({ fields }) => Object.keys(fields).length > 0);

const withoutColumn = (makes: readonly MadeObject[], column: string): MadeObject[] =>
  withoutEmpty(
    makes.map((one) => ({
      ...one,
      fields: Object.fromEntries(
        Object.entries(one.fields).flatMap(([field, source]): [string, FieldSource][] => {
          if (!source.columns?.includes(column)) return [[field, source]];
          const columns = source.columns.filter((other) => other !== column);
          return columns.length > 0 ? [[field, { ...source, columns }]] : [];
        }),
      ),
    })),
  );

function withField(makes: readonly MadeObject[], key: string, source: FieldSource): MadeObject[] {
  const [table, field] = splitKey(key);
  const known = makes.some((one) => one.table === table);
  return known
    ? makes.map((one) => (one.table === table ? { ...one, fields: { ...one.fields, [field]: source } } : one))
    : [...makes, { table, fields: { [field]: source } }];
}

/** How a field of a kind is read at first, where somebody chooses it by hand. */
export function usualSource(columns: readonly string[], kind: string): FieldSource {
  if (kind === "date" || kind === "moment" || kind === "instant") return { columns, moment: { forms: [], never: [""] } };
  if (kind === "hours" || kind === "clock") return { columns, hours: {} };
  return { columns };
}

export const kindOfTarget = (targets: readonly ProfileTarget[], key: string): string => {
  const [table, field] = splitKey(key);
  return targets.find((one) => one.table === table)?.fields.find(({ name }) => name === field)?.kind ?? "text";
};

/** Says what a column is: a target, left aside, turned into rows, or nothing yet. */
export function readColumnAs(profile: SourceProfile, name: string, column: string, use: string | null, targets: readonly ProfileTarget[]): SourceProfile {
  return changeTable(profile, name, (table) => {
    const cleared: TableProfile = {
      ...table,
      aside: table.aside?.filter((other) => other !== column) ?? [],
      unfold:
        table.unfold?.map((one) => ({ ...one, columns: one.columns.filter((other) => other !== column) })).filter(({ columns }) => columns.length > 0) ?? [],
      makes: withoutColumn(table.makes, column),
    };
    const before = table.makes.find(({ table: makes, fields }) => use !== null && Object.entries(fields).some(([field]) => targetKey(makes, field) === use));
    const same = use === null ? undefined : before?.fields[splitKey(use)[1]];
    if (use === null) return cleared;
    if (use === leftAside) return { ...cleared, aside: [...(cleared.aside ?? []), column] };
    if (use === toRows) return { ...cleared, unfold: [...(cleared.unfold ?? []), { heading: column, columns: [column] }] };
    // A second column for the same field is joined to the first.
    const others = same?.columns?.filter((other) => other !== column) ?? [];
    const source = others.length > 0 ? { ...same, columns: [...others, column] } : usualSource([column], kindOfTarget(targets, use));
    return { ...cleared, makes: withField(cleared.makes, use, source) };
  });
}

/** Says what the heading, or the cell, of columns that become rows is. */
export function readUnfoldedAs(
  profile: SourceProfile,
  name: string,
  which: typeof headingColumn | typeof cellColumn,
  use: string | null,
  targets: readonly ProfileTarget[],
): SourceProfile {
  return changeTable(profile, name, (table) => {
    const makes = withoutColumn(table.makes, which);
    return { ...table, makes: use === null ? makes : withField(makes, use, usualSource([which], kindOfTarget(targets, use))) };
  });
}

/** Changes how one field is read. */
export const changeField = (profile: SourceProfile, name: string, key: string, change: (source: FieldSource) => FieldSource): SourceProfile =>
  changeTable(profile, name, (table) => {
    const [makes, field] = splitKey(key);
    return {
      ...table,
      makes: table.makes.map((one) =>
        one.table === makes && one.fields[field] ? { ...one, fields: { ...one.fields, [field]: change(one.fields[field]) } } : one,
      ),
    };
  });

/** Gives a field the same value for every row; an empty one takes it away. */
export const setConstant = (profile: SourceProfile, name: string, key: string, constant: string): SourceProfile =>
  changeTable(profile, name, (table) => {
    const [makes, field] = splitKey(key);
    if (constant !== "") return { ...table, makes: withField(table.makes, key, { constant }) };
    return {
      ...table,
      makes: withoutEmpty(
        table.makes.map((one) =>
          one.table === makes ? { ...one, fields: Object.fromEntries(Object.entries(one.fields).filter(([other]) => other !== field)) } : one,
        ),
      ),
    };
  });

/** Says which marks of unfolded columns make a row. */
export const setMarks = (profile: SourceProfile, name: string, makes: string, column: string, values: Readonly<Record<string, boolean>>): SourceProfile =>
  changeTable(profile, name, (table) => ({
    ...table,
    makes: table.makes.map((one) => (one.table === makes ? { ...one, when: { column, values: { ...one.when?.values, ...values } } } : one)),
  }));

/** Says by a column which rows are read: all of them at first, of every value that it has; or all again. */
export const readRowsBy = (profile: SourceProfile, name: string, column: string | null, values: Readonly<Record<string, boolean>>): SourceProfile =>
  changeTable(profile, name, ({ only: _before, ...table }) => (column === null ? table : { ...table, only: { column, values } }));

/** Leaves a table aside as a whole, or takes it up again. */
export const leaveTableAside = (profile: SourceProfile, name: string, columns: readonly string[], isAside: boolean): SourceProfile =>
  changeTable(profile, name, ({ text }) => ({ name, headers: columns, ...(text && { text }), makes: [], ...(isAside && { aside: columns }) }));

/** Changes how the text of a table is cut into cells. What was said of its columns no longer holds where these become others. */
export const setTextForm = (profile: SourceProfile, name: string, text: NonNullable<TableProfile["text"]>): SourceProfile =>
  changeTable(profile, name, (table) => ({ ...table, text: { ...table.text, ...text } }));

/** Makes objects of a list from the names in cells where nothing brings them, or no longer. */
export function makeFromNames(profile: SourceProfile, list: string, made: Readonly<Record<string, string>> | undefined): SourceProfile {
  const others = Object.fromEntries(Object.entries(profile.madeFromNames ?? {}).filter(([one]) => one !== list));
  return { ...profile, madeFromNames: made === undefined ? others : { ...others, [list]: Object.keys(made).length > 0 ? { with: made } : {} } };
}

/** Says what it means that an object is not in a list. */
export const setMissing = (profile: SourceProfile, list: string, means: string): SourceProfile => ({
  ...profile,
  missing: { ...profile.missing, [list]: means },
});

export const setKey = (profile: SourceProfile, list: string, fields: readonly string[]): SourceProfile => ({
  ...profile,
  keys: { ...profile.keys, [list]: fields },
});
