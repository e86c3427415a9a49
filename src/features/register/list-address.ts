import type { RegisterKind } from "@/core/register/kinds";
import { registerKinds } from "@/core/register/kinds";
import type { ObjectRef } from "@/core/register/related/ways";

/** A list of the register as its address holds it. */
export interface ListAddress {
  readonly kind: RegisterKind;
  readonly text: string;
  readonly filters: Readonly<Record<string, string>>;
  readonly sort: string;
  readonly group: string | undefined;
  readonly of: ObjectRef | undefined;
  /** Keys of the columns; empty for the usual ones. */
  readonly columns: readonly string[];
  /** Number of the snapshot to be looked at; undefined for the latest. */
  readonly snapshot: number | undefined;
}

/** Marks a filter in the address, so that no column's key can be taken for anything else. */
const filterMark = "is-";
const textLimit = 200;

const kindOf = (text: string | null): RegisterKind | undefined => registerKinds.find((kind) => kind === text);

function hookOf(text: string | null): ObjectRef | undefined {
  const colon = text?.indexOf(":") ?? -1;
  const kind = text === null ? undefined : kindOf(text.slice(0, colon));
  return kind && text !== null ? { kind, id: text.slice(colon + 1) } : undefined;
}

/** The list that an address asks for; a part that cannot be read is as if it were not there. */
export function listOfAddress(query: URLSearchParams): ListAddress {
  const snapshot = Number(query.get("snapshot"));
  return {
    kind: kindOf(query.get("kind")) ?? "cardholder",
    text: (query.get("text") ?? "").slice(0, textLimit),
    filters: Object.fromEntries([...query].filter(([key]) => key.startsWith(filterMark)).map(([key, value]) => [key.slice(filterMark.length), value])),
    sort: query.get("sort") ?? "name",
    group: query.get("group") ?? undefined,
    of: hookOf(query.get("of")),
    columns: (query.get("columns") ?? "").split(",").filter(Boolean),
    snapshot: Number.isInteger(snapshot) && snapshot > 0 ? snapshot : undefined,
  };
}

/** The query of the address of a list; what is as usual is left out. */
export function listQuery({ kind, text, filters, sort, group, of, columns, snapshot }: ListAddress): URLSearchParams {
  const query = new URLSearchParams({ kind });
  if (of) query.set("of", `${of.kind}:${of.id}`);
  if (text !== "") query.set("text", text);
  for (const [key, value] of Object.entries(filters)) query.set(filterMark + key, value);
  if (sort !== "name") query.set("sort", sort);
  if (group !== undefined) query.set("group", group);
  if (columns.length > 0) query.set("columns", columns.join(","));
  if (snapshot !== undefined) query.set("snapshot", String(snapshot));
  return query;
}

export const listOf = (kind: RegisterKind, more: Partial<ListAddress> = {}): ListAddress => ({
  kind,
  text: "",
  filters: {},
  sort: "name",
  group: undefined,
  of: undefined,
  columns: [],
  snapshot: undefined,
  ...more,
});

export const listHref = (address: ListAddress): string => `/register?${listQuery(address)}`;

/** Where an object's page is; of another snapshot where one is named. */
export const objectHref = (kind: RegisterKind, id: string, snapshot?: number): string =>
  `/register/${kind}/${encodeURIComponent(id)}${snapshot === undefined ? "" : `?snapshot=${snapshot}`}`;
