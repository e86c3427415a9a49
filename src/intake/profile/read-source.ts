import type { Facility } from "@/core/facility/facility";
import type { BundleFileSummary, ReadBundle } from "@/intake/formats/tables/read-bundle";
import type { BundleFile, RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { rowsOfTable, tableName } from "@/intake/formats/tables/source-table";
import { readTotals } from "@/intake/formats/tables/stated-totals";
import { totalsTable } from "@/intake/formats/tables/tables";
import { asItCame } from "./lacking-columns";
import type { MadeRow, RowMaker } from "./made-rows";
import { rowMaker } from "./made-rows";
import type { PutTogether, SpokenOf } from "./put-together";
import { putTogether } from "./put-together";
import type { ReadingContext } from "./read-field";
import type { SourceProfile, TableProfile } from "./source-profile";
import { targetTables } from "./target-fields";

/** What became of the rows of a table. */
export interface TableOutcome {
  readonly table: string;
  readonly rows: number;
  readonly refused: number;
  /** Rows that the profile says are not read. */
  readonly aside: number;
  /** By table of the documentation, how many objects or parts its rows made. */
  readonly made: Readonly<Record<string, number>>;
  /** By field, such as `cardholders.until`, in how many rows its value is not what stands in the cell. */
  readonly changed: Readonly<Record<string, number>>;
}

export interface ReadSource extends Omit<ReadBundle, "tables"> {
  readonly onlyNamed: PutTogether["onlyNamed"];
  readonly madeFromNames: PutTogether["madeFromNames"];
  readonly unknownNames: PutTogether["unknownNames"];
  readonly outcomes: readonly TableOutcome[];
}

const same = (a: readonly string[], b: readonly string[]): boolean => a.length === b.length && a.every((text) => b.includes(text));

/** What a profile says of a table: by its name, or, of one that is called otherwise this time, by its headers. */
export function profileOfTable(profile: SourceProfile, table: Pick<SourceTable, "name" | "headers">): TableProfile | undefined {
  return profile.tables.find(({ name }) => name === table.name) ?? profile.tables.find(({ headers }) => headers.length > 0 && same(headers, table.headers));
}

const wholeFile = (file: string, column: string, value: string, reason: string): RefusedRow => ({ file, line: 0, column, value, reason, whole: true });

/** What a source states of its tables stands in one of the documentation. */
export const isTotals = ({ name, headers }: Pick<SourceTable, "name" | "headers">): boolean =>
  name === totalsTable.file && headers.includes("table") && headers.every((header) => totalsTable.columns.some((column) => column.name === header));

/** Makes the rows of a table, or tells why none can be made. */
export function makerOf(table: SourceTable, profile: TableProfile, context: ReadingContext): RowMaker {
  return rowMaker(table.file.name, table.headers, asItCame(profile, table.headers), context);
}

/**
 * Reads the tables of a source by its profile. Every table is read, or left aside by the profile, or refused; every row makes something, is left aside, or is
 * refused with its line.
 */
export async function readSource(
  tables: readonly SourceTable[],
  profile: SourceProfile,
  present: Facility | undefined,
  context: ReadingContext,
): Promise<ReadSource> {
  const refused: RefusedRow[] = [];
  const made: MadeRow[] = [];
  const spokenOf: SpokenOf[] = [];
  const outcomes: TableOutcome[] = [];
  const files: BundleFileSummary[] = [];
  for (const table of tables) {
    const { name } = table.file;
    const found = profileOfTable(profile, table);
    const said = found && asItCame(found, table.headers);
    const none = { table: table.name, rows: 0, refused: 0, aside: 0, made: {}, changed: {} };
    if (isTotals(table)) {
      outcomes.push(none);
      files.push({ name, rows: 0, refused: 0, stated: undefined });
      continue;
    }
    if (!said || table.headers.length === 0 || said.makes.length === 0) {
      // A hidden sheet is off until it is chosen; one without anything in it has nothing to read.
      if (!said && !table.isHidden && table.headers.length > 0)
        refused.push(wholeFile(name, "", table.name, "the profile says nothing of this table; expected how its rows are read, or that it is left aside"));
      outcomes.push(none);
      files.push({ name, rows: 0, refused: 0, stated: undefined });
      continue;
    }
    const maker = makerOf(table, said, context);
    refused.push(...maker.problems);
    if (maker.problems.length > 0) {
      outcomes.push(none);
      files.push({ name, rows: 0, refused: 0, stated: undefined });
      continue;
    }
    for (const { table: list, fields } of said.makes) {
      const target = targetTables.get(list);
      if (target) spokenOf.push({ target, fields: Object.keys(fields) });
    }
    let rows = 0;
    let aside = 0;
    const counts: Record<string, number> = {};
    const badLines = new Set<number>();
    const refuse = (row: RefusedRow): void => {
      refused.push(row);
      badLines.add(row.line);
    };
    const mayHavePins = said.makes.some(({ fields }) => fields.pin !== undefined);
    for await (const row of rowsOfTable(table, refuse, mayHavePins)) {
      rows++;
      if (maker.missing.length > 0) {
        maker.missing.forEach(refuse);
        break;
      }
      const outcome = maker.make(row);
      if (outcome.kind === "refused") outcome.refused.forEach(refuse);
      else if (outcome.kind === "aside") aside++;
      else
        for (const one of outcome.made) {
          counts[one.target.table] = (counts[one.target.table] ?? 0) + 1;
          // Events are no part of the document, and may be many.
          if (one.target.table !== "events") made.push(one);
        }
    }
    outcomes.push({ table: table.name, rows, refused: badLines.size, aside, made: counts, changed: Object.fromEntries(maker.changed) });
    files.push({ name, rows: rows - badLines.size, refused: badLines.size, stated: undefined });
  }
  const totals = tables.find(isTotals);
  if (totals) {
    const rowsIn = ({ name }: BundleFile): number => outcomes[tables.findIndex(({ file }) => file.name === name)]?.rows ?? 0;
    const fileOf = (named: string): BundleFile | undefined => tables.find((table) => table !== totals && table.name === tableName(named))?.file;
    const { stated, rows } = await readTotals(totals.file, fileOf, rowsIn, (row) => refused.push(row));
    for (const [at, file] of files.entries()) files[at] = file.name === totals.file.name ? { ...file, rows } : { ...file, stated: stated.get(file.name) };
  }
  const whole = putTogether(made, profile, present, spokenOf);
  return { ...whole, refused: [...refused, ...whole.refused], files, outcomes };
}
