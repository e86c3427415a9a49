import { Readable } from "node:stream";
import { stringify } from "csv-stringify/sync";
import type { BundleFile } from "@/intake/formats/tables/bundle-file";

/** Objects with values by name, several of one name on lines of their own, as a table: a column for every name that comes. */
export function tableOfObjects(
  name: string,
  objects: readonly { readonly line: number; readonly values: ReadonlyMap<string, readonly string[]> }[],
): BundleFile {
  const columns = [...new Set(objects.flatMap(({ values }) => [...values.keys()]))];
  const rows = [columns, ...objects.map(({ values }) => columns.map((column) => (values.get(column) ?? []).join("\n")))];
  const text = stringify(rows, { record_delimiter: "windows", quoted_match: /[\r\n]/ });
  return { name, open: () => Promise.resolve(Readable.from([Buffer.from(text)])), rowOf: (record) => objects[record - 2]?.line ?? 1 };
}

/** A value of JSON as texts by name: what is in objects has their names before its own, with dots; what is in lists is several. */
function putFlat(values: Map<string, string[]>, name: string, value: unknown, depth: number): void {
  const add = (text: string): void => void values.set(name, [...(values.get(name) ?? []), text]);
  if (value === null || value === undefined) return;
  if (typeof value !== "object") return add(typeof value === "string" ? value : JSON.stringify(value));
  if (depth > 4) return add(JSON.stringify(value));
  if (Array.isArray(value)) return value.forEach((item) => putFlat(values, name, item, depth + 1));
  for (const [key, inner] of Object.entries(value)) putFlat(values, name === "" ? key : `${name}.${key}`, inner, depth + 1);
}

/** The resources of a SCIM list (RFC 7644, 3.4.2) as a table; undefined where it is none. */
export function tableOfScimList(name: string, text: string): BundleFile | undefined {
  let list: unknown;
  try {
    list = JSON.parse(text);
  } catch {
    return undefined;
  }
  const resources = (list as { readonly Resources?: unknown }).Resources;
  if (!Array.isArray(resources)) return undefined;
  const objects = resources.map((resource: unknown, at) => {
    const values = new Map<string, string[]>();
    // The schema of an extension stands before its attributes, which are plain enough without it.
    for (const [key, value] of Object.entries((resource ?? {}))) putFlat(values, key.startsWith("urn:") ? "" : key, value, 0);
    values.delete("schemas");
    return { line: at + 1, values };
  });
  return tableOfObjects(name, objects);
}
