import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { SourceRow } from "@/intake/formats/tables/source-table";
import type { FieldValue, ReadField, ReadingContext } from "./read-field";
import { intervalOfTwo, isNamed, readField } from "./read-field";
import type { Condition, FieldSource, MadeObject, TableProfile } from "./source-profile";
import { cellColumn, headingColumn } from "./source-profile";
import type { TargetField, TargetTable } from "./target-fields";
import { tableOfList, targetTables } from "./target-fields";

/** An object of the same row that another belongs to. */
export interface OfRow {
  readonly made: MadeRow;
}

export const isOfRow = (value: unknown): value is OfRow => typeof value === "object" && value !== null && "made" in value;

/** A value in short, for people. */
export function shownValue(value: FieldValue | OfRow): string {
  if (value === null) return "none";
  if (isOfRow(value)) return "of this row";
  if (isNamed(value)) return value.text;
  if (typeof value !== "object") return String(value);
  return value.map((item) => (isNamed(item) ? item.text : item)).join("; ");
}

/** An object, or a part of one, as a row makes it: by the names of the table's columns. */
export interface MadeRow {
  readonly target: TargetTable;
  readonly values: Readonly<Record<string, FieldValue | OfRow>>;
  readonly file: string;
  readonly line: number;
  /** By field the column of the source that it came from. */
  readonly columns: Readonly<Record<string, string>>;
}

export type RowOutcome =
  | { readonly kind: "made"; readonly made: readonly MadeRow[] }
  | { readonly kind: "refused"; readonly refused: readonly RefusedRow[] }
  /** The profile says that rows like this are not read. */
  | { readonly kind: "aside" };

interface Field {
  readonly target: TargetField;
  readonly source: FieldSource;
  readonly places: readonly Place[];
  readonly column: string;
}

type Place = number | typeof headingColumn | typeof cellColumn;

interface Maker {
  readonly target: TargetTable;
  readonly when: { readonly place: Place; readonly condition: Condition } | undefined;
  readonly fields: readonly Field[];
  /** Fields that are known by what else the row makes. */
  readonly implied: readonly { readonly field: string; readonly table: string }[];
  /** Places that no other maker reads: where all of these are empty, the row has no such object. */
  readonly own: readonly Place[];
  readonly unfolds: boolean;
}

/** References that go to what the same row makes, where the profile does not say otherwise. */
const impliedNames = new Set(["cardholder", "site", "area"]);

function impliedFields({ target }: { readonly target: TargetTable }, mapped: ReadonlySet<string>, made: ReadonlySet<string>): Maker["implied"] {
  const owner = target.bundle?.parts ? target.bundle.columns[0]?.name : undefined;
  // A grant has one receiver, and a level's row one target.
  const isTaken = (name: string): boolean => target.needs.some((group) => group.includes(name) && group.length > 1 && group.some((one) => mapped.has(one)));
  return [...target.fields.values()].flatMap(({ name, reads }) => {
    if (reads.kind !== "reference" || mapped.has(name) || !(name === owner || impliedNames.has(name)) || isTaken(name)) return [];
    const table = tableOfList(reads.list);
    // An object does not belong to itself.
    return made.has(table) && table !== target.table ? [{ field: name, table }] : [];
  });
}

const wholeTable = (file: string, column: string, value: string, reason: string): RefusedRow => ({ file, line: 1, column, value, reason, whole: true });

export interface RowMaker {
  /** What of the profile does not fit the table: without these its rows can be read. */
  readonly problems: readonly RefusedRow[];
  /** What the profile does not say, without which none of its rows can be read. */
  readonly missing: readonly RefusedRow[];
  readonly make: (row: SourceRow) => RowOutcome;
  /** By field, such as `cardholders.until`, how often so far its value is not what stands in the cell. */
  readonly changed: ReadonlyMap<string, number>;
}

const comparableText = (value: FieldValue): string => (isNamed(value) ? value.text : typeof value === "object" ? JSON.stringify(value) : String(value));

/** What others belong to is made before them. */
function placeInRow({ bundle }: TargetTable): number {
  if (bundle?.parts) return 3;
  return bundle?.list === "memberships" || bundle?.list === "grants" ? 2 : bundle?.list === "credentials" || bundle?.list === "doors" ? 1 : 0;
}

const readingsKept = 20_000;
const longestKept = 200;
/** One row makes no more objects of a kind: a cell of many parts beside another must not fill the memory. */
const mostOfRow = 10_000;

/** Columns that may hold PINs by what they are called: they are not quoted. */
const mayHoldPin = /\bpins?\b|pincode/i;

/**
 * Makes of the rows of a table what its profile says. A cell that cannot be read refuses its whole row, with every such cell of it named; a header that the
 * profile does not account for, or misses, refuses the table.
 */
export function rowMaker(file: string, headers: readonly string[], profile: TableProfile, context: ReadingContext): RowMaker {
  const problems: RefusedRow[] = [];
  const missing: RefusedRow[] = [];
  const places = new Map<string, Place>(headers.map((header, at) => [header, at]));
  const used = new Set<string>(profile.aside);
  const unfolded = (profile.unfold ?? []).map(({ heading, columns }) => ({ heading, places: columns.map((column) => placeOf(column)) }));
  if (unfolded.length > 0) {
    places.set(headingColumn, headingColumn);
    places.set(cellColumn, cellColumn);
  }
  function placeOf(column: string): Place {
    used.add(column);
    const place = places.get(column);
    if (place === undefined) {
      problems.push(wholeTable(file, column, column, `the profile reads this column, and the table has it no more; it has ${headers.join(", ")}`));
      return 0;
    }
    return place;
  }
  const conditionOf = (condition: Condition | undefined): Maker["when"] => condition && { place: placeOf(condition.column), condition };

  const changed = new Map<string, number>();
  /** A value that is not the text of its cell; of a PIN, whose tag never is, only that there is none. */
  const noteChange = (
    table: string,
    { target: { name, reads } }: Field,
    texts: readonly string[],
    entries: readonly Readonly<Record<string, FieldValue>>[],
  ): void => {
    const [entry] = entries;
    if (!entry || texts.length === 0) return;
    const value = reads.kind === "pin" ? entry.pinTag : (entry[name] ?? entry.start);
    const isAsItIs = value === undefined ? texts.every((text) => text.trim() === "") : comparableText(value) === texts.map((text) => text.trim()).join(" ");
    if (reads.kind === "pin" ? value !== null : isAsItIs || (value === null && texts.every((text) => text.trim() === ""))) return;
    changed.set(`${table}.${name}`, (changed.get(`${table}.${name}`) ?? 0) + 1);
  };
  /** Values come again and again: each is read once, as long as there are not too many. */
  const known = new Map<Field, Map<string, ReadField>>();
  const readOnce = (field: Field, texts: readonly string[], blocks: boolean): ReadField => {
    const key = texts.length === 1 && !blocks ? (texts[0] ?? "") : JSON.stringify([blocks, ...texts]);
    const ofField = known.get(field) ?? new Map<string, ReadField>();
    if (ofField.size === 0 || ofField.size >= readingsKept) known.set(field, ofField.size === 0 ? ofField : new Map<string, ReadField>());
    const before = ofField.get(key);
    if (before) return before;
    const read = readField(texts, field.source, field.target, blocks, context);
    if (key.length <= longestKept) ofField.set(key, read);
    return read;
  };
  const madeTables = new Set(profile.makes.map(({ table }) => table));
  const readBy = new Map<Place, number>();
  const makers = profile.makes.flatMap(({ table, when, fields }: MadeObject): Omit<Maker, "own">[] => {
    const target = targetTables.get(table);
    if (!target) {
      problems.push(wholeTable(file, "", table, `the profile makes rows of a table that there is not; expected ${[...targetTables.keys()].join(", ")}`));
      return [];
    }
    const read = Object.entries(fields).flatMap(([name, source]): Field[] => {
      const field = target.fields.get(name);
      if (!field)
        problems.push(
          wholeTable(file, name, `${table}.${name}`, `the profile reads a field that there is not; expected ${[...target.fields.keys()].join(", ")}`),
        );
      return field ? [{ target: field, source, places: (source.columns ?? []).map(placeOf), column: (source.columns ?? []).join(", ") }] : [];
    });
    const condition = conditionOf(when);
    const mapped = new Set(read.map(({ target: { name } }) => name));
    const implied = impliedFields({ target }, mapped, madeTables);
    const has = (name: string): boolean => mapped.has(name) || implied.some(({ field }) => field === name) || (name === "weekday" && mapped.has("dayType"));
    for (const group of target.needs)
      if (!group.some(has))
        missing.push(
          wholeTable(file, "", table, `the profile does not say where ${group.join(" or ")} of ${table} comes from; expected a column or a constant`),
        );
    const all = [...read.flatMap((field) => field.places), ...(condition ? [condition.place] : [])];
    for (const place of new Set(all)) readBy.set(place, (readBy.get(place) ?? 0) + 1);
    const unfolds = all.some((place) => typeof place === "string");
    // What shuts is read first: on it depends how moments are read.
    return [
      { target, when: condition, fields: read.sort((a, b) => Number(b.target.name === "effect") - Number(a.target.name === "effect")), implied, unfolds },
    ];
  });
  const only = conditionOf(profile.only);
  for (const header of headers)
    if (!used.has(header)) problems.push(wholeTable(file, header, header, "the profile says nothing of this column; expected it read, or left aside"));

  const sorted: Maker[] = makers
    .map((maker) => ({ ...maker, own: [...new Set(maker.fields.flatMap((field) => field.places))].filter((place) => readBy.get(place) === 1) }))
    .sort((a, b) => placeInRow(a.target) - placeInRow(b.target));

  function make({ line, cells }: SourceRow): RowOutcome {
    const refused: RefusedRow[] = [];
    const refuse = (column: string, value: string, reason: string): void =>
      void refused.push({ file, line, column, value: mayHoldPin.test(column) ? "" : value.slice(0, 80), reason });
    const made: MadeRow[] = [];
    const cellAt = (place: Place, heading: string, cell: string): string =>
      place === headingColumn ? heading : place === cellColumn ? cell : typeof place === "number" ? (cells[place] ?? "") : "";
    const holds = ({ place, condition: { column, values } }: NonNullable<Maker["when"]>, heading: string, cell: string): boolean | undefined => {
      const text = cellAt(place, heading, cell).trim();
      const value = Object.hasOwn(values, text) ? values[text] : undefined;
      if (value === undefined)
        refuse(column === cellColumn ? heading : column, text, "the profile does not say what this value means; expected one that it names");
      return value;
    };
    if (only && holds(only, "", "") === false) return { kind: "aside" };

    const madeInRow = new Map<string, MadeRow[]>();
    const run = (maker: Maker, heading: string, cell: string): void => {
      const { target, when, fields, implied, own } = maker;
      if (maker.unfolds && !when && cell === "" && maker.fields.some((field) => field.places.includes(cellColumn))) return;
      if (when && holds(when, heading, cell) !== true) return;
      if (own.length > 0 && own.every((place) => cellAt(place, heading, cell).trim() === "")) return;
      let objects: Record<string, FieldValue | OfRow>[] = [{}];
      const from: Record<string, string> = {};
      const unread = new Set<string>();
      const clocks: Record<string, { text: string; field: Field }> = {};
      for (const field of fields) {
        const { target: column } = field;
        const blocks = target.table === "grants" && objects[0]?.effect === "block";
        const texts = field.places.map((place) => cellAt(place, heading, cell));
        const read = readOnce(field, texts, blocks);
        const told = field.places.includes(cellColumn) ? heading : field.column;
        if ("expected" in read) {
          refuse(told, read.value, `expected ${read.expected}`);
          unread.add(column.name);
          continue;
        }
        from[column.name] = told;
        noteChange(target.table, field, texts, read.entries);
        const [single] = read.entries;
        if (column.reads.kind === "clock" && single) clocks[column.name] = { text: comparableText(single[column.name] ?? ""), field };
        if (objects.length * read.entries.length > mostOfRow) {
          refuse(
            told,
            "",
            `it would make ${(objects.length * read.entries.length).toLocaleString("en-GB")} of ${target.table}; expected at most ${mostOfRow.toLocaleString("en-GB")} of a row`,
          );
          unread.add(column.name);
          continue;
        }
        if (read.entries.length > 0) objects = objects.flatMap((object) => read.entries.map((entry) => ({ ...object, ...entry })));
      }
      if (clocks.start && clocks.end) {
        const interval = intervalOfTwo(clocks.start.text, clocks.end.text, { ...clocks.start.field.source, ...clocks.end.field.source });
        if ("expected" in interval) refuse(clocks.end.field.column, interval.value, `expected ${interval.expected}`);
        else objects = objects.map((object) => ({ ...object, ...interval.entries[0] }));
      } else if (clocks.start ?? clocks.end) refuse((clocks.start ?? clocks.end)?.field.column ?? "", "", "expected a start and an end, or neither");
      for (const { field, table } of implied) {
        const others = madeInRow.get(table) ?? [];
        const [owner] = others;
        if (others.length === 1 && owner) objects = objects.map((object) => ({ ...object, [field]: { made: owner } }));
      }
      for (const object of objects) {
        // What the profile says is nothing makes nothing: a dash in a matrix.
        if (
          target.needs.some(
            (group) => group.some((name) => object[name] === null) && !group.some((name) => object[name] !== undefined && object[name] !== null),
          )
        )
          continue;
        for (const group of target.needs)
          if (!group.some((name) => unread.has(name) || (object[name] !== undefined && object[name] !== null)))
            refuse(
              group
                .map((name) => from[name] ?? "")
                .filter(Boolean)
                .join(", "),
              "",
              `nothing is here; expected ${group.join(" or ")} of ${target.table}`,
            );
        const row: MadeRow = { target, values: object, file, line, columns: from };
        made.push(row);
        madeInRow.set(target.table, [...(madeInRow.get(target.table) ?? []), row]);
      }
    };
    for (const maker of sorted)
      if (!maker.unfolds) run(maker, "", "");
      else
        for (const { heading, places: at } of unfolded) {
          const parts = at.map((place) => cellAt(place, "", "").trim()).filter((text) => text !== "");
          run(maker, heading, parts.join(" – "));
        }
    return refused.length > 0 ? { kind: "refused", refused } : { kind: "made", made };
  }
  return { problems, missing, make, changed };
}
