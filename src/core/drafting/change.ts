import { canonicalJson } from "../facility/canonical-json";
import type { ListKey } from "../facility/document";
import type { Plain } from "../facility/object-key";

/** One object as a draft would have it, and as the register had it when the draft first touched it. */
export interface DraftChange {
  readonly list: ListKey;
  /** Which object of the list; see `keyOf`. */
  readonly key: string;
  /** How the register had it; undefined for an object that the draft adds. */
  readonly base: Plain | undefined;
  /** How it shall be; undefined for an object that the draft takes away. */
  readonly value: Plain | undefined;
}

/** A field of an object before and after; undefined where it is not there. */
export interface FieldChange {
  readonly field: string;
  readonly before: unknown;
  readonly after: unknown;
}

const text = (value: unknown): string => (value === undefined ? "" : canonicalJson(value));

/** Whether two objects, or two values of a field, say the same. */
export const sameValue = (a: unknown, b: unknown): boolean => text(a) === text(b);

const fieldsOf = (...objects: readonly (Plain | undefined)[]): string[] => [...new Set(objects.flatMap((object) => Object.keys(object ?? {})))];

/** The fields in which two states of an object differ. */
export function fieldChanges(before: Plain | undefined, after: Plain | undefined): FieldChange[] {
  return fieldsOf(before, after).flatMap((field) =>
    sameValue(before?.[field], after?.[field]) ? [] : [{ field, before: before?.[field], after: after?.[field] }],
  );
}

/** A field that both the draft and the register have changed since, each in its own way; the field `""` is the whole object. */
export interface Clash {
  readonly field: string;
  readonly base: unknown;
  /** What the register has now. */
  readonly present: unknown;
  /** What the draft would have. */
  readonly wanted: unknown;
}

/** A change put on top of the register as it is now. */
export interface RebasedChange {
  readonly change: DraftChange;
  readonly present: Plain | undefined;
  /** How the object would be; what the register changed in other fields meanwhile is kept. Where there are clashes, the draft's wish stands in it. */
  readonly value: Plain | undefined;
  readonly clashes: readonly Clash[];
  /** The register has come to be just so by itself. */
  readonly settled: boolean;
}

/** Puts a change on top of how the register has the object now, field by field. */
export function rebase(change: DraftChange, present: Plain | undefined): RebasedChange {
  const { base, value } = change;
  const outcome = (rebased: Plain | undefined, clashes: readonly Clash[]): RebasedChange => ({
    change,
    present,
    value: rebased,
    clashes,
    settled: sameValue(rebased, present),
  });
  if (sameValue(present, base) || sameValue(present, value)) return outcome(value, []);
  const whole: Clash = { field: "", base, present, wanted: value };
  if (value === undefined || (base !== undefined && present === undefined)) return outcome(value, [whole]);
  const merged: Record<string, unknown> = { ...present };
  const clashes: Clash[] = [];
  for (const { field, before, after } of fieldChanges(base, value)) {
    const now = present?.[field];
    if (!sameValue(now, before) && !sameValue(now, after)) clashes.push({ field, base: before, present: now, wanted: after });
    if (after === undefined) delete merged[field];
    else merged[field] = after;
  }
  return outcome(merged, clashes);
}
