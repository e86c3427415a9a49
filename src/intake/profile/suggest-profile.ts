import type { Facility } from "@/core/facility/facility";
import type { ListKey } from "@/core/facility/document";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import type { Concept, TableKind } from "./header-words";
import { conceptOf, isIdOf, kindByName, plainHeading } from "./header-words";
import type { LookedAtColumn, LookedAtTable } from "./looked-at";
import { weekdayNamed } from "./month-names";
import { markMeaning } from "./plain-values";
import type { Condition, FieldSource, MadeObject, SourceProfile, TableProfile, UnfoldedColumns } from "./source-profile";
import { cellColumn, headingColumn } from "./source-profile";
import { isTotals } from "./read-source";
import { holdsHours, separatorIn, suggestSource } from "./suggest-field";
import type { TargetField } from "./target-fields";
import { targetTables } from "./target-fields";

export interface TableToSuggest {
  readonly table: SourceTable;
  readonly look: LookedAtTable;
}

/** What is known by name already: in the register, and in the other tables of the source. */
interface Known extends Readonly<Record<"doors" | "groups" | "levels" | "areas" | "schedules", ReadonlySet<string>>> {
  /** Whether somebody is known by a number, a name or an address, from elsewhere than a table itself. */
  readonly isPerson: (text: string, exceptIn: string) => boolean;
}

const folded = (text: string): string => text.trim().replace(/\s+/g, " ").toLowerCase();

function knownNames(tables: readonly TableToSuggest[], present: Facility | undefined): Known {
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

/** A column with what it plainly is. */
interface Column extends LookedAtColumn {
  readonly concept: Concept | undefined;
}

const field = (table: string, name: string): TargetField | undefined => targetTables.get(table)?.fields.get(name);

/** Puts together what one table makes. */
class TableSuggestion {
  readonly makes = new Map<string, { when?: Condition; fields: Record<string, FieldSource> }>();
  readonly used = new Set<string>();
  constructor(readonly columns: readonly Column[]) {}

  column(...concepts: readonly Concept[]): Column | undefined {
    for (const concept of concepts) {
      const found = this.columns.find((column) => column.concept === concept && !this.used.has(column.name));
      if (found) return found;
    }
    return undefined;
  }
  has(...concepts: readonly Concept[]): boolean {
    return this.column(...concepts) !== undefined;
  }
  fieldsOf(table: string): Record<string, FieldSource> {
    const known = this.makes.get(table) ?? { fields: {} };
    this.makes.set(table, known);
    return known.fields;
  }
  /** Takes a field from the first column of these concepts that is free. */
  take(table: string, name: string, concepts: readonly Concept[], extra: FieldSource = {}): Column | undefined {
    const column = this.column(...concepts);
    const target = field(table, name);
    if (!column || !target) return undefined;
    this.used.add(column.name);
    this.fieldsOf(table)[name] = suggestSource(table, target, [column], extra);
    return column;
  }
  /** A date in one column and its time in another. */
  takeMoment(table: string, name: string, concepts: readonly Concept[]): void {
    if (this.take(table, name, concepts)) return;
    const [date, time] = [this.column("date"), this.column("time")];
    const target = field(table, name);
    if (!target || !date) return;
    const columns = time ? [date, time] : [date];
    for (const column of columns) this.used.add(column.name);
    this.fieldsOf(table)[name] = suggestSource(table, target, columns);
  }
  set(table: string, name: string, source: FieldSource): void {
    this.fieldsOf(table)[name] = source;
  }
  constant(table: string, name: string, constant: string): void {
    if (this.makes.has(table)) this.fieldsOf(table)[name] ??= { constant };
  }
}

const marksOf = (columns: readonly LookedAtColumn[]): Condition => {
  const values: Record<string, boolean> = { "": false };
  for (const { values: found } of columns) for (const { text } of found) values[text] = markMeaning(text) ?? false;
  return { column: cellColumn, values };
};

const areMarks = (columns: readonly LookedAtColumn[]): boolean =>
  columns.length > 0 &&
  columns.some(({ values }) => values.length > 0) &&
  columns.every(({ values, hasMore }) => !hasMore && values.length <= 4 && values.every(({ text }) => markMeaning(text) !== undefined));

/** Columns that belong to weekdays, by the first word of their headings; those of one day under one heading. */
function weekdayColumns(columns: readonly Column[]): UnfoldedColumns[] {
  const byDay = new Map<number, string[]>();
  const headings = new Map<number, string>();
  for (const { name } of columns) {
    const [word = ""] = name.split(/[\s_.:/-]+/);
    const day = weekdayNamed(word);
    if (day === undefined) continue;
    byDay.set(day, [...(byDay.get(day) ?? []), name]);
    headings.set(day, headings.get(day) ?? word);
  }
  if (byDay.size < 5) return [];
  return [...byDay].map(([day, names]) => ({ heading: headings.get(day) ?? "", columns: names }));
}

/** Columns of one heading with numbers behind it: `Group 1`, `Group 2`. */
function numberedColumns(columns: readonly Column[], concepts: readonly Concept[]): Column[] {
  const stem = (name: string): string => name.replace(/[\s_#(]*\d{1,2}\)?$/, "");
  for (const { name } of columns) {
    const concept = conceptOf(stem(name));
    const same = columns.filter((other) => stem(other.name) === stem(name));
    if (concept !== undefined && concepts.includes(concept) && same.length > 1) return same;
  }
  return [];
}

/** Whether a table speaks of people who are known already and says nothing else of them: it gives them something, and makes nobody. */
function givesToKnown(table: string, columns: readonly Column[], known: Known): boolean {
  const has = (...concepts: readonly Concept[]): boolean => columns.some(({ concept }) => concept !== undefined && concepts.includes(concept));
  if (has("department", "email", "company", "status", "firstName", "lastName", "type", "cardNumber", "printedNumber", "manager", "pin")) return false;
  const key = columns.find(({ concept }) => concept === "staffNumber") ?? columns.find(({ concept }) => concept === "cardholder" || concept === "name");
  const values = key?.values ?? [];
  return values.length > 0 && values.filter(({ text }) => known.isPerson(text, table)).length >= values.length * 0.8;
}

function kindOf(table: TableToSuggest, columns: readonly Column[], known: Known): TableKind | undefined {
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

/** The id of what a table holds: a column called so, or called as the id of that. */
function takeId(table: TableSuggestion, list: string, concept: Concept): void {
  if (table.take(list, "id", ["id"])) return;
  const column = table.columns.find(({ name, concept: plain }) => plain !== "staffNumber" && !table.used.has(name) && isIdOf(name, concept));
  if (!column) return;
  table.used.add(column.name);
  table.set(list, "id", { columns: [column.name] });
}

/** What one person is known by: numbers are, names only where there is nothing else. */
function personKey(table: TableSuggestion): string {
  const fields = table.fieldsOf("cardholders");
  return fields.id ? "id" : fields.staffNumber ? "staffNumber" : fields.email ? "email" : "name";
}

function takeCard(table: TableSuggestion, hasPerson: boolean): void {
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

/** Memberships and grants of people who are known: one of a row, or of each column with a mark. */
function suggestGiven(table: TableSuggestion, free: () => Column[], unfoldAll: (of: readonly Column[]) => void, known: Known, aside: string[]): void {
  const person = table.column("staffNumber", "cardholder", "name");
  if (!person) return;
  table.used.add(person.name);
  // Who it is, is said once; what else the table calls them is their own source's.
  for (const { name, concept } of free())
    if (concept === "name" || concept === "cardholder" || concept === "staffNumber") {
      table.used.add(name);
      aside.push(name);
    }
  const [list, field]: readonly [string, string] = table.has("level") ? ["grants", "level"] : table.has("door") ? ["grants", "door"] : ["memberships", "group"];
  const given = table.column("level", "door", "group");
  if (given) {
    const split = separatorIn(given.values.map(({ text }) => text));
    table.take(list, field, ["level", "door", "group"], split === undefined ? {} : { split });
    table.take(list, "schedule", list === "grants" ? ["schedule"] : []);
    table.take(list, "from", ["from"]);
    table.take(list, "until", ["until"]);
    table.set(list, "cardholder", { columns: [person.name] });
    return;
  }
  const rest = free().filter(({ concept }) => concept !== "name" && concept !== "note");
  const areDoors = rest.filter((column) => known.doors.has(folded(column.name))).length > rest.length / 2;
  const areLevels = rest.filter((column) => known.levels.has(folded(column.name))).length > rest.length / 2;
  const [target, of]: readonly [string, string] = areDoors ? ["grants", "door"] : areLevels ? ["grants", "level"] : ["memberships", "group"];
  const asMarks = areMarks(rest);
  if (rest.length === 0 || !(asMarks || areDoors)) return;
  unfoldAll(rest);
  table.set(target, "cardholder", { columns: [person.name] });
  table.set(target, of, { columns: [headingColumn] });
  if (!asMarks) table.set(target, "schedule", { columns: [cellColumn] });
  const made = table.makes.get(target);
  if (made && asMarks) made.when = marksOf(rest);
}

interface Suggested {
  readonly profile: TableProfile;
  readonly keys: Partial<Record<ListKey, readonly string[]>>;
}

function suggestTable(one: TableToSuggest, known: Known, present: Facility | undefined): Suggested {
  const columns = one.look.columns.map((column): Column => ({ ...column, concept: conceptOf(column.name) }));
  const { name, headers, form, isSheet } = one.table;
  const base = {
    name,
    headers,
    text: isSheet
      ? { skip: form.skip, header: form.header }
      : form.encoding === "utf-8" && form.skip === 0 && form.header
        ? undefined
        : { encoding: form.encoding, delimiter: form.delimiter, skip: form.skip, header: form.header },
  };
  const table = new TableSuggestion(columns);
  const keys: Partial<Record<ListKey, readonly string[]>> = {};
  const unfold: UnfoldedColumns[] = [];
  const aside: string[] = [];
  const kind = kindOf(one, columns, known);
  const free = (): Column[] => columns.filter((column) => !table.used.has(column.name));
  const unfoldAll = (of: readonly Column[]): void => {
    for (const column of of) {
      unfold.push({ heading: column.name, columns: [column.name] });
      table.used.add(column.name);
    }
  };
  const onlySite = present?.sites.length === 1 ? present.sites[0]?.id : undefined;
  const takeSite = (list: string): void => {
    if (!table.take(list, "site", ["site"]) && onlySite !== undefined) table.set(list, "site", { constant: onlySite });
  };
  switch (kind) {
    case "people": {
      const isAboutKnown = givesToKnown(one.look.table, columns, known);
      if (isAboutKnown) {
        suggestGiven(table, free, unfoldAll, known, aside);
        break;
      }
      takeId(table, "cardholders", "cardholder");
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
      const numbered = numberedColumns(free(), ["group", "level"]);
      const [first] = numbered;
      if (first) {
        unfoldAll(numbered);
        const isGroup = conceptOf(first.name.replace(/[\s_#(]*\d{1,2}\)?$/, "")) === "group";
        table.set(isGroup ? "memberships" : "grants", isGroup ? "group" : "level", { columns: [cellColumn] });
      }
      const group = table.column("group");
      if (group) {
        const split = separatorIn(group.values.map(({ text }) => text));
        table.take("memberships", "group", ["group"], split === undefined ? {} : { split });
      }
      const level = table.column("level");
      if (level && unfold.length === 0) {
        const split = separatorIn(level.values.map(({ text }) => text));
        table.take("grants", "level", ["level"], split === undefined ? {} : { split });
      }
      const rest = free().filter(({ concept }) => concept === undefined || concept === "door" || concept === "group" || concept === "level");
      const areDoors = rest.length > 0 && rest.filter((column) => known.doors.has(folded(column.name))).length > rest.length / 2;
      const areLevels = rest.length > 0 && rest.filter((column) => known.levels.has(folded(column.name))).length > rest.length / 2;
      if (unfold.length === 0 && rest.length > 2 && areMarks(rest)) {
        unfoldAll(rest);
        const [list, target] = areDoors ? ["grants", "door"] : areLevels ? ["grants", "level"] : ["memberships", "group"];
        table.set(list, target, { columns: [headingColumn] });
        const made = table.makes.get(list);
        if (made) made.when = marksOf(rest);
      }
      if (table.makes.has("cardholders")) {
        table.constant("cardholders", "status", "active");
        if (table.makes.has("credentials")) table.constant("credentials", "status", "active");
        keys.cardholders = [personKey(table)];
      }
      break;
    }
    case "cards":
      table.take("credentials", "cardholder", ["cardholder", "staffNumber", "email", "name"]);
      table.take("credentials", "id", ["id", "credential"]);
      takeCard(table, false);
      if (table.makes.has("credentials")) {
        table.constant("credentials", "kind", "card");
        table.constant("credentials", "status", "active");
      }
      break;
    case "groups":
      takeId(table, "groups", "group");
      table.take("groups", "name", ["name", "group", "department"]);
      table.take("groups", "kind", ["kind", "type"]);
      table.take("groups", "parent", ["parent"]);
      table.take("groups", "manager", ["manager"]);
      break;
    case "memberships":
      table.take("memberships", "group", ["group", "department", "level"]);
      table.take("memberships", "cardholder", ["cardholder", "staffNumber", "email", "id", "name"]);
      table.take("memberships", "from", ["from"]);
      table.take("memberships", "until", ["until"]);
      break;
    case "levels":
    case "levelRows": {
      const level = table.column("level", "name");
      const source = level ?? columns.find(({ values }) => values.length > 0);
      if (source) {
        table.used.add(source.name);
        table.set("levels", "name", { columns: [source.name] });
      }
      takeId(table, "levels", "level");
      table.take("level-rows", "door", ["door"]);
      table.take("level-rows", "schedule", ["schedule"]);
      if (!table.makes.has("level-rows")) {
        const rest = free().filter(({ concept }) => concept !== "note");
        const asMarks = areMarks(rest);
        if (rest.length > 0) {
          unfoldAll(rest);
          table.set("level-rows", "door", { columns: [headingColumn] });
          if (!asMarks) table.set("level-rows", "schedule", { columns: [cellColumn] });
          const made = table.makes.get("level-rows");
          if (made && asMarks) made.when = marksOf(rest);
          else if (made) {
            const none = rest.flatMap(({ values }) => values.map(({ text }) => text)).filter((text) => markMeaning(text) === false);
            if (none.length > 0) made.fields.schedule = { columns: [cellColumn], values: Object.fromEntries(none.map((text) => [text, null])) };
          }
        }
      }
      break;
    }
    case "schedules": {
      const nameColumn = table.column("schedule", "name") ?? columns.find(({ values }) => values.length > 0);
      if (nameColumn) {
        table.used.add(nameColumn.name);
        table.set("schedules", "name", { columns: [nameColumn.name] });
      }
      takeId(table, "schedules", "schedule");
      const days = weekdayColumns(free());
      if (days.length > 0) {
        unfold.push(...days);
        const texts = columns.filter((column) => days.some((day) => day.columns.includes(column.name)));
        for (const column of texts) table.used.add(column.name);
        const target = field("schedule-hours", "hours");
        table.set("schedule-hours", "weekday", { columns: [headingColumn] });
        const all = texts.flatMap(({ values }) => values);
        if (target)
          table.set(
            "schedule-hours",
            "hours",
            suggestSource("schedule-hours", target, [{ name: cellColumn, empty: 0, values: all, hasMore: false, isSecret: false }]),
          );
        table.take("schedules", "from", ["from"]);
        table.take("schedules", "until", ["until"]);
      } else {
        table.take("schedule-hours", "weekday", ["weekday"]);
        table.take("schedule-hours", "dayType", ["dayType"]);
        const hours = table.column("hours");
        if (hours && holdsHours(hours.values.map(({ text }) => text))) table.take("schedule-hours", "hours", ["hours"]);
        table.take("schedule-hours", "start", ["start", "from"]);
        table.take("schedule-hours", "end", ["end", "until"]);
      }
      break;
    }
    case "doors":
      takeId(table, "doors", "door");
      table.take("doors", "name", ["name", "door"]);
      takeSite("doors");
      table.take("doors", "area", ["area"]);
      table.take("doors", "kind", ["kind", "type"]);
      table.take("doors", "controller", ["controller"]);
      break;
    case "areas":
      takeId(table, "areas", "area");
      table.take("areas", "name", ["name", "area"]);
      takeSite("areas");
      table.take("areas", "parent", ["parent"]);
      table.take("areas", "sensitivity", ["sensitivity"]);
      break;
    case "sites":
      takeId(table, "sites", "site");
      table.take("sites", "name", ["name", "site"]);
      if (!table.take("sites", "timeZone", ["timeZone"]) && present) table.constant("sites", "timeZone", present.timeZone);
      break;
    case "grants":
      table.take("grants", "cardholder", ["cardholder", "staffNumber", "email"]);
      if (!table.has("cardholder")) table.take("grants", "group", ["group"]);
      table.take("grants", "level", ["level"]);
      table.take("grants", "door", ["door"]);
      table.take("grants", "schedule", ["schedule"]);
      table.take("grants", "from", ["from"]);
      table.take("grants", "until", ["until"]);
      break;
    case "events":
      table.takeMoment("events", "at", ["at"]);
      table.take("events", "door", ["door"]);
      table.take("events", "result", ["result"]);
      table.take("events", "number", ["cardNumber"]);
      table.take("events", "facilityCode", ["facilityCode"]);
      table.take("events", "credential", ["credential"]);
      table.take("events", "reason", ["reason"]);
      table.take("events", "id", ["eventId", "id"]);
      // An event is of a card; whose it was then, the register of that time knows.
      aside.push(
        ...free().flatMap(({ name: column, concept }) =>
          concept === "cardholder" || concept === "name" || concept === "firstName" || concept === "lastName" ? [column] : [],
        ),
      );
      break;
    case "calendar":
    case undefined:
      break;
  }
  const makes = [...table.makes].map(([list, { when, fields }]): MadeObject => ({ table: list, ...(when && { when }), fields }));
  const { text, ...rest } = base;
  return { profile: { ...rest, ...(text && { text }), ...(unfold.length > 0 && { unfold }), ...(aside.length > 0 && { aside }), makes }, keys };
}

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
