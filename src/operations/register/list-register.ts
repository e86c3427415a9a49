import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { idOf } from "@/core/register/columns";
import type { LastUseOf } from "@/core/register/columns";
import { directoryOf } from "@/core/register/directory";
import type { RegisterKind } from "@/core/register/kinds";
import { listOfKind, nameOf } from "@/core/register/kinds";
import type { ListGroup, ListQuery } from "@/core/register/list-index";
import { ListIndex } from "@/core/register/list-index";
import type { ObjectRef } from "@/core/register/related/ways";
import { relatedTo } from "@/core/register/related/related";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { lastUsesIn } from "./last-uses";
import type { OpenRegister } from "./open-register";

/** A list of the register as it is asked for. */
export interface AskedList extends ListQuery {
  readonly kind: RegisterKind;
  /** Only what hangs on another object. */
  readonly of: ObjectRef | undefined;
  /** Keys of the columns to give; empty for the usual ones. */
  readonly columns: readonly string[];
}

export interface ListedColumn {
  readonly key: string;
  readonly title: string;
  readonly shown: boolean;
  /** The values among which one can be chosen, with how many have them; undefined where there is no choice. */
  readonly choices: readonly ListGroup[] | undefined;
}

export interface ListedRow {
  readonly id: string;
  /** One for each shown column, in their order. */
  readonly cells: readonly (string | number | undefined)[];
  /** By which way it hangs on the other object; undefined where none was asked about. */
  readonly way: string | undefined;
}

export interface ListPage {
  readonly snapshot: number;
  /** How many there are with the words and filters, and without. */
  readonly total: number;
  readonly all: number;
  readonly groups: readonly ListGroup[] | undefined;
  /** What the list hangs on, by name. */
  readonly ofName: string | undefined;
  readonly columns: readonly ListedColumn[];
  readonly rows: readonly ListedRow[];
}

const choicesShown = 200;

interface MadeIndex {
  readonly index: ListIndex;
  /** By what it tells of last uses, if by more than the register. */
  readonly lastUseOf: LastUseOf | undefined;
}

const indexes = new WeakMap<CompiledFacility, Map<RegisterKind, MadeIndex>>();

/**
 * The index of a kind, made when it is first asked for and kept with the register; made anew where something else is known of last uses. Whoever asks
 * nothing of them takes any; by what sources state is one, too.
 */
export function listIndexOf(compiled: CompiledFacility, kind: RegisterKind, lastUses: LastUseOf | "any" | "stated" = "any"): ListIndex {
  const ofRegister = indexes.get(compiled) ?? new Map<RegisterKind, MadeIndex>();
  indexes.set(compiled, ofRegister);
  const made = ofRegister.get(kind);
  const lastUseOf = typeof lastUses === "string" ? undefined : lastUses;
  if (made && (lastUses === "any" || made.lastUseOf === lastUseOf)) return made.index;
  const index = new ListIndex(compiled, kind, compiled.facility[listOfKind[kind]].length, lastUseOf);
  ofRegister.set(kind, { index, lastUseOf });
  return index;
}

const nameOfHook = (compiled: CompiledFacility, { kind, id }: ObjectRef): string => {
  const position = directoryOf(compiled).position(kind, id);
  return position === undefined ? id : nameOf(compiled.facility, kind, position);
};

/** Which rows of a list are asked for, and whether with what its columns have to choose from. */
export interface AskedRows {
  readonly offset: number;
  readonly limit: number;
  readonly withChoices: boolean;
}

/** Rows `offset` … of a list, and what there is to choose from. Cost: one search where it is new, then the rows. */
export async function listRegister(services: Services, account: Account, register: OpenRegister, asked: AskedList, rows: AskedRows): Promise<ListPage> {
  demand(account, "read-register");
  return listPage(register, asked, rows, asked.kind === "credential" ? await lastUsesIn(services, register) : undefined);
}

/** The same of a register by itself, with what more is known of last uses. */
export function listPage({ snapshot, compiled }: OpenRegister, asked: AskedList, { offset, limit, withChoices }: AskedRows, lastUseOf?: LastUseOf): ListPage {
  const index = listIndexOf(compiled, asked.kind, asked.kind === "credential" ? (lastUseOf ?? "stated") : "any");
  const related = asked.of && relatedTo(compiled, asked.kind, asked.of);
  const among = asked.of && related ? { name: `${asked.of.kind}:${asked.of.id}`, positions: related } : undefined;
  const { positions, groups } = index.find(asked, among);
  const isShown = ({ key, aside }: { readonly key: string; readonly aside?: true }): boolean =>
    key === "name" || (asked.columns.length > 0 ? asked.columns.includes(key) : !aside);
  const shown = index.columns.filter(isShown);
  return {
    snapshot: snapshot.id,
    total: positions.length,
    all: related ? related.size : index.count,
    groups,
    ofName: asked.of && nameOfHook(compiled, asked.of),
    columns: index.columns.map((column) => ({
      key: column.key,
      title: column.title,
      shown: isShown(column),
      choices: column.choices && withChoices ? index.choices(column.key, asked, choicesShown, among) : undefined,
    })),
    rows: Array.from(positions.subarray(offset, offset + limit), (position) => ({
      id: idOf(compiled, asked.kind, position),
      cells: shown.map(({ value }) => value(position)),
      way: related?.get(position),
    })),
  };
}

/** Something that the question line offers while somebody types. */
export interface Suggestion {
  readonly kind: RegisterKind;
  readonly id: string;
  readonly name: string;
  readonly detail: string;
  readonly status: string | undefined;
}

/** Objects of some kinds with all words in some field, the best matches first. */
export function suggest(
  _services: Services,
  account: Account,
  { compiled }: OpenRegister,
  kinds: readonly RegisterKind[],
  text: string,
  limit: number,
): { items: Suggestion[]; total: number } {
  demand(account, "read-register");
  const query: ListQuery = { text, filters: {}, sort: "name", group: undefined };
  let total = 0;
  const ranked = kinds.flatMap((kind, order) => {
    const index = listIndexOf(compiled, kind);
    total += index.find(query).positions.length;
    const placeInRank = new Map<number, number>();
    return index.best(text, limit).map(({ position, rank }) => {
      const place = placeInRank.get(rank) ?? 0;
      placeInRank.set(rank, place + 1);
      return { rank, place, order, item: suggestionOf(compiled, index, position) };
    });
  });
  // Of equally good matches the first of each kind come first, so that many people never hide a department.
  ranked.sort((a, b) => a.rank - b.rank || a.place - b.place || a.order - b.order);
  return { items: ranked.slice(0, limit).map(({ item }) => item), total };
}

const suggestionOf = (compiled: CompiledFacility, index: ListIndex, position: number): Suggestion => ({
  kind: index.kind,
  id: idOf(compiled, index.kind, position),
  name: nameOf(compiled.facility, index.kind, position),
  detail: suggestionDetail(index, position),
  status: String(index.column("status")?.value(position) ?? "") || undefined,
});

const detailColumns: Partial<Record<RegisterKind, readonly string[]>> = {
  cardholder: ["department", "company", "staffNumber"],
  credential: ["holder", "printedNumber"],
  door: ["area", "site"],
  area: ["site", "sensitivity"],
  group: ["kind", "parent"],
  level: ["schedules"],
  bundle: ["levels"],
  site: ["timeZone"],
};

function suggestionDetail(index: ListIndex, position: number): string {
  return (detailColumns[index.kind] ?? [])
    .map((key) => {
      const value = index.column(key)?.value(position);
      if (value === undefined) return key === "department" ? "no department" : key === "holder" ? "no cardholder" : "";
      return key === "sensitivity" ? `sensitivity ${value}` : String(value);
    })
    .filter(Boolean)
    .join(" · ");
}
