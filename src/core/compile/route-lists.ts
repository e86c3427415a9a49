import type { Position } from "../kernel/position-index";
import { intersectWindows } from "../time/window";
import type { Window } from "../time/window";
import type { AccessNumbers } from "./access-numbers";
import type { GrantFacts } from "./object-facts";
import type { GivenGrants } from "./given-grants";
import type { Vocabulary } from "./vocabulary";

/**
 * Number of a list of ways by which grants come to somebody: twice that of what a group gives, or one more than twice the position of the
 * first grant that is given straight to them. People share lists: all of a department have one, all members of a group in the same window another.
 */
export type ListNumber = number;

export const groupList = (given: number): ListNumber => given * 2;
export const directList = (first: Position): ListNumber => first * 2 + 1;

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

/** The ways of the lists; each is laid out when it is first looked at. */
export class RouteLists {
  private readonly made = new Map<ListNumber, RouteList>();

  /** `chainOf` gives a group and those above it. */
  constructor(
    private readonly chainOf: (group: Position) => readonly Position[],
    private readonly grants: GrantFacts,
    private readonly given: GivenGrants,
    private readonly numbers: AccessNumbers,
    private readonly vocabulary: Vocabulary,
  ) {}

  /** Calls `visit` with each way by which a grant comes through a list: the grant, the window, how many groups it has come down. Makes no object for it. */
  each(list: ListNumber, visit: (grant: Position, window: Window, groups: number) => void): void {
    const { grants, given } = this;
    const { grantKinds, windows } = this.vocabulary;
    const number = list >> 1;
    if ((list & 1) === 1) {
      for (let g = number; g !== -1; g = given.next[g] as number) visit(g, grantKinds.at(grants.kind[g] as number).window, 0);
      return;
    }
    const { group, window } = this.numbers.givenBy(number);
    const lasting = windows.at(window);
    let groups = 0;
    for (const above of this.chainOf(group)) {
      groups++;
      for (let g = given.ofGroup[above] as number; g !== -1; g = given.next[g] as number) {
        const kind = grantKinds.at(grants.kind[g] as number);
        visit(g, intersectWindows(kind.window, kind.blocks ? lasting.inward : lasting.outward), groups);
      }
    }
  }

  private by(list: ListNumber): RouteList["by"] {
    if ((list & 1) === 1) return this.grants.toCardholder[list >> 1] === -1 ? "credential" : "cardholder";
    return this.numbers.isDepartment(list >> 1) ? "department" : "membership";
  }

  at(list: ListNumber): RouteList {
    const before = this.made.get(list);
    if (before) return before;
    const chain = (list & 1) === 1 ? [] : this.chainOf(this.numbers.givenBy(list >> 1).group);
    const routes: GrantRoute[] = [];
    this.each(list, (grant, window, groups) => routes.push({ grant, groups: chain.slice(0, groups), window }));
    const made = { by: this.by(list), routes };
    this.made.set(list, made);
    return made;
  }
}
