import type { ListKey } from "./draft";

/** What a source brings: by list all fields of its objects, or those named. */
export type Brings = Partial<Record<ListKey, "all" | readonly string[]>>;

/** Who says how objects are: a source by its name, or undefined for Nomade itself, which owns what no source brings. */
export interface Ownership {
  readonly ofField: (list: ListKey, field: string) => string | undefined;
  /** Who says which objects there are. */
  readonly ofObjects: (list: ListKey) => string | undefined;
}

/** Ownership by what each source brought last, the latest source first. */
export function ownershipOf(sources: readonly { readonly source: string; readonly brings: Brings }[]): Ownership {
  const brings = (list: ListKey, field: string) =>
    sources.find(({ brings: { [list]: fields } }) => fields !== undefined && (fields === "all" || fields.includes(field)))?.source;
  return { ofField: brings, ofObjects: (list) => sources.find(({ brings: { [list]: fields } }) => fields !== undefined)?.source };
}
