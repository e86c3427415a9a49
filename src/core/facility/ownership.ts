import type { ListKey } from "./document";

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

/** What of a list a source's profile lets it own: some fields (none: not the list at all), and whether it names everything that there is. */
export interface OwnedList {
  /** Undefined for all fields that it brings. */
  readonly fields?: readonly string[];
  /** False where what it does not name stays in the register. */
  readonly complete?: boolean;
  /** Of grants: whether it knows those that shut a door for somebody, so that it can be asked for them. */
  readonly blocks?: boolean;
}

export type OwnershipProfile = Partial<Record<ListKey, OwnedList>>;

/** What a source brings as far as its profile lets it own that; an id always goes with the fields. */
export function ownedPart(brings: Brings, profile: OwnershipProfile): Brings {
  const owned: Brings = {};
  for (const [key, fields] of Object.entries(brings)) {
    const list = key as ListKey;
    const allowed = profile[list]?.fields;
    if (allowed === undefined) owned[list] = fields;
    else if (allowed.length > 0)
      owned[list] =
        fields === "all" ? ["id", ...allowed.filter((field) => field !== "id")] : fields.filter((field) => field === "id" || allowed.includes(field));
  }
  return owned;
}
