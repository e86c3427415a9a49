import { PairTable } from "../kernel/pair-table";
import { present } from "../kernel/invariant";
import { intersectWindows } from "../time/window";
import type { Window } from "../time/window";
import type { GrantFacts, GrantRoute, Position, RouteList } from "./compiled-facility";
import type { GivenGrants } from "./given-grants";
import type { Vocabulary } from "./vocabulary";

const ways = ["cardholder", "credential", "department", "membership"] as const satisfies readonly RouteList["by"][];
const [byCardholder, byCredential, byDepartment, byMembership] = [0, 1, 2, 3];

/**
 * The ways by which grants come to people, as numbered lists that are shared: all of a department have one, all members of a
 * group in the same window another. A list is laid out when it is first looked at.
 */
export class RouteLists {
  /** Index l: by which of the ways list l comes; the first grant of a direct one, or the group; the number of the membership's window as it is written. */
  private readonly by: number[] = [];
  private readonly source: Position[] = [];
  private readonly window: number[] = [];
  private readonly made: (RouteList | undefined)[] = [];
  private readonly departments: (number | undefined)[] = [];
  private readonly memberships = new PairTable();

  /** `chainOf` gives a group and those above it. */
  constructor(
    private readonly chainOf: (group: Position) => readonly Position[],
    private readonly grants: GrantFacts,
    private readonly given: GivenGrants,
    private readonly vocabulary: Vocabulary,
  ) {}

  private add(by: number, source: Position, window: number): number {
    this.by.push(by);
    this.source.push(source);
    return this.window.push(window) - 1;
  }

  /** Grants given straight to somebody, `first` and those after it. */
  direct(by: "cardholder" | "credential", first: Position): number {
    return this.add(by === "cardholder" ? byCardholder : byCredential, first, 0);
  }

  department(group: Position): number {
    return (this.departments[group] ??= this.add(byDepartment, group, 0));
  }

  /** A membership that lasts as long as the written window of that number says. */
  membership(group: Position, window: number): number {
    let list = this.memberships.get(group, window);
    if (list < 0) {
      list = this.add(byMembership, group, window);
      this.memberships.set(group, window, list);
    }
    return list;
  }

  /** Calls `visit` with each way by which a grant comes through a list: the grant, the window, how many groups it has come down. Makes no object for it. */
  each(list: number, visit: (grant: Position, window: Window, groups: number) => void): void {
    const { grants, given } = this;
    const { grantKinds, windows } = this.vocabulary;
    const by = present(this.by[list], "lists are numbered");
    const source = this.source[list] as Position;
    if (by === byCardholder || by === byCredential) {
      for (let g = source; g !== -1; g = given.next[g] as number) visit(g, grantKinds.at(grants.kind[g] as number).window, 0);
      return;
    }
    const lasting = windows.at(this.window[list] as number);
    let groups = 0;
    for (const above of this.chainOf(source)) {
      groups++;
      for (let g = given.ofGroup[above] as number; g !== -1; g = given.next[g] as number) {
        const { window, blocks } = grantKinds.at(grants.kind[g] as number);
        visit(g, intersectWindows(window, blocks ? lasting.inward : lasting.outward), groups);
      }
    }
  }

  at(list: number): RouteList {
    const before = this.made[list];
    if (before) return before;
    const by = present(ways[this.by[list] ?? -1], "lists are numbered");
    const chain = by === "department" || by === "membership" ? this.chainOf(this.source[list] as Position) : [];
    const routes: GrantRoute[] = [];
    this.each(list, (grant, window, groups) => routes.push({ grant, groups: chain.slice(0, groups), window }));
    return (this.made[list] = { by, routes });
  }
}
