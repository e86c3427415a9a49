import { required } from "../kernel/invariant";
import type { DataIssue } from "./issue";
import { note, problem } from "./issue";
import type { ListKey } from "./document";
import { listKeys } from "./document";

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

/** A list of a document that may be malformed elsewhere; what in it is no object is to be passed over. */
const listOf = (document: Loose, list: ListKey): readonly unknown[] => (Array.isArray(document[list]) ? (document[list] as readonly unknown[]) : []);

/** Where a text stands below an object: keys and positions, the last one first; written out only where something is wrong. */
type Place = { readonly key: string | number; readonly above: Place } | undefined;

const writtenPlace = (place: Place): string =>
  place === undefined ? "" : `${writtenPlace(place.above)}${typeof place.key === "number" ? `[${place.key}]` : `.${place.key}`}`;

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
    if (below !== undefined) visitTexts(below, path, depth + 1, { key, above }, visit);
  }
}

/** Positions by id of the first object that has it; with an error for every further one. */
function idsOf(document: Loose, list: ListKey, issues: DataIssue[]): ReadonlyMap<string, number> {
  const known = new Map<string, number>();
  if (list === "memberships") return known;
  const objects = listOf(document, list);
  for (let position = 0; position < objects.length; position++) {
    const object = objects[position];
    if (!isObject(object) || typeof object.id !== "string") continue;
    const first = known.get(object.id);
    if (first === undefined) known.set(object.id, position);
    else issues.push(problem(`${list}[${position}].id`, "duplicate-id", { value: object.id, first: `${list}[${first}].id` }));
  }
  return known;
}

/** What is wrong with the references of one kind, object by object. */
class ReferenceCheck {
  readonly issues: DataIssue[] = [];
  private readonly first: string;
  private position = 0;
  private seen: Set<string> | undefined;

  constructor(
    private readonly reference: Reference,
    private readonly known: ReadonlyMap<string, number>,
  ) {
    this.first = reference.path[0] ?? "";
  }

  look(object: Loose, position: number): void {
    const below = object[this.first];
    if (below === undefined) return;
    this.position = position;
    this.seen = undefined;
    const { path } = this.reference;
    if (path.length === 1) {
      if (typeof below === "string" && !this.known.has(below)) this.visit(below, { key: this.first, above: undefined });
    } else visitTexts(below, path, 1, { key: this.first, above: undefined }, this.visit);
  }

  private readonly visit = (text: string, place: Place): void => {
    const { from, path, to } = this.reference;
    const written = () => `${from}[${this.position}]${writtenPlace(place)}`;
    if (!this.known.has(text)) this.issues.push(problem(written(), "unknown-reference", { value: text, list: to }));
    else if (this.seen?.has(text)) this.issues.push(note(written(), "repeated-reference", { value: text }));
    if (path[path.length - 1] === "*") (this.seen ??= new Set()).add(text);
  };
}

function loopsIn(document: Loose, list: ListKey, key: string, many: boolean): DataIssue[] {
  const nodes = new Map<unknown, { readonly position: number; readonly object: Loose }>();
  listOf(document, list).forEach((object, position) => {
    if (isObject(object)) nodes.set(object.id, { position, object });
  });
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
  const issues: DataIssue[] = [];
  const ids = new Map(listKeys.map((list) => [list, idsOf(document, list, issues)] as const));
  const checks = references.map((one) => ({ from: one.from, check: new ReferenceCheck(one, required(ids.get(one.to), "every list has its ids")) }));
  for (const list of listKeys) {
    const ofList = checks.filter(({ from }) => from === list).map(({ check }) => check);
    const objects = listOf(document, list);
    // Each object is looked at once, for all of its references: a large register does not fit into the processor's cache.
    for (let position = 0; position < objects.length; position++) {
      const object = objects[position];
      if (isObject(object)) for (const check of ofList) check.look(object, position);
    }
  }
  for (const { check } of checks) for (const issue of check.issues) issues.push(issue);
  for (const { list, key, many } of hierarchies) issues.push(...loopsIn(document, list, key, many));
  return issues;
}
