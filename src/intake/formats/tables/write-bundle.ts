import { stringify } from "csv-stringify/sync";
import type { Facility } from "@/core/facility/facility";
import { harmless, writtenList } from "./cells";
import type { BundleTable, CellKind, Loose, TableColumn } from "./tables";
import { asText, bundleTables, facilityTable } from "./tables";

function written(value: unknown, kind: CellKind): string {
  if (value === undefined) return "";
  if (kind === "sites") return value === true ? "everywhere" : writtenSites(value as readonly string[]);
  if (kind === "list") return writtenList(value as readonly string[]);
  return typeof value === "string" ? harmless(value) : asText(value);
}

/** A list that reads like the word for all sites is written as a list of JSON. */
const writtenSites = (ids: readonly string[]): string => (ids.length === 1 && ids[0] === "everywhere" ? JSON.stringify(ids) : writtenList(ids));

const valueAt = (object: Loose, path: readonly string[]): unknown => path.reduce<unknown>((at, key) => (at as Loose | undefined)?.[key], object);

const cellsOf = (object: Loose, columns: readonly TableColumn[]): string[] => columns.map(({ path, kind }) => written(valueAt(object, path), kind));

function* rowsOf({ columns, parts }: BundleTable, objects: readonly Loose[]): Generator<string[]> {
  const [owner, ...rest] = columns;
  for (const object of objects)
    if (!parts) yield cellsOf(object, columns);
    else for (const part of parts.of(object)) yield [owner ? harmless(asText(object.id)) : "", ...cellsOf(part, rest)];
}

/** A table with its cells as they are written, its header first. */
export interface WrittenTable {
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
}

/**
 * A facility as tables. Reading them back gives the same facility, whatever register they come to: a table without a row says that there is nothing of its
 * kind.
 */
export function* tablesOf(facility: Facility): Generator<WrittenTable> {
  yield { name: facilityTable.file, rows: [facilityTable.columns.map(({ name }) => name), cellsOf(facility, facilityTable.columns)] };
  for (const known of bundleTables) {
    // A PIN is held nowhere, so that its column would be empty.
    const table = { ...known, columns: known.columns.filter(({ kind }) => kind !== "pin") };
    yield { name: table.file, rows: [table.columns.map(({ name }) => name), ...rowsOf(table, facility[table.list] as unknown as readonly Loose[])] };
  }
}

/** The same as CSV files (RFC 4180), one a table. */
export function* writeBundle(facility: Facility): Generator<{ readonly name: string; readonly text: string }> {
  for (const { name, rows } of tablesOf(facility))
    yield { name: `${name}.csv`, text: stringify([...rows], { record_delimiter: "windows", quoted_match: /[\r\n]/ }) };
}
