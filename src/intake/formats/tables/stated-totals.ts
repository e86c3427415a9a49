import type { BundleFile, RefusedRow } from "./bundle-file";
import { readTable } from "./read-table";
import { asText, totalsTable } from "./tables";

/** What a source states of one of its tables, and the line on which it does. */
export interface StatedTotals {
  readonly line: number;
  readonly rows: number | undefined;
  readonly sha256: string | undefined;
}

/** Reads what a source states of its tables and holds it against what came; what does not fit is told. Gives by file what is stated, and its own rows. */
export async function readTotals(
  totals: BundleFile,
  fileOf: (table: string) => BundleFile | undefined,
  rowsIn: (file: BundleFile) => number,
  refuse: (row: RefusedRow) => void,
): Promise<{ readonly stated: ReadonlyMap<string, StatedTotals>; readonly rows: number }> {
  const stated = new Map<string, StatedTotals>();
  let rows = 0;
  for await (const { line, values } of readTable(totals, totalsTable.columns, refuse)) {
    rows++;
    const file = fileOf(asText(values.table));
    const states = { line, rows: values.rows as number | undefined, sha256: values.sha256 === undefined ? undefined : asText(values.sha256).toLowerCase() };
    if (!file)
      refuse({ file: totals.name, line, column: "table", value: asText(values.table), reason: "no such table came; expected every table that is stated" });
    else {
      stated.set(file.name, states);
      const found = rowsIn(file);
      if (states.rows !== undefined && states.rows !== found)
        refuse({
          file: totals.name,
          line,
          column: "rows",
          value: String(states.rows),
          reason: `${file.name} has ${found} rows; expected as many as the source states`,
        });
    }
  }
  return { stated, rows };
}
