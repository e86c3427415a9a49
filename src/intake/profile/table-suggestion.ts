import type { Concept } from "./header-words";
import { conceptOf, isIdOf } from "./header-words";
import type { LookedAtColumn } from "./looked-at";
import { weekdayNamed } from "./month-names";
import { markMeaning } from "./plain-values";
import type { Condition, FieldSource, UnfoldedColumns } from "./source-profile";
import { cellColumn } from "./source-profile";
import { separatorIn, suggestSource } from "./suggest-field";
import type { TargetField } from "./target-fields";
import { targetTables } from "./target-fields";

/** A column with what it plainly is. */
export interface Column extends LookedAtColumn {
  readonly concept: Concept | undefined;
}

export const field = (table: string, name: string): TargetField | undefined => targetTables.get(table)?.fields.get(name);

/** Puts together what one table makes. */
export class TableSuggestion {
  readonly makes = new Map<string, { when?: Condition; fields: Record<string, FieldSource> }>();
  readonly used = new Set<string>();
  readonly unfold: UnfoldedColumns[] = [];
  readonly aside: string[] = [];
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
  /** The columns of which nothing is said yet. */
  free(): Column[] {
    return this.columns.filter((column) => !this.used.has(column.name));
  }
  /** Turns columns into rows, each under its own heading. */
  unfoldAll(columns: readonly Column[]): void {
    for (const { name } of columns) {
      this.unfold.push({ heading: name, columns: [name] });
      this.used.add(name);
    }
  }
  /** Leaves the free columns of some concepts aside. */
  leaveAside(...concepts: readonly Concept[]): void {
    for (const { name, concept } of this.free())
      if (concept !== undefined && concepts.includes(concept)) {
        this.used.add(name);
        this.aside.push(name);
      }
  }
  /** Takes a field of which a cell may have several. */
  takeSeveral(table: string, name: string, concepts: readonly Concept[]): Column | undefined {
    const split = separatorIn(this.column(...concepts)?.values.map(({ text }) => text) ?? []);
    return this.take(table, name, concepts, split === undefined ? {} : { split });
  }
  /** The id of what a table holds: a column called so, or called as the id of that. */
  takeId(list: string, concept: Concept): void {
    if (this.take(list, "id", ["id"])) return;
    const column = this.free().find(({ name, concept: plain }) => plain !== "staffNumber" && isIdOf(name, concept));
    if (!column) return;
    this.used.add(column.name);
    this.set(list, "id", { columns: [column.name] });
  }
  /** Of unfolded columns with marks, which of these make a row. */
  markedBy(list: string, columns: readonly LookedAtColumn[]): void {
    const made = this.makes.get(list);
    if (made) made.when = marksOf(columns);
  }
}

const marksOf = (columns: readonly LookedAtColumn[]): Condition => {
  const values: Record<string, boolean> = { "": false };
  for (const { values: found } of columns) for (const { text } of found) values[text] = markMeaning(text) ?? false;
  return { column: cellColumn, values };
};

/** Whether columns have nothing but marks, crosses and the like. */
export const areMarks = (columns: readonly LookedAtColumn[]): boolean =>
  columns.length > 0 &&
  columns.some(({ values }) => values.length > 0) &&
  columns.every(({ values, hasMore }) => !hasMore && values.length <= 4 && values.every(({ text }) => markMeaning(text) !== undefined));

/** Columns that belong to weekdays, by the first word of their headings; those of one day under one heading. */
export function weekdayColumns(columns: readonly Column[]): UnfoldedColumns[] {
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
export function numberedColumns(columns: readonly Column[], concepts: readonly Concept[]): Column[] {
  const stem = (name: string): string => name.replace(/[\s_#(]*\d{1,2}\)?$/, "");
  for (const { name } of columns) {
    const concept = conceptOf(stem(name));
    const same = columns.filter((other) => stem(other.name) === stem(name));
    if (concept !== undefined && concepts.includes(concept) && same.length > 1) return same;
  }
  return [];
}
