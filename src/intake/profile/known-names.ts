import type { Facility } from "@/core/facility/facility";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { conceptOf, kindByName } from "./header-words";
import type { LookedAtTable } from "./looked-at";

export interface TableToSuggest {
  readonly table: SourceTable;
  readonly look: LookedAtTable;
}

/** What is known by name already: in the register, and in the other tables of the source. */
export interface Known extends Readonly<Record<"doors" | "groups" | "levels" | "areas" | "schedules", ReadonlySet<string>>> {
  /** Whether somebody is known by a number, a name or an address, from elsewhere than a table itself. */
  readonly isPerson: (text: string, exceptIn: string) => boolean;
}

export const folded = (text: string): string => text.trim().replace(/\s+/g, " ").toLowerCase();

export function knownNames(tables: readonly TableToSuggest[], present: Facility | undefined): Known {
  const lists = ["doors", "groups", "levels", "areas", "schedules"] as const;
  const names = Object.fromEntries(lists.map((list) => [list, new Set<string>()])) as Record<(typeof lists)[number], Set<string>>;
  for (const list of lists) for (const { id, name } of present?.[list] ?? []) names[list].add(folded(id)).add(folded(name));
  for (const { look } of tables) {
    const kind = kindByName(look.table);
    const list = lists.find((one) => one === kind);
    const column = look.columns.find(({ name }) => ["name", "door", "group", "level", "area", "schedule"].includes(conceptOf(name) ?? "")) ?? look.columns[0];
    if (list && column) for (const { text } of column.values) names[list].add(folded(text));
  }
  const inRegister = new Set(
    (present?.cardholders ?? []).flatMap(({ id, name, staffNumber, email }) =>
      [id, name, staffNumber, email].flatMap((text) => (text === undefined ? [] : [folded(text)])),
    ),
  );
  const inTables = tables
    .filter(({ look }) => kindByName(look.table) === "people")
    .map(({ look }) => ({
      table: look.table,
      texts: new Set(
        look.columns
          .filter(({ name }) => ["staffNumber", "name", "email", "id"].includes(conceptOf(name) ?? ""))
          .flatMap(({ values }) => values.map(({ text }) => folded(text))),
      ),
    }));
  const isPerson = (text: string, exceptIn: string): boolean =>
    inRegister.has(folded(text)) || inTables.some(({ table, texts }) => table !== exceptIn && texts.has(folded(text)));
  return { ...names, isPerson };
}
