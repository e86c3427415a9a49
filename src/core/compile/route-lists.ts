import { present } from "../kernel/invariant";
import { intersectWindows, unbounded } from "../time/window";
import type { Window } from "../time/window";
import type { CompiledGrant, GrantRoute, Position, RouteList } from "./compiled-facility";

/** What a list is made from, when somebody asks for it. */
interface Recipe {
  readonly by: RouteList["by"];
  readonly from: { readonly grants: readonly CompiledGrant[] } | { readonly group: Position; readonly allow: Window; readonly block: Window };
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

  /** `chainOf` gives a group and those above it, `grantsTo` the grants given to a group. */
  constructor(
    private readonly chainOf: (group: Position) => readonly Position[],
    private readonly grantsTo: (group: Position) => readonly CompiledGrant[],
  ) {}

  private add(recipe: Recipe): number {
    return this.recipes.push(recipe) - 1;
  }

  direct(by: "cardholder" | "credential", grants: readonly CompiledGrant[]): number {
    return this.add({ by, from: { grants } });
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

  private routesOf({ from }: Recipe): GrantRoute[] {
    if ("grants" in from) return from.grants.map(({ position, window }) => ({ grant: position, groups: [], window }));
    const chain = this.chainOf(from.group);
    return chain.flatMap((above, distance) =>
      this.grantsTo(above).map((grant) => ({
        grant: grant.position,
        groups: chain.slice(0, distance + 1),
        window: intersectWindows(grant.window, grant.blocks ? from.block : from.allow),
      })),
    );
  }

  at(number: number): RouteList {
    const recipe = present(this.recipes[number], "lists are numbered");
    return (this.made[number] ??= { by: recipe.by, routes: this.routesOf(recipe) });
  }
}
