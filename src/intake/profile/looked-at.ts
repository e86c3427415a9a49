import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { SourceRow, SourceTable } from "@/intake/formats/tables/source-table";
import { rowsOfTable } from "@/intake/formats/tables/source-table";

/** A column as it came: how many of its cells are empty, and its values with how often each comes, the most frequent first. */
export interface LookedAtColumn {
  readonly name: string;
  readonly empty: number;
  readonly values: readonly { readonly text: string; readonly count: number }[];
  /** There are more values than are kept: what is said of all of them is said of these. */
  readonly hasMore: boolean;
  /** It may hold PINs: its values are not shown. */
  readonly isSecret: boolean;
}

export interface LookedAtTable {
  readonly table: string;
  readonly rows: number;
  readonly columns: readonly LookedAtColumn[];
  /** The first rows as they came. */
  readonly first: readonly SourceRow[];
  /** Rows that cannot be cut into the header's cells. */
  readonly refused: readonly RefusedRow[];
}

const valuesKept = 2000;
const longestValue = 1000;
const longestShown = 200;
const rowsShown = 5;
const refusedShown = 20;

const secretColumn = /\bpins?\b|pin ?code|passcode|geheimzahl|password|passwort/i;
export const isSecretColumn = (name: string): boolean => secretColumn.test(name);

const zerosOf = (values: ReadonlyMap<string, number> | undefined) =>
  [...(values ?? [])].flatMap(([text, count]) => (/^0+$/.test(text) ? [{ text, count }] : []));

/** Goes once through a table: what its columns hold, and its first rows. Values beyond a number are counted, not kept. */
export async function lookAtTable(table: SourceTable): Promise<LookedAtTable> {
  const counts = table.headers.map(() => new Map<string, number>());
  const empty = table.headers.map(() => 0);
  const more = table.headers.map(() => false);
  const first: SourceRow[] = [];
  const refused: RefusedRow[] = [];
  let rows = 0;
  for await (const row of rowsOfTable(table, (bad) => {
    if (refused.length < refusedShown) refused.push(bad);
  })) {
    rows++;
    if (first.length < rowsShown) first.push(row);
    for (let at = 0; at < counts.length; at++) {
      const text = (row.cells[at] ?? "").trim();
      const values = counts[at];
      if (text === "") empty[at] = (empty[at] ?? 0) + 1;
      else if (values) {
        const count = values.get(text);
        if (count !== undefined || (values.size < valuesKept && text.length <= longestValue)) values.set(text, (count ?? 0) + 1);
        else more[at] = true;
      }
    }
  }
  const columns = table.headers.map((name, at): LookedAtColumn => {
    const isSecret = isSecretColumn(name);
    // Of a column that may hold PINs only zeros are seen: they may mean that there is none.
    const values = isSecret
      ? zerosOf(counts[at])
      : [...(counts[at] ?? [])].sort(([a, m], [b, n]) => n - m || (a < b ? -1 : 1)).map(([text, count]) => ({ text, count }));
    return { name, empty: empty[at] ?? 0, values, hasMore: more[at] ?? false, isSecret };
  });
  return {
    table: table.name,
    rows,
    columns,
    first: first.map((row) => ({
      ...row,
      cells: row.cells.map((cell, at) =>
        columns[at]?.isSecret && cell !== "" ? "•••" : cell.length > longestShown ? `${cell.slice(0, longestShown)}…` : cell,
      ),
    })),
    refused,
  };
}
