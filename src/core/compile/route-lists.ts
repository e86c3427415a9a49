import { present } from "../kernel/invariant";
import { intersectWindows, unbounded } from "../time/window";
import type { Window } from "../time/window";
import type { CompiledGrant, GrantRoute, Position, RouteList } from "./compiled-facility";
import type { GivenGrants } from "./given-grants";

/** What a list is made from, when somebody asks for it. */
interface Recipe {
  readonly by: RouteList["by"];
  readonly from: { readonly first: Position } | { readonly group: Position; readonly allow: Window; readonly block: Window };
}

/**
 * The ways by which grants come to people, as numbered lists that are shared: all of a department have one, all members of a
 * group in the same windows another. A list is laid out when it is first looked at.
 */
export class RouteLists {
  private readonly recipes: Recipe[] = [];
  private readonly made: (RouteList | undefined)[] = [];
  private readonly departments: number[] = [];
  private readonly unboundedMembers: number[] = [];
  private readonly windowedMembers = new Map<string, number>();

  /** `chainOf` gives a group and those above it. */
  constructor(
    private readonly chainOf: (group: Position) => readonly Position[],
    private readonly grants: readonly CompiledGrant[],
    private readonly given: GivenGrants,
  ) {}

  private add(recipe: Recipe): number {
    return this.recipes.push(recipe) - 1;
  }

  /** Grants given straight to somebody, `first` and those after it. */
  direct(by: "cardholder" | "credential", first: Position): number {
    return this.add({ by, from: { first } });
  }

  department(group: Position): number {
    return (this.departments[group] ??= this.add({ by: "department", from: { group, allow: unbounded, block: unbounded } }));
  }

  /** A membership that lasts for `allow` where it lets in, and for `block` where it keeps out. */
  membership(group: Position, allow: Window, block: Window): number {
    if (allow === unbounded && block === unbounded) return (this.unboundedMembers[group] ??= this.add({ by: "membership", from: { group, allow, block } }));
    const key = `${group} ${allow.from} ${allow.until} ${block.from} ${block.until}`;
    let number = this.windowedMembers.get(key);
    if (number === undefined) {
      number = this.add({ by: "membership", from: { group, allow, block } });
      this.windowedMembers.set(key, number);
    }
    return number;
  }

  /** Calls `visit` with each way by which a grant comes through a list: the grant, the window, how many groups it has come down. Makes no object for it. */
  each(number: number, visit: (grant: CompiledGrant, window: Window, groups: number) => void): void {
    const { from } = present(this.recipes[number], "lists are numbered");
    const { grants, given } = this;
    if ("first" in from) {
      for (let g = from.first; g !== -1; g = given.next[g] as number) {
        const grant = grants[g] as CompiledGrant;
        visit(grant, grant.window, 0);
      }
      return;
    }
    let groups = 0;
    for (const above of this.chainOf(from.group)) {
      groups++;
      for (let g = given.toGroup[above] as number; g !== -1; g = given.next[g] as number) {
        const grant = grants[g] as CompiledGrant;
        visit(grant, intersectWindows(grant.window, grant.blocks ? from.block : from.allow), groups);
      }
    }
  }

  at(number: number): RouteList {
    const before = this.made[number];
    if (before) return before;
    const { by, from } = present(this.recipes[number], "lists are numbered");
    const chain = "first" in from ? [] : this.chainOf(from.group);
    const routes: GrantRoute[] = [];
    this.each(number, ({ position }, window, groups) => routes.push({ grant: position, groups: chain.slice(0, groups), window }));
    const list = { by, routes };
    this.made[number] = list;
    return list;
  }
}
