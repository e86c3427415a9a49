import type { ToldEvent } from "@/core/events/event-book";
import { parseInstant } from "@/core/time/instant";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { rowsOfTable } from "@/intake/formats/tables/source-table";
import type { MadeRow } from "./made-rows";
import type { ReadingContext } from "./read-field";
import { makerOf, profileOfTable } from "./read-source";
import type { SourceProfile } from "./source-profile";

/** The longest text that is kept of an event, and of its reason (`sources.md`, 3). */
export const longestOfEvent = 128;
const longestReason = 500;

export const makesEvents = (profile: SourceProfile | undefined): boolean =>
  profile?.tables.some(({ makes }) => makes.some(({ table }) => table === "events")) ?? false;

/** The text of the source for what became of it, where that is more than granted or refused. */
function ownWords(cells: readonly string[], headers: readonly string[], row: MadeRow): string | undefined {
  const column = row.columns.result;
  const at = column === undefined ? -1 : headers.indexOf(column);
  const words = at < 0 ? "" : (cells[at] ?? "").trim();
  return words === "" || words === "granted" || words === "refused" ? undefined : words.slice(0, longestReason);
}

/**
 * Streams the events of tables as a profile reads them; rows that cannot be read are told. What the source says of how it went is kept as the reason, where
 * no column has one. `doorOf` finds the door that a text names.
 */
export async function* eventsOfTables(
  tables: readonly SourceTable[],
  profile: SourceProfile,
  context: ReadingContext,
  doorOf: (text: string) => string,
  refuse: (row: RefusedRow) => void,
): AsyncGenerator<ToldEvent> {
  for (const table of tables) {
    const said = profileOfTable(profile, table);
    const { name } = table.file;
    const whole = (reason: string): void => refuse({ file: name, line: 0, column: "", value: table.name, reason, whole: true });
    if (!said) {
      if (!table.isHidden && table.headers.length > 0)
        whole("the profile says nothing of this table; expected how its rows are read, or that it is left aside");
      continue;
    }
    if (said.makes.length === 0) continue;
    if (said.makes.some(({ table: made }) => made !== "events")) {
      whole("events and what the register holds are taken in by two intakes; expected tables of the one or the other, the rest left aside");
      continue;
    }
    const maker = makerOf(table, said, context);
    const problems = [...maker.problems, ...maker.missing];
    problems.forEach(refuse);
    if (problems.length > 0) continue;
    for await (const row of rowsOfTable(table, refuse)) {
      const outcome = maker.make(row);
      if (outcome.kind === "refused") outcome.refused.forEach(refuse);
      if (outcome.kind !== "made") continue;
      for (const made of outcome.made) {
        const text = (field: string): string | undefined => (typeof made.values[field] === "string" ? made.values[field] : undefined);
        const at = parseInstant(text("at") ?? "");
        const tooLong = ["door", "credential", "number", "facilityCode", "id"].find((field) => (text(field)?.length ?? 0) > longestOfEvent);
        if (!at || tooLong !== undefined) {
          const field = tooLong ?? "at";
          refuse({
            file: name,
            line: row.line,
            column: made.columns[field] ?? field,
            value: (text(field) ?? "").slice(0, 80),
            reason: at ? `expected at most ${longestOfEvent} characters` : "expected an instant",
          });
          continue;
        }
        const [credential, number, facilityCode, id] = [text("credential"), text("number"), text("facilityCode"), text("id")];
        const reason = text("reason")?.slice(0, longestReason) ?? ownWords(row.cells, table.headers, made);
        yield {
          second: at.seconds,
          door: doorOf(text("door") ?? ""),
          granted: text("result") === "granted",
          ...(credential !== undefined && { credential }),
          ...(number !== undefined && { number }),
          ...(facilityCode !== undefined && { facilityCode }),
          ...(reason !== undefined && { reason }),
          ...(id !== undefined && { id }),
        };
      }
    }
  }
}
