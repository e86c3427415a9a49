import type { ListKey } from "@/core/facility/document";
import type { Brings } from "@/core/facility/ownership";
import type { BundleFile, RefusedRow } from "./bundle-file";
import type { TableRow } from "./read-table";
import { columnNamed, headerOf, readTable } from "./read-table";
import type { StatedTotals } from "./stated-totals";
import { readTotals } from "./stated-totals";
import type { BundleTable, Loose, TableColumn } from "./tables";
import { asText, bundleTables, facilityTable, totalsTable, weekdayExpected } from "./tables";

/** Where something of the assembled document came from. */
export interface Origin {
  readonly file: string;
  readonly line: number;
  /** Other rows that speak of the same object. */
  readonly also?: readonly Origin[];
}

export interface BundleFileSummary {
  readonly name: string;
  /** Rows that could be read, and rows that could not. */
  readonly rows: number;
  readonly refused: number;
  /** What the source states of it. */
  readonly stated: StatedTotals | undefined;
}

/** A bundle as a document put together from its rows, nothing checked but the cells. */
export interface ReadBundle {
  readonly head: Loose | undefined;
  readonly lists: Partial<Record<ListKey, Loose[]>>;
  /** By list, the origin of each object. */
  readonly origins: Partial<Record<ListKey, Origin[]>>;
  /** By the path of a part, such as `levels[3].rows[0]`, its origin. */
  readonly partOrigins: ReadonlyMap<string, Origin>;
  readonly refused: readonly RefusedRow[];
  readonly files: readonly BundleFileSummary[];
  /** By list the fields for which it has columns, or tables of parts. What it has no column for is not its own. */
  readonly brings: Brings;
  /** The tables as their headers were understood. */
  readonly tables: readonly TableHeaders[];
}

/** A file of a bundle as its header is understood. */
export interface TableHeaders {
  /** Name of the file without `.csv`. */
  readonly file: string;
  /** The table that it is taken for; undefined where it is none that is known. */
  readonly table: string | undefined;
  /** Each header with the column that it is; undefined for one that is not known. */
  readonly headers: readonly { readonly text: string; readonly column: string | undefined }[];
}

const baseName = (name: string): string => name.replace(/^.*\//, "").replace(/\.csv$/i, "");
const plainName = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, "");

const tableNames = [facilityTable.file, ...bundleTables.map(({ file }) => file), totalsTable.file];
const tableColumns: Readonly<Record<string, readonly TableColumn[]>> = Object.fromEntries(
  [facilityTable, ...bundleTables, totalsTable].map(({ file, columns }) => [file, columns]),
);

const tableOf = (name: string): string | undefined => tableNames.find((one) => plainName(one) === plainName(baseName(name)));

/** How the headers of a bundle's files are understood. */
async function headersOfBundle(files: readonly BundleFile[]): Promise<TableHeaders[]> {
  const understood: TableHeaders[] = [];
  for (const file of files) {
    const table = tableOf(file.name);
    const columns = table === undefined ? [] : (tableColumns[table] ?? []);
    const header = await headerOf(file);
    understood.push({ file: baseName(file.name), table, headers: header.map((text) => ({ text, column: columnNamed(text, columns)?.name })) });
  }
  return understood;
}

/** Whether every file is a table of the documentation with columns that it has: no profile is needed to read them. */
export const isUnderstood = (tables: readonly TableHeaders[]): boolean =>
  tables.every(({ table, headers }) => table !== undefined && headers.length > 0 && headers.every(({ column }) => column !== undefined));

function broughtBy(tables: readonly TableHeaders[]): Brings {
  const brings: Partial<Record<ListKey, string[]>> = {};
  for (const { table: name, headers } of tables) {
    const table = bundleTables.find(({ file }) => file === name);
    if (!table) continue;
    // What is made of a PIN is its tag.
    const fieldOf = (column: TableColumn | undefined): readonly string[] =>
      column === undefined ? [] : column.kind === "pin" ? ["pinTag"] : column.path.slice(0, 1);
    const fields = table.parts ? table.parts.fields : headers.flatMap(({ column }) => fieldOf(table.columns.find((one) => one.name === column)));
    brings[table.list] = [...new Set([...(brings[table.list] ?? []), ...fields])];
  }
  return brings;
}

/** Makes the tag of a PIN: equal for equal PINs, and no way back to them. */
export type PinTagger = (pin: string) => string;

/** Stands before a tag in the place of its PIN, in a file that waits: a PIN has no control character. */
export const tagMark = "\u0001tag:";
export const tagOrTagged = (text: string, tagOf: PinTagger): string => (text.startsWith(tagMark) ? text.slice(tagMark.length) : tagOf(text));

const noTags: PinTagger = () => {
  throw new Error("A bundle has PINs, and no key was given to make tags of them.");
};

/** A row whose PIN, if any, has become its tag; the PIN goes no further. */
function withTag({ pin, pinTag, ...values }: Loose, tagOf: PinTagger): Loose {
  const tag = pin === undefined ? pinTag : tagOrTagged(asText(pin), tagOf);
  return tag === undefined ? values : { ...values, pinTag: tag };
}

/** Reads the files of a bundle, lists before their parts. Every row that cannot be read is told; the others are put together. */
export async function readBundle(files: readonly BundleFile[], tagOf: PinTagger = noTags): Promise<ReadBundle> {
  const tables = await headersOfBundle(files);
  const refused: RefusedRow[] = [];
  const refuse = (row: RefusedRow): void => void refused.push(row);
  const byTable = new Map<string, BundleFile>();
  for (const file of files) {
    const table = tableOf(file.name);
    if (table === undefined)
      refuse({
        file: file.name,
        line: 0,
        column: "",
        value: file.name,
        reason: `no such table; expected a file named ${tableNames.map((one) => `${one}.csv`).join(", ")}`,
        whole: true,
      });
    else if (byTable.has(table))
      refuse({
        file: file.name,
        line: 0,
        column: "",
        value: file.name,
        reason: `this table comes twice; it is in ${byTable.get(table)?.name ?? ""} already`,
        whole: true,
      });
    else byTable.set(table, file);
  }
  const lists: Partial<Record<ListKey, Loose[]>> = {};
  const origins: Partial<Record<ListKey, Origin[]>> = {};
  const partOrigins = new Map<string, Origin>();
  const counts = new Map<BundleFile, number>();
  const count = (file: BundleFile): void => void counts.set(file, (counts.get(file) ?? 0) + 1);

  /** The rows of a file, its PINs as tags. */
  async function* rowsOf(file: BundleFile, columns: readonly TableColumn[]): AsyncGenerator<TableRow> {
    const hasPins = columns.some(({ kind }) => kind === "pin");
    for await (const { line, values } of readTable(file, columns, refuse)) yield { line, values: hasPins ? withTag(values, tagOf) : values };
  }

  let head: Loose | undefined;
  const headFile = byTable.get(facilityTable.file);
  if (headFile)
    for await (const { line, values } of rowsOf(headFile, facilityTable.columns)) {
      count(headFile);
      if (head) refuse({ file: headFile.name, line, column: "", value: "", reason: "there is a second row; expected one", whole: true });
      else head = values;
    }

  for (const table of bundleTables) {
    const file = byTable.get(table.file);
    if (!file) continue;
    const objects = (lists[table.list] ??= []);
    const from = (origins[table.list] ??= []);
    if (table.parts) await readParts(table, table.parts, file, objects);
    else
      for await (const { line, values } of rowsOf(file, table.columns)) {
        count(file);
        if (table.list === "schedules" && values.always !== true) {
          delete values.always;
          values.week = {};
        }
        if (table.list === "grants") {
          values.to ??= {};
          values.open ??= {};
        }
        objects.push(values);
        from.push({ file: file.name, line });
      }
  }

  async function readParts({ columns, list }: BundleTable, { add }: NonNullable<BundleTable["parts"]>, file: BundleFile, objects: Loose[]): Promise<void> {
    const owner = columns[0]?.name ?? "";
    const places = new Map(objects.map(({ id }, i) => [id, i]));
    for await (const { line, values } of rowsOf(file, columns)) {
      const at = places.get(values[owner]);
      const object = at === undefined ? undefined : objects[at];
      const expected = list === "schedules" ? weekdayExpected(values) : undefined;
      if (!object || at === undefined)
        refuse({
          file: file.name,
          line,
          column: owner,
          value: JSON.stringify(values[owner] ?? ""),
          reason: `no such id in ${list}; expected one that is in its file`,
        });
      else if (expected !== undefined)
        refuse({ file: file.name, line, column: "weekday", value: JSON.stringify(values.weekday ?? ""), reason: `expected ${expected}` });
      else {
        count(file);
        partOrigins.set(`${list}[${at}].${add(object, values)}`, { file: file.name, line });
      }
    }
  }

  const refusedIn = (file: BundleFile): number => new Set(refused.filter(({ file: name }) => name === file.name).map(({ line }) => line)).size;
  const totals = byTable.get(totalsTable.file);
  const fileOf = (table: string): BundleFile | undefined => byTable.get(tableOf(table) ?? "");
  const states = totals && (await readTotals(totals, fileOf, (file) => (counts.get(file) ?? 0) + refusedIn(file), refuse));
  if (totals && states) counts.set(totals, states.rows);
  return {
    head,
    lists,
    origins,
    partOrigins,
    refused,
    tables,
    brings: broughtBy(tables),
    files: files.map((file) => ({ name: file.name, rows: counts.get(file) ?? 0, refused: refusedIn(file), stated: states?.stated.get(file.name) })),
  };
}
