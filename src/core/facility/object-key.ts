import type { ListKey } from "./document";

/** An object of a list of the document, whatever its kind. */
export type Plain = Readonly<Record<string, unknown>>;

/** What tells an object from the others of its list: its id; a membership's group, cardholder and window, as it has no id. */
export function keyOf(list: ListKey, object: Plain): string {
  if (list !== "memberships") return String(object.id);
  return JSON.stringify([object.group, object.cardholder, object.from ?? null, object.until ?? null]);
}
