import type { ListKey } from "@/core/facility/document";
import { conceptOf } from "./header-words";
import type { Known } from "./known-names";
import { folded } from "./known-names";
import { cellColumn, headingColumn } from "./source-profile";
import type { Column, TableSuggestion } from "./table-suggestion";
import { areMarks, numberedColumns } from "./table-suggestion";

const personName = (table: TableSuggestion, makes: string): void => {
  const first = table.column("firstName");
  // Where given names stand apart, a column that is only called a name is the family's.
  const last = table.column("lastName") ?? (first && table.column("name"));
  if (first && last) {
    table.used.add(first.name).add(last.name);
    table.set(makes, "name", { columns: [first.name, last.name] });
  } else {
    const column = table.take(makes, "name", ["name", "cardholder", "firstName", "lastName"]);
    const values = column?.values ?? [];
    const turned = values.length > 0 && values.filter(({ text }) => /^[^,]+,\s*[^,]+$/.test(text)).length > values.length * 0.9;
    if (column && turned) table.set(makes, "name", { columns: [column.name], turned: true });
  }
};

/** What one person is known by: numbers are, names only where there is nothing else. */
function personKey(table: TableSuggestion): string {
  const fields = table.fieldsOf("cardholders");
  return fields.id ? "id" : fields.staffNumber ? "staffNumber" : fields.email ? "email" : "name";
}

/** The card of a row, where it has a number. */
export function takeCard(table: TableSuggestion, hasPerson: boolean): void {
  const number = table.take("credentials", "number", ["cardNumber"]);
  const printed = table.take("credentials", "printedNumber", ["printedNumber"]);
  if (!number && !printed) return;
  table.take("credentials", "facilityCode", ["facilityCode"]);
  table.take("credentials", "kind", hasPerson ? ["cardKind", "kind"] : ["cardKind", "kind", "type"]);
  table.constant("credentials", "kind", "card");
  table.take("credentials", "status", hasPerson ? ["cardStatus"] : ["cardStatus", "status"]);
  table.take("credentials", "from", ["from"]);
  table.take("credentials", "until", ["until"]);
  table.take("credentials", "pin", ["pin"]);
  table.take("credentials", "issuedAt", ["issuedAt"]);
  table.take("credentials", "lastUse", ["lastUse"]);
  table.take("credentials", "firstUse", ["firstUse"]);
}

/** What columns give whoever has a mark in them: doors, levels, or membership of groups, by whichever are known by these names. */
function whatHeadingsGive(columns: readonly Column[], known: Known): readonly [table: string, field: string] {
  const areMostly = (names: ReadonlySet<string>): boolean => columns.filter(({ name }) => names.has(folded(name))).length > columns.length / 2;
  return areMostly(known.doors) ? ["grants", "door"] : areMostly(known.levels) ? ["grants", "level"] : ["memberships", "group"];
}

/** Memberships and grants of people who are known: one of a row, or of each column with a mark. */
export function suggestGiven(table: TableSuggestion, known: Known): void {
  const person = table.column("staffNumber", "cardholder", "name");
  if (!person) return;
  table.used.add(person.name);
  // Who it is, is said once; what else the table calls them is their own source's.
  table.leaveAside("name", "cardholder", "staffNumber");
  const [list, name]: readonly [string, string] = table.has("level") ? ["grants", "level"] : table.has("door") ? ["grants", "door"] : ["memberships", "group"];
  if (table.takeSeveral(list, name, ["level", "door", "group"])) {
    if (list === "grants") table.take(list, "schedule", ["schedule"]);
    table.take(list, "from", ["from"]);
    table.take(list, "until", ["until"]);
    table.set(list, "cardholder", { columns: [person.name] });
    return;
  }
  const rest = table.free().filter(({ concept }) => concept !== "note");
  const [target, of] = whatHeadingsGive(rest, known);
  const asMarks = areMarks(rest);
  if (rest.length === 0 || !(asMarks || of === "door")) return;
  table.unfoldAll(rest);
  table.set(target, "cardholder", { columns: [person.name] });
  table.set(target, of, { columns: [headingColumn] });
  if (asMarks) table.markedBy(target, rest);
  else table.set(target, "schedule", { columns: [cellColumn] });
}

/** People with what else their rows tell: cards, memberships, levels. Gives what they are known by. */
export function suggestPeople(table: TableSuggestion, known: Known): Partial<Record<ListKey, readonly string[]>> {
  table.takeId("cardholders", "cardholder");
  table.take("cardholders", "staffNumber", ["staffNumber"]);
  personName(table, "cardholders");
  table.take("cardholders", "email", ["email"]);
  table.take("cardholders", "department", ["department"]);
  table.take("cardholders", "company", ["company"]);
  table.take("cardholders", "manager", ["manager"]);
  table.take("cardholders", "sponsor", ["sponsor"]);
  table.take("cardholders", "type", ["type"]);
  takeCard(table, true);
  table.take("cardholders", "status", ["status"]);
  // A window is that of the card where there is one, of what is given where that alone is told.
  const windowOf = table.makes.has("credentials") ? undefined : table.has("level") ? "grants" : "cardholders";
  if (windowOf !== undefined) {
    table.take(windowOf, "from", ["from"]);
    table.take(windowOf, "until", ["until"]);
  }
  const numbered = numberedColumns(table.free(), ["group", "level"]);
  const [first] = numbered;
  if (first) {
    table.unfoldAll(numbered);
    const isGroup = conceptOf(first.name.replace(/[\s_#(]*\d{1,2}\)?$/, "")) === "group";
    table.set(isGroup ? "memberships" : "grants", isGroup ? "group" : "level", { columns: [cellColumn] });
  }
  table.takeSeveral("memberships", "group", ["group"]);
  if (table.unfold.length === 0) table.takeSeveral("grants", "level", ["level"]);
  const rest = table.free().filter(({ concept }) => concept === undefined || concept === "door" || concept === "group" || concept === "level");
  if (table.unfold.length === 0 && rest.length > 2 && areMarks(rest)) {
    table.unfoldAll(rest);
    const [list, target] = whatHeadingsGive(rest, known);
    table.set(list, target, { columns: [headingColumn] });
    table.markedBy(list, rest);
  }
  if (table.makes.has("cardholders")) {
    table.constant("cardholders", "status", "active");
    if (table.makes.has("credentials")) table.constant("credentials", "status", "active");
    return { cardholders: [personKey(table)] };
  }
  return {};
}
