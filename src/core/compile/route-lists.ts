import type { Position } from "./position-index";
import { intersectWindows } from "../time/window";
import type { Window } from "../time/window";
import type { GrantFacts } from "./object-facts";
import type { GrantChains } from "./grant-chains";
import type { Vocabulary } from "./vocabulary";
import type { WrittenWindow } from "./written-windows";

/** Grants that come in one way: all of a department, of a membership, or those given straight to somebody. */
export interface RouteList {
  readonly by: "credential" | "cardholder" | "department" | "membership";
  readonly routes: readonly GrantRoute[];
}

export interface GrantRoute {
  readonly grant: Position;
  /** From the group that the cardholder is in up to the one that has the grant; empty for a direct one. */
  readonly groups: readonly Position[];
  /** What grant and membership both hold. */
  readonly window: Window;
}

interface Sources {
  /** A group and those above it. */
  readonly chainOf: (group: Position) => readonly Position[];
  readonly grants: GrantFacts;
  readonly chains: GrantChains;
  readonly vocabulary: Vocabulary;
}

/**
 * Calls `visit` with each grant that comes down to the members of a group, the window in which it does within that of the membership, and
 * how many groups it has come down. Makes no object for it.
 */
export function eachInherited(
  { chainOf, grants, chains, vocabulary }: Sources,
  group: Position,
  membership: WrittenWindow,
  visit: (grant: Position, window: Window, groups: number) => void,
): void {
  let groups = 0;
  for (const above of chainOf(group)) {
    groups++;
    for (let g = chains.ofGroup[above] as Position; g !== -1; g = chains.next[g] as Position) {
      const { window, blocks } = vocabulary.grantKinds.at(grants.kind[g] as number);
      visit(g, intersectWindows(window, blocks ? membership.inward : membership.outward), groups);
    }
  }
}

/** The ways by which grants come to people, shared by all who have the same; each list is laid out when it is first looked at. */
export class RouteLists {
  /** Index: position of the first grant of a receiver, or of a department; for memberships also by the number of the window. */
  private readonly direct = new Map<Position, RouteList>();
  private readonly ofDepartment = new Map<Position, RouteList>();
  private readonly ofMembership = new Map<string, RouteList>();

  constructor(private readonly sources: Sources) {}

  /** Grants given straight to somebody: the one at `first` and those after it in its chain. */
  directly(first: Position): RouteList {
    let list = this.direct.get(first);
    if (!list) {
      const { grants, chains, vocabulary } = this.sources;
      const routes: GrantRoute[] = [];
      for (let g = first; g !== -1; g = chains.next[g] as Position)
        routes.push({ grant: g, groups: [], window: vocabulary.grantKinds.at(grants.kind[g] as number).window });
      list = { by: grants.toCardholder[first] === -1 ? "credential" : "cardholder", routes };
      this.direct.set(first, list);
    }
    return list;
  }

  byDepartment(group: Position): RouteList {
    let list = this.ofDepartment.get(group);
    if (!list) this.ofDepartment.set(group, (list = { by: "department", routes: this.inherited(group, 0) }));
    return list;
  }

  /** `window` is the number of the membership's window in the vocabulary. */
  byMembership(group: Position, window: number): RouteList {
    const key = `${group} ${window}`;
    let list = this.ofMembership.get(key);
    if (!list) this.ofMembership.set(key, (list = { by: "membership", routes: this.inherited(group, window) }));
    return list;
  }

  private inherited(group: Position, window: number): GrantRoute[] {
    const chain = this.sources.chainOf(group);
    const routes: GrantRoute[] = [];
    eachInherited(this.sources, group, this.sources.vocabulary.windows.at(window), (grant, lasting, groups) =>
      routes.push({ grant, groups: chain.slice(0, groups), window: lasting }),
    );
    return routes;
  }
}
