import type { Concept, TableKind } from "./header-words";
import { kindByName } from "./header-words";
import type { Known, TableToSuggest } from "./known-names";
import { folded } from "./known-names";
import type { Column } from "./table-suggestion";
import { areMarks, weekdayColumns } from "./table-suggestion";

/** Whether a table speaks of people who are known already and says nothing else of them: it gives them something, and makes nobody. */
export function givesToKnown(table: string, columns: readonly Column[], known: Known): boolean {
  const has = (...concepts: readonly Concept[]): boolean => columns.some(({ concept }) => concept !== undefined && concepts.includes(concept));
  if (has("department", "email", "company", "status", "firstName", "lastName", "type", "cardNumber", "printedNumber", "manager", "pin")) return false;
  const key = columns.find(({ concept }) => concept === "staffNumber") ?? columns.find(({ concept }) => concept === "cardholder" || concept === "name");
  const values = key?.values ?? [];
  return values.length > 0 && values.filter(({ text }) => known.isPerson(text, table)).length >= values.length * 0.8;
}

/** What the rows of a table plainly are; undefined where that is not plain. */
export function kindOf(table: TableToSuggest, columns: readonly Column[], known: Known): TableKind | undefined {
  const has = (...concepts: readonly Concept[]): boolean => columns.some(({ concept }) => concept !== undefined && concepts.includes(concept));
  const named = kindByName(table.look.table);
  const isPerson = has("firstName", "lastName", "staffNumber", "email", "cardholder");
  if (has("at", "date") && has("door") && has("result")) return "events";
  if (named === "sites" || named === "areas" || named === "doors" || named === "calendar") return named;
  if (weekdayColumns(columns).length > 0 || (has("weekday") && has("start", "hours"))) return "schedules";
  if (has("cardNumber", "printedNumber") && (isPerson || has("name")) && named !== "cards") return "people";
  if (named === "cards" || (has("cardNumber") && !has("name"))) return isPerson && has("department", "email", "firstName", "lastName") ? "people" : "cards";
  if (named) return named === "memberships" && !has("cardholder", "staffNumber", "email", "name") ? "groups" : named;
  if (has("level") && has("door") && !isPerson) return "levelRows";
  if (isPerson || has("department")) return has("group") && !has("name", "firstName", "department") ? "memberships" : "people";
  const rest = columns.filter(({ concept }) => concept === undefined);
  const headingsAreDoors = rest.filter(({ name }) => known.doors.has(folded(name))).length > rest.length / 2;
  if (has("level") && headingsAreDoors) return "levelRows";
  if (rest.length > 2 && areMarks(rest)) return headingsAreDoors && has("level") ? "levelRows" : "people";
  if (has("door") && has("area", "site", "controller")) return "doors";
  if (has("name")) return "people";
  return undefined;
}
