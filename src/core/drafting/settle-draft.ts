import type { ListKey } from "../facility/document";
import type { Plain } from "../facility/object-key";
import type { DraftChange, FieldChange, RebasedChange } from "./change";
import { fieldChanges } from "./change";
import type { Ownership } from "../facility/ownership";

/** Something that a source must change, since it owns it. */
export interface DraftOrder {
  readonly source: string;
  readonly action: "add" | "change" | "end";
  readonly list: ListKey;
  readonly key: string;
  /** The fields concerned; of an object to be added all of them, of one to be ended those that it has. */
  readonly fields: readonly FieldChange[];
}

/** What closing a draft comes to. */
export interface Settlement {
  /** What Nomade owns, as changes to the register that stands. */
  readonly applied: readonly DraftChange[];
  readonly orders: readonly DraftOrder[];
}

const withFields = (object: Plain, changes: readonly FieldChange[]): Plain => {
  const next: Record<string, unknown> = { ...object };
  for (const { field, after } of changes)
    if (after === undefined) delete next[field];
    else next[field] = after;
  return next;
};

/** Parts a draft's changes: what Nomade owns is applied, what a source owns goes to it as an order. */
export function settleDraft(rebased: readonly RebasedChange[], ownership: Ownership): Settlement {
  const applied: DraftChange[] = [];
  const orders: DraftOrder[] = [];
  for (const { change, present, value, settled } of rebased) {
    if (settled) continue;
    const { list, key } = change;
    const fields = fieldChanges(present, value);
    if (present === undefined || value === undefined) {
      const source = ownership.ofObjects(list);
      if (source === undefined) applied.push({ list, key, base: present, value });
      else orders.push({ source, action: value === undefined ? "end" : "add", list, key, fields });
      continue;
    }
    const own = fields.filter(({ field }) => ownership.ofField(list, field) === undefined);
    if (own.length > 0) applied.push({ list, key, base: present, value: withFields(present, own) });
    const bySource = new Map<string, FieldChange[]>();
    for (const field of fields) {
      const source = ownership.ofField(list, field.field);
      if (source !== undefined) bySource.set(source, [...(bySource.get(source) ?? []), field]);
    }
    for (const [source, owned] of bySource) orders.push({ source, action: "change", list, key, fields: owned });
  }
  return { applied, orders };
}
