import type { DataIssue } from "./issue";
import { note, problem } from "./issue";
import type { ListKey } from "./draft";
import { listKeys } from "./draft";

/** A text that names an object of another list, or a list of such texts. */
interface Reference {
  readonly from: ListKey;
  /** Keys from the object to the text; `*` stands for every element of a list. */
  readonly path: readonly string[];
  readonly to: ListKey;
}

const reference = (from: ListKey, path: string, to: ListKey): Reference => ({ from, path: path.split("."), to });

/** Every reference that a document can hold. */
export const references: readonly Reference[] = [
  reference("sites", "calendar", "calendars"),
  reference("areas", "site", "sites"),
  reference("areas", "parent", "areas"),
  reference("areas", "owner", "cardholders"),
  reference("doors", "site", "sites"),
  reference("doors", "area", "areas"),
  reference("doors", "from", "areas"),
  reference("doors", "via", "doors"),
  reference("doors", "entryRows.*.schedule", "schedules"),
  reference("doors", "unlock", "schedules"),
  reference("doorGroups", "doors.*", "doors"),
  reference("doorGroups", "groups.*", "doorGroups"),
  reference("levels", "rows.*.door", "doors"),
  reference("levels", "rows.*.doorGroup", "doorGroups"),
  reference("levels", "rows.*.area", "areas"),
  reference("levels", "rows.*.schedule", "schedules"),
  reference("bundles", "levels.*", "levels"),
  reference("groups", "parent", "groups"),
  reference("groups", "manager", "cardholders"),
  reference("memberships", "group", "groups"),
  reference("memberships", "cardholder", "cardholders"),
  reference("cardholders", "department", "groups"),
  reference("cardholders", "manager", "cardholders"),
  reference("cardholders", "sites.*", "sites"),
  reference("cardholders", "calendar", "calendars"),
  reference("cardholders", "hours", "schedules"),
  reference("cardholders", "override.*", "sites"),
  reference("cardholders", "sponsor", "cardholders"),
  reference("credentials", "cardholder", "cardholders"),
  reference("grants", "to.cardholder", "cardholders"),
  reference("grants", "to.group", "groups"),
  reference("grants", "to.credential", "credentials"),
  reference("grants", "open.level", "levels"),
  reference("grants", "open.bundle", "bundles"),
  reference("grants", "open.door", "doors"),
  reference("grants", "open.doorGroup", "doorGroups"),
  reference("grants", "open.area", "areas"),
  reference("grants", "schedule", "schedules"),
];

/** Relations of a list with itself that must not run in a loop. */
const hierarchies: readonly { list: ListKey; key: string; many: boolean }[] = [
  { list: "areas", key: "parent", many: false },
  { list: "groups", key: "parent", many: false },
  { list: "doorGroups", key: "groups", many: true },
  { list: "doors", key: "via", many: false },
];

type Loose = Readonly<Record<string, unknown>>;
const isObject = (value: unknown): value is Loose => typeof value === "object" && value !== null && !Array.isArray(value);

/** The objects of a list of a document that may be malformed elsewhere, with their positions. */
export function objectsOf(document: Loose, list: ListKey): { position: number; object: Loose }[] {
  const found: unknown = document[list];
  if (!Array.isArray(found)) return [];
  return (found as unknown[]).flatMap((object, position) => (isObject(object) ? [{ position, object }] : []));
}

/** Where a text stands below an object: keys and positions, the last one first; written out only where something is wrong. */
type Place = { readonly key: string | number; readonly above: Place } | undefined;

const writtenPlace = (place: Place): string => (place === undefined ? "" : `${writtenPlace(place.above)}${typeof place.key === "number" ? `[${place.key}]` : `.${place.key}`}`);

/** Calls `visit` with every text at a path of keys (from `depth` on) below a value, `*` standing for every element of a list. */
function visitTexts(value: unknown, path: readonly string[], depth: number, above: Place, visit: (text: string, place: Place) => void): void {
  const key = path[depth];
  if (key === undefined) {
    if (typeof value === "string") visit(value, above);
  } else if (key === "*") {
    if (Array.isArray(value)) value.forEach((element: unknown, i) => visitTexts(element, path, depth + 1, { key: i, above }, visit));
  } else if (isObject(value)) {
    // Most objects lack most keys: look before anything is made.
    const below = value[key];
    if (below !== undefined && Object.hasOwn(value, key)) visitTexts(below, path, depth + 1, { key, above }, visit);
  }
}

/** Ids used twice in one list: an error at the second use. */
function duplicateIds(document: Loose, ids: ReadonlyMap<ListKey, Map<string, number>>): DataIssue[] {
  return [...ids].flatMap(([list, known]) =>
    objectsOf(document, list).flatMap(({ position, object }) =>
      typeof object.id === "string" && known.get(object.id) !== position
        ? [problem(`${list}[${position}].id`, "duplicate-id", { value: object.id, first: `${list}[${known.get(object.id) ?? 0}].id` })]
        : [],
    ),
  );
}

function loopsIn(document: Loose, list: ListKey, key: string, many: boolean): DataIssue[] {
  const nodes = new Map(objectsOf(document, list).map(({ position, object }) => [object.id, { position, object }] as const));
  const state = new Map<unknown, "open" | "done">();
  const found: DataIssue[] = [];
  for (const root of nodes.keys()) {
    // An explicit stack: a chain may be as long as the list.
    const stack: { id: unknown; next: number }[] = [{ id: root, next: 0 }];
    if (state.has(root)) continue;
    state.set(root, "open");
    while (stack.length > 0) {
      const top = stack[stack.length - 1] as { id: unknown; next: number };
      const node = nodes.get(top.id);
      const value: unknown = node?.object[key];
      const targets: readonly unknown[] = many ? (Array.isArray(value) ? (value as unknown[]) : []) : value === undefined ? [] : [value];
      const i = top.next++;
      if (!node || i >= targets.length) {
        state.set(top.id, "done");
        stack.pop();
        continue;
      }
      const target = targets[i];
      if (state.get(target) === "open") {
        const members = [...stack.slice(stack.findIndex(({ id }) => id === target)).map(({ id }) => String(id)), String(target)];
        const path = `${list}[${node.position}].${key}${many ? `[${i}]` : ""}`;
        found.push(problem(path, "loop", { value: String(target), members: members.join(" → ") }));
      } else if (nodes.has(target) && !state.has(target)) {
        state.set(target, "open");
        stack.push({ id: target, next: 0 });
      }
    }
  }
  return found;
}

/**
 * All references that lead nowhere, ids used twice, and loops, as errors; ids repeated in one list of references as notes.
 * Reads also documents whose shape is faulty elsewhere, so that all errors can be reported together.
 */
export function checkReferences(document: Loose): DataIssue[] {
  const ids = new Map<ListKey, Map<string, number>>();
  const objects = new Map(listKeys.map((list) => [list, objectsOf(document, list)] as const));
  for (const list of listKeys) {
    const known = new Map<string, number>();
    if (list !== "memberships")
      for (const { position, object } of objects.get(list) ?? [])
        if (typeof object.id === "string" && !known.has(object.id)) known.set(object.id, position);
    ids.set(list, known);
  }
  const issues = duplicateIds(document, ids);
  for (const { from, path, to } of references) {
    const known = ids.get(to);
    const isList = path[path.length - 1] === "*";
    let seen: Set<string> | undefined;
    let at = 0;
    const visit = (text: string, place: Place): void => {
      const written = () => `${from}[${at}]${writtenPlace(place)}`;
      if (!known?.has(text)) issues.push(problem(written(), "unknown-reference", { value: text, list: to }));
      else if (seen?.has(text)) issues.push(note(written(), "repeated-reference", { value: text }));
      if (isList) (seen ??= new Set()).add(text);
    };
    for (const { position, object } of objects.get(from) ?? []) {
      at = position;
      seen = undefined;
      visitTexts(object, path, 0, undefined, visit);
    }
  }
  for (const { list, key, many } of hierarchies) issues.push(...loopsIn(document, list, key, many));
  return issues;
}
