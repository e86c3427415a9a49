import { compareCodePoints, groupBy } from "../kernel/compare";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";

/** A department with those that it is above, in a tree told from the top down. */
export interface Department {
  readonly position: Position;
  /** How many departments are above it. */
  readonly depth: number;
  /** How many departments are below it, at whatever depth: so many follow it in the list. */
  readonly below: number;
  /** People whose department it is, and those of them that are active. */
  readonly own: number;
  readonly active: number;
  /** People of it and of all that are below it. */
  readonly all: number;
}

/**
 * The departments of a register from the top down, each followed by those below it, neighbours by name. A department below a group that is none counts as one
 * at the top of those that are.
 */
export function departmentTree({ facility, groupById }: CompiledFacility): readonly Department[] {
  const { groups, cardholders } = facility;
  const isDepartment = groups.map(({ kind }) => kind === "department");
  const [own, active] = [new Int32Array(groups.length), new Int32Array(groups.length)];
  for (const { department, status } of cardholders) {
    const position = groupById.get(department ?? "");
    if (position === undefined) continue;
    // A group that somebody has as their department is one, whatever kind it is said to be.
    isDepartment[position] = true;
    own[position] = (own[position] as number) + 1;
    if (status === "active") active[position] = (active[position] as number) + 1;
  }
  const nearest = new Map<Position, Position | undefined>();
  /** The nearest department above. Walked without going deeper and deeper: a chain may be as long as the list. */
  const above = (position: Position): Position | undefined => {
    const passed: Position[] = [];
    let at: Position | undefined = position;
    let found: Position | undefined;
    for (;;) {
      passed.push(at);
      const parent: Position | undefined = groupById.get(groups[at]?.parent ?? "");
      if (parent === undefined || isDepartment[parent]) found = parent;
      else if (!nearest.has(parent)) {
        at = parent;
        continue;
      } else found = nearest.get(parent);
      break;
    }
    for (const one of passed) nearest.set(one, found);
    return found;
  };
  const departments = groups.map((_group, position) => position).filter((position) => isDepartment[position]);
  const byName = (a: Position, b: Position): number => compareCodePoints(groups[a]?.name ?? "", groups[b]?.name ?? "") || a - b;
  const children = groupBy(departments.sort(byName), above);
  const tree: { position: Position; depth: number; parent: number; below: number; own: number; active: number; all: number }[] = [];
  const left = (children.get(undefined) ?? []).map((position) => ({ position, depth: 0, parent: -1 })).reverse();
  for (let next = left.pop(); next !== undefined; next = left.pop()) {
    const { position, depth, parent } = next;
    const place =
      tree.push({ position, depth, parent, below: 0, own: own[position] as number, active: active[position] as number, all: own[position] as number }) - 1;
    for (const child of [...(children.get(position) ?? [])].reverse()) left.push({ position: child, depth: depth + 1, parent: place });
  }
  // From the bottom up, so that what is below each is counted before it is added to what is above.
  for (const { parent, below, all } of [...tree].reverse()) {
    const node = tree[parent];
    if (node) [node.below, node.all] = [node.below + below + 1, node.all + all];
  }
  return tree.map(({ parent: _parent, ...department }) => department);
}
