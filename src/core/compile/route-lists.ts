import { present } from "../kernel/invariant";
import { intersectWindows, unbounded } from "../time/window";
import type { Window } from "../time/window";
import type { CompiledGrant, GrantRoute, Position, RouteList } from "./compiled-facility";
import type { GivenGrants } from "./given-grants";

const noGroups: readonly Position[] = [];

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

  private *chain(first: Position): Generator<CompiledGrant> {
    for (let grant = first; grant !== -1; grant = this.given.next[grant] as number) yield this.grants[grant] as CompiledGrant;
  }

  private routesOf({ from }: Recipe): GrantRoute[] {
    const routes: GrantRoute[] = [];
    if ("first" in from) {
      for (const { position, window } of this.chain(from.first)) routes.push({ grant: position, groups: noGroups, window });
      return routes;
    }
    const chain = this.chainOf(from.group);
    chain.forEach((above, distance) => {
      const first = this.given.toGroup[above] as number;
      if (first === -1) return;
      const groups = chain.slice(0, distance + 1);
      for (const { position, window, blocks } of this.chain(first)) routes.push({ grant: position, groups, window: intersectWindows(window, blocks ? from.block : from.allow) });
    });
    return routes;
  }

  at(number: number): RouteList {
    const recipe = present(this.recipes[number], "lists are numbered");
    return (this.made[number] ??= { by: recipe.by, routes: this.routesOf(recipe) });
  }
}
