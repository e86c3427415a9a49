import type { ListKey } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { Loose } from "@/intake/formats/tables/tables";

/** Names differ by capitals and spaces from system to system; ids and numbers do not. */
export const foldedName = (by: string, text: string): string => (by === "name" || by === "email" ? text.trim().replace(/\s+/g, " ").toLowerCase() : text);

/** Ids of objects by the value of one of their fields. */
export class Index {
  private readonly byValue = new Map<string, Set<string>>();
  constructor(private readonly by: string) {}
  add(value: string, id: string): void {
    const folded = foldedName(this.by, value);
    this.byValue.set(folded, (this.byValue.get(folded) ?? new Set<string>()).add(id));
  }
  get(value: string): ReadonlySet<string> {
    return this.byValue.get(foldedName(this.by, value)) ?? new Set();
  }
}

/** The objects of the register by what they are known by. */
export class RegisterLookups {
  private readonly indexes = new Map<string, Index>();
  constructor(private readonly present: Facility | undefined) {}

  /** Objects with an id: all but memberships. */
  *objects(list: ListKey): Generator<readonly [id: string, object: Loose]> {
    for (const object of (this.present?.[list] ?? []) as unknown as readonly Loose[]) if (typeof object.id === "string") yield [object.id, object];
  }

  /** A new index of the register's objects by a field, to which others can be added. */
  indexBy(list: ListKey, by: string): Index {
    const index = new Index(by);
    for (const [id, object] of this.objects(list)) if (typeof object[by] === "string") index.add(object[by], id);
    return index;
  }

  private known(list: ListKey, by: string): Index {
    const name = `${list} ${by}`;
    const index = this.indexes.get(name) ?? this.indexBy(list, by);
    this.indexes.set(name, index);
    return index;
  }

  has(list: ListKey, id: string): boolean {
    return this.known(list, "id").get(id).size > 0;
  }

  /** The ids of all that have just these values. */
  with(list: ListKey, fields: readonly string[], texts: readonly string[]): string[] {
    const [first = new Set<string>(), ...rest] = fields.map((field, at) => this.known(list, field).get(texts[at] ?? ""));
    return [...first].filter((id) => rest.every((ids) => ids.has(id)));
  }
}
