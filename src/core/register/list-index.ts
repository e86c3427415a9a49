import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Cell, Column, LastUseOf } from "./columns";
import { columnsOf, idOf } from "./columns";
import { fold } from "./fold";
import type { RegisterKind } from "./kinds";

/** What is asked of a list: words that must all be found in some field, values of columns, an order, and a grouping. */
export interface ListQuery {
  readonly text: string;
  /** By column: the value that it must have; the empty text for none. */
  readonly filters: Readonly<Record<string, string>>;
  /** Key of the column by which to order, with `-` before it for the other way round. */
  readonly sort: string;
  /** Key of the column by which the list is broken up; undefined for one list. */
  readonly group: string | undefined;
}

export interface ListGroup {
  readonly value: string;
  readonly count: number;
}

/** The positions that answer a query, in its order; where it groups, the groups in the order in which they come. */
export interface ListResult {
  readonly positions: Int32Array;
  readonly groups: readonly ListGroup[] | undefined;
}

const written = (cell: Cell): string => (cell === undefined ? "" : String(cell));

/** Words that hold none of the fields apart: a line feed, which no folded field contains after trimming. */
const between = "\n";
const resultsKept = 24;

/**
 * A kind's objects made ready to be listed: one folded text for each with all its fields, and the order by each column, worked out
 * when it is first asked for. Cost of a search: one look at each text; of a page of a search just made: the page.
 */
/** How well a word fits an object's folded text, which has its id, its name and all else, a line each; 0 is best. */
function rankOf(text: string, word: string): number {
  const name = text.indexOf("\n") + 1;
  const end = text.indexOf("\n", name);
  const inName = text.indexOf(word, name);
  if (inName >= 0 && (end < 0 || inName < end)) return inName === name ? 0 : text.charAt(inName - 1) === " " ? 1 : 2;
  return text.startsWith(word) || text.includes(`\n${word}`) ? 3 : 4;
}

export class ListIndex {
  readonly columns: readonly Column[];
  readonly count: number;
  private texts: string[] | undefined;
  private readonly orders = new Map<string, Int32Array>();
  private readonly results = new Map<string, ListResult>();
  private readonly values = new Map<string, readonly string[]>();

  constructor(
    private readonly compiled: CompiledFacility,
    readonly kind: RegisterKind,
    count: number,
    lastUseOf?: LastUseOf,
  ) {
    this.columns = columnsOf(compiled, kind, lastUseOf);
    this.count = count;
  }

  column(key: string): Column | undefined {
    return this.columns.find((column) => column.key === key);
  }

  private textOf(): readonly string[] {
    if (!this.texts) {
      const texts = new Array<string>(this.count);
      for (let i = 0; i < this.count; i++) {
        let all = idOf(this.compiled, this.kind, i);
        for (const { value, derived } of this.columns) {
          if (derived) continue;
          const cell = value(i);
          if (cell !== undefined && cell !== "") all += between + String(cell);
        }
        texts[i] = fold(all);
      }
      this.texts = texts;
    }
    return this.texts;
  }

  /** The texts of a column by position; kept for columns with few values only. */
  private valuesOf(column: Column): readonly string[] {
    let values = this.values.get(column.key);
    if (!values) {
      values = Array.from({ length: this.count }, (_, i) => written(column.value(i)));
      if (column.choices) this.values.set(column.key, values);
    }
    return values;
  }

  /** All positions in the order of a column; what is empty comes last, equal ones stay in the order of the document. */
  private order(column: Column, down: boolean): Int32Array {
    const kept = down ? `-${column.key}` : column.key;
    let order = this.orders.get(kept);
    if (!order) {
      const cells = Array.from({ length: this.count }, (_, i) => column.value(i));
      const keys = cells.map((cell) => (typeof cell === "number" ? cell : fold(written(cell))));
      order = Int32Array.from(keys.keys()).sort((a, b) => {
        const [x, y] = [keys[a] as string | number, keys[b] as string | number];
        if (x === y) return a - b;
        if (x === "") return 1;
        if (y === "") return -1;
        return x < y === down ? 1 : -1;
      });
      this.orders.set(kept, order);
    }
    return order;
  }

  /** Marks of what a query finds; `among` narrows it to some positions. */
  private matches({ text, filters }: ListQuery, among: ReadonlyMap<Position, unknown> | undefined): Uint8Array {
    const found = new Uint8Array(this.count);
    const words = fold(text).split(/\s+/).filter(Boolean);
    const wanted = Object.entries(filters).flatMap(([key, value]) => {
      const column = this.column(key);
      return column ? [{ values: this.valuesOf(column), value }] : [];
    });
    const texts = words.length > 0 ? this.textOf() : undefined;
    const look = (i: Position): void => {
      if (texts) for (const word of words) if (!(texts[i] as string).includes(word)) return;
      for (const { values, value } of wanted) if (values[i] !== value) return;
      found[i] = 1;
    };
    if (among) for (const i of among.keys()) look(i);
    else for (let i = 0; i < this.count; i++) look(i);
    return found;
  }

  /** The positions that answer a query. `among` narrows it to some positions and must come with a name of its own. */
  find(query: ListQuery, among?: { readonly name: string; readonly positions: ReadonlyMap<Position, unknown> }): ListResult {
    const key = JSON.stringify([query.text, Object.entries(query.filters).sort(), query.sort, query.group, among?.name]);
    const known = this.results.get(key);
    if (known) return known;
    const found = this.matches(query, among?.positions);
    const down = query.sort.startsWith("-");
    const column = this.column(down ? query.sort.slice(1) : query.sort) ?? this.columns[0];
    const order = this.order(required(column, "every list has a first column"), down);
    let positions = new Int32Array(found.reduce((sum, one) => sum + one, 0));
    let n = 0;
    for (const i of order) if (found[i] === 1) positions[n++] = i;
    const grouping = query.group === undefined ? undefined : this.column(query.group);
    let groups: ListGroup[] | undefined;
    if (grouping) {
      const values = this.valuesOf(grouping);
      const places = new Map<string, number[]>();
      for (const i of positions) {
        const value = values[i] as string;
        const list = places.get(value);
        if (list) list.push(i);
        else places.set(value, [i]);
      }
      const inOrder = [...places].sort(([a], [b]) => (a === "" ? 1 : b === "" ? -1 : fold(a) < fold(b) ? -1 : 1));
      groups = inOrder.map(([value, list]) => ({ value, count: list.length }));
      positions = Int32Array.from(inOrder.flatMap(([, list]) => list));
    }
    const result = { positions, groups };
    if (this.results.size >= resultsKept) this.results.delete(this.results.keys().next().value as string);
    this.results.set(key, result);
    return result;
  }

  /**
   * The best matches of a text, those by name before those by anything else: names that begin with it, words of names that do, names that have it
   * within, then other fields that begin with it, then all else; within each by name. `rank` is 0 for the best. Cost: a look at each match.
   */
  best(text: string, limit: number): readonly { readonly position: Position; readonly rank: number }[] {
    const { positions } = this.find({ text, filters: {}, sort: "name", group: undefined });
    const [word] = fold(text).split(/\s+/).filter(Boolean);
    if (word === undefined) return Array.from(positions.subarray(0, limit), (position) => ({ position, rank: 0 }));
    const texts = this.textOf();
    const byRank: Position[][] = [[], [], [], [], []];
    for (const position of positions) {
      const ofRank = byRank[rankOf(texts[position] as string, word)] as Position[];
      if (ofRank.length < limit) ofRank.push(position);
      if ((byRank[0] as Position[]).length === limit) break;
    }
    return byRank.flatMap((all, rank) => all.map((position) => ({ position, rank }))).slice(0, limit);
  }

  /** The values of a column among what a query without a filter on it finds, the most frequent first, up to a number. */
  choices(key: string, query: ListQuery, limit: number, among?: { readonly name: string; readonly positions: ReadonlyMap<Position, unknown> }): ListGroup[] {
    const column = this.column(key);
    if (!column?.choices) return [];
    const { [key]: _own, ...others } = query.filters;
    const { positions } = this.find({ ...query, filters: others, sort: "name", group: undefined }, among);
    const values = this.valuesOf(column);
    const counts = new Map<string, number>();
    for (const i of positions) counts.set(values[i] as string, (counts.get(values[i] as string) ?? 0) + 1);
    return [...counts]
      .map(([value, count]) => ({ value, count }))
      .sort((a, b) => b.count - a.count || (a.value < b.value ? -1 : 1))
      .slice(0, limit);
  }
}
