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

const options = { record_delimiter: "windows" } as const;

/**
 * A facility as CSV files (RFC 4180), one a table. Timeframe them back gives the same facility, whatever register they come to:
 * a table without a row says that there is nothing of its kind.
 */
export function* writeBundle(facility: Facility): Generator<{ readonly name: string; readonly text: string }> {
  const head = facilityTable.columns.map(({ name }) => name);
  yield { name: "facility.csv", text: stringify([head, cellsOf(facility, facilityTable.columns)], options) };
  for (const known of bundleTables) {
    // A PIN is held nowhere, so that its column would be empty.
    const table = { ...known, columns: known.columns.filter(({ kind }) => kind !== "pin") };
    const rows = [...rowsOf(table, facility[table.list] as unknown as readonly Loose[])];
    yield { name: `${table.file}.csv`, text: stringify([table.columns.map(({ name }) => name), ...rows], options) };
  }
}
