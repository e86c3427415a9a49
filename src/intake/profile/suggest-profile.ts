import type { ListKey } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import { plainHeading } from "./header-words";
import type { TableToSuggest } from "./known-names";
import { knownNames } from "./known-names";
import { isTotals } from "./read-source";
import type { FieldSource, SourceProfile, TableProfile } from "./source-profile";
import { suggestSource } from "./suggest-field";
import { suggestTable } from "./suggest-table";
import { field } from "./table-suggestion";
import { targetTables } from "./target-fields";

/** A table that stands in the documentation, as it is: its headers are the columns there. */
function ownTable({ table, look }: TableToSuggest): TableProfile | undefined {
  const named = [...targetTables.values()].find(({ table: known }) => plainHeading(known) === plainHeading(table.name));
  if (!named) return undefined;
  const fields: Record<string, FieldSource> = {};
  for (const column of look.columns) {
    const target = [...named.fields.values()].find(({ name }) => plainHeading(name) === plainHeading(column.name));
    if (target && fields[target.name] === undefined)
      fields[target.name] = suggestSource(
        named.table,
        target,
        [column],
        target.reads.kind === "texts" || target.reads.kind === "references" ? { split: ";" } : {},
      );
  }
  return Object.keys(fields).length > 0 ? { name: table.name, headers: table.headers, makes: [{ table: named.table, fields }] } : undefined;
}

/**
 * What can be seen of how a source writes, by its headers and values. It is a suggestion: what is not plain is left open, and nothing is read by it that
 * somebody did not see.
 */
export function suggestProfile(tables: readonly TableToSuggest[], present: Facility | undefined): SourceProfile {
  const known = knownNames(tables, present);
  const keys: Partial<Record<ListKey, readonly string[]>> = {};
  const ownNames = new Set<TableProfile>();
  const suggested = tables
    .filter(({ table }) => table.headers.length > 0 && !table.isHidden && !isTotals(table))
    .map((one) => {
      const own = ownTable(one);
      if (own) {
        ownNames.add(own);
        return own;
      }
      const { profile, keys: found } = suggestTable(one, known, present);
      Object.assign(keys, found);
      return profile;
    });
  const made = new Set(suggested.flatMap(({ makes }) => makes.map(({ table }) => table)));
  const names = (list: ListKey): boolean =>
    suggested.some(({ makes }) =>
      makes.some(({ table, fields }) =>
        Object.keys(fields).some((name) => {
          const reads = field(table, name)?.reads;
          return (reads?.kind === "reference" || reads?.kind === "references") && reads.list === list;
        }),
      ),
    );
  // A door made from its name stands at the only site that there is. A level or a schedule made so would say less, or more, than is known: that is asked.
  const plain: readonly ListKey[] = present?.sites.length === 1 ? ["groups", "doors"] : ["groups"];
  const madeFromNames = Object.fromEntries(plain.filter((list) => names(list) && !made.has(list)).map((list) => [list, {}]));
  return {
    format: "nomade.profile/1",
    tables: suggested,
    ...(Object.keys(keys).length > 0 && { keys }),
    ...(Object.keys(madeFromNames).length > 0 && { madeFromNames }),
    // Somebody who is no longer in the list has left, with all that is known of them still there to be looked at.
    ...(made.has("cardholders") && !suggested.every((table) => ownNames.has(table)) && { missing: { cardholders: "left" as const } }),
  };
}
