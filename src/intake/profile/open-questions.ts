import type { ListKey } from "@/core/facility/document";
import { readHours } from "./hours";
import type { LookedAtColumn, LookedAtTable } from "./looked-at";
import { formatCivilDay, formatClock } from "@/core/time/civil-day";
import type { ReadMoment } from "./moments";
import { formsThatFit, readInForm } from "./moments";
import type { ReadSource } from "./read-source";
import { isTotals } from "./read-source";
import { itemsOfField, refined } from "./read-field";
import type { FieldSource, MomentFormName, SourceProfile, TableProfile } from "./source-profile";
import { cellColumn } from "./source-profile";
import type { TargetField } from "./target-fields";
import { targetTables } from "./target-fields";

interface OfField {
  readonly table: string;
  readonly makes: string;
  readonly field: string;
  readonly column: string;
}
interface CountedText {
  readonly text: string;
  readonly count: number;
}

/** What a profile leaves open for some tables: without an answer rows, or whole tables, are refused. */
export type Question =
  | { readonly kind: "table"; readonly table: string }
  | { readonly kind: "columns"; readonly table: string; readonly columns: readonly string[] }
  | { readonly kind: "gone"; readonly table: string; readonly column: string }
  | { readonly kind: "needs"; readonly table: string; readonly makes: string; readonly fields: readonly string[] }
  | ({ readonly kind: "values"; readonly values: readonly CountedText[] } & OfField)
  | ({ readonly kind: "marks"; readonly values: readonly CountedText[] } & Omit<OfField, "field">)
  | ({ readonly kind: "moments"; readonly fits: readonly FormReading[]; readonly texts: readonly string[] } & OfField)
  | ({ readonly kind: "midnight"; readonly texts: readonly string[] } & OfField)
  | ({ readonly kind: "backwards"; readonly texts: readonly string[] } & OfField)
  | { readonly kind: "names"; readonly list: ListKey; readonly names: readonly CountedText[] };

/** A form that fits, with what it makes of some of the column's own texts. */
export interface FormReading {
  readonly form: MomentFormName;
  readonly pivot?: number;
  readonly examples: readonly { readonly text: string; readonly reads: string }[];
}

const shownAtMost = 200;
const examplesShown = 3;
const usualPivot = 70;

function readingsOf(texts: readonly string[], said: number | undefined): FormReading[] {
  const four = formsThatFit(texts);
  const pivot = four.length > 0 ? undefined : (said ?? usualPivot);
  return (four.length > 0 ? four : formsThatFit(texts, pivot)).map((form) => ({
    form,
    ...(pivot !== undefined && { pivot }),
    examples: telling(texts, pivot).map((text) => ({ text, reads: shownMoment(readInForm(text, form, pivot)) })),
  }));
}

/** Texts first that two forms read differently: they show what the choice is about. */
function telling(texts: readonly string[], pivot: number | undefined): readonly string[] {
  const differs = (text: string): boolean => JSON.stringify(readInForm(text, "dmy", pivot)) !== JSON.stringify(readInForm(text, "mdy", pivot));
  return [...texts.filter(differs), ...texts.filter((text) => !differs(text))].slice(0, examplesShown);
}

function shownMoment(read: ReadMoment | undefined): string {
  if (!read) return "";
  if (read.kind === "instant") return read.text;
  return read.kind === "date" ? formatCivilDay(read.date) : `${formatCivilDay(read.date)} ${formatClock(read.minute)}`;
}

/** The values that a column has, or that the unfolded columns have together. */
function columnsOf(name: string, look: LookedAtTable, profile: TableProfile): readonly LookedAtColumn[] {
  if (name !== cellColumn) return look.columns.filter((column) => column.name === name);
  const unfolded = new Set(profile.unfold?.flatMap(({ columns }) => columns));
  return look.columns.filter((column) => unfolded.has(column.name));
}

/** Texts of a field after its parts were taken, with how often they come; of several columns the first alone. */
function textsOf(source: FieldSource, look: LookedAtTable, profile: TableProfile): CountedText[] {
  const [first] = source.columns ?? [];
  if (first === undefined) return [];
  const counts = new Map<string, number>();
  for (const column of columnsOf(first, look, profile)) {
    for (const { text, count } of column.values) {
      for (const item of itemsOfField([text], source)) {
        const read = refined(item, source);
        if (read !== undefined && read !== "") counts.set(read, (counts.get(read) ?? 0) + count);
      }
    }
  }
  return [...counts].map(([text, count]) => ({ text, count }));
}

function* ofMoments(of: OfField, target: TargetField, source: FieldSource, texts: readonly string[]): Generator<Question> {
  const { reads } = target;
  if (reads.kind !== "date" && reads.kind !== "moment" && reads.kind !== "instant") return;
  const { forms, pivot, never = [], midnight } = source.moment ?? { forms: ["iso" as const] };
  const moments = texts.filter((text) => !never.includes(text) && !(source.values && Object.hasOwn(source.values, text)));
  // Of a date and a time in two columns, what they are together is seen when rows are read.
  if ((source.columns ?? []).length > 1) return;
  const unread = moments.filter((text) => !forms.some((form) => readInForm(text, form, pivot)));
  if (unread.length > 0) {
    yield { kind: "moments", ...of, fits: readingsOf(unread, pivot), texts: unread.slice(0, shownAtMost) };
  }
  if (reads.kind !== "moment" || reads.side !== "until" || midnight !== undefined) return;
  const atMidnight = moments.filter((text) =>
    forms.some((form) => {
      const read = readInForm(text, form, pivot);
      return read?.kind === "local" && read.minute === 0;
    }),
  );
  if (atMidnight.length > 0) yield { kind: "midnight", ...of, texts: atMidnight.slice(0, shownAtMost) };
}

function* ofHours(of: OfField, target: TargetField, source: FieldSource, texts: readonly string[]): Generator<Question> {
  if (target.reads.kind !== "hours") return;
  const form = source.hours ?? {};
  const backwards = texts.filter((text) => "expected" in readHours(text, form) && !("expected" in readHours(text, { ...form, backwards: "overnight" })));
  if (backwards.length > 0) yield { kind: "backwards", ...of, texts: backwards.slice(0, shownAtMost) };
}

function* ofTable(look: LookedAtTable, profile: TableProfile): Generator<Question> {
  const { table } = look;
  if (profile.makes.length === 0) return;
  const used = new Set(profile.aside);
  if (profile.only) used.add(profile.only.column);
  for (const { columns } of profile.unfold ?? []) for (const column of columns) used.add(column);
  for (const { table: makes, fields, when } of profile.makes) {
    if (when) used.add(when.column);
    const target = targetTables.get(makes);
    for (const [name, source] of Object.entries(fields)) {
      for (const column of source.columns ?? []) used.add(column);
      const field = target?.fields.get(name);
      if (!field) continue;
      const of: OfField = { table, makes, field: name, column: (source.columns ?? []).join(", ") };
      const counted = textsOf(source, look, profile);
      const texts = counted.map(({ text }) => text);
      if (field.reads.kind === "closed" || field.reads.kind === "flag") {
        const known: readonly string[] = field.reads.kind === "closed" ? field.reads.values : ["true", "false"];
        const unknown = counted.filter(({ text }) => !known.includes(text) && !(source.values && Object.hasOwn(source.values, text)));
        if (unknown.length > 0) yield { kind: "values", ...of, values: unknown.slice(0, shownAtMost) };
      }
      yield* ofMoments(of, field, source, texts);
      yield* ofHours(of, field, source, texts);
    }
    if (when) {
      const values = columnsOf(when.column, look, profile).flatMap((column) => [
        ...column.values,
        ...(column.empty > 0 ? [{ text: "", count: column.empty }] : []),
      ]);
      const unknown = values.filter(({ text }) => !Object.hasOwn(when.values, text));
      if (unknown.length > 0) yield { kind: "marks", table, makes, column: when.column, values: unknown.slice(0, shownAtMost) };
    }
    const made = new Set(profile.makes.map((one) => one.table));
    for (const group of target?.needs ?? [])
      if (!group.some((name) => Object.hasOwn(fields, name) || isImplied(makes, name, made))) yield { kind: "needs", table, makes, fields: group };
  }
  const unsaid = look.columns.flatMap(({ name }) => (used.has(name) ? [] : [name]));
  if (unsaid.length > 0) yield { kind: "columns", table, columns: unsaid };
  const there = new Set(look.columns.map(({ name }) => name));
  for (const column of used) if (!there.has(column) && !column.startsWith("(")) yield { kind: "gone", table, column };
}

/** Whether a field is known by what else the row makes. */
function isImplied(makes: string, name: string, made: ReadonlySet<string>): boolean {
  const target = targetTables.get(makes);
  const reads = target?.fields.get(name)?.reads;
  if (reads?.kind !== "reference") return false;
  const isOwner = target?.bundle?.parts !== undefined && target.bundle.columns[0]?.name === name;
  if (!isOwner && name !== "cardholder" && name !== "site" && name !== "area") return false;
  return [...made].some((table) => table !== makes && targetTables.get(table)?.bundle?.list === reads.list && !targetTables.get(table)?.bundle?.parts);
}

/** Everything that a profile leaves open for the tables of a source, table by table. */
export function openQuestions(
  looks: readonly (LookedAtTable & { readonly isHidden: boolean })[],
  profile: SourceProfile,
  unknownNames: ReadSource["unknownNames"],
): Question[] {
  const questions: Question[] = [];
  for (const look of looks) {
    const said = profile.tables.find(({ name }) => name === look.table);
    if (look.columns.length === 0 || isTotals({ name: look.table, headers: look.columns.map(({ name }) => name) })) continue;
    if (said) questions.push(...ofTable(look, said));
    if (said ? said.makes.length === 0 && said.aside === undefined : !look.isHidden) questions.push({ kind: "table", table: look.table });
  }
  const byList = new Map<ListKey, Map<string, number>>();
  for (const { list, text } of unknownNames) {
    const names = byList.get(list) ?? new Map<string, number>();
    byList.set(list, names.set(text, (names.get(text) ?? 0) + 1));
  }
  for (const [list, names] of byList)
    questions.push({ kind: "names", list, names: [...names].slice(0, shownAtMost).map(([text, count]) => ({ text, count })) });
  return questions;
}
