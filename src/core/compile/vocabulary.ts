import { TextNumbers } from "../kernel/pair-table";
import type { Cardholder } from "../facility/document";
import type { Zone } from "../time/zone";
import { GrantKinds } from "./grant-kinds";
import { WrittenWindows } from "./written-windows";

const setText = (set: true | readonly string[] | undefined): string => (set === undefined ? "" : set === true ? "*" : JSON.stringify([...set].sort()));

/**
 * Numbers for what objects of a register say about access, by the words with which they say it. It speaks of no position, so that a facility
 * compiled after another one goes on with its vocabulary, and what an unchanged object says keeps its number.
 */
export class Vocabulary {
  readonly windows: WrittenWindows;
  readonly grantKinds: GrantKinds;
  private readonly knownPersonalRules = new TextNumbers();

  /** Dates are read on the wall clock of the zone. */
  constructor(readonly zone: Zone) {
    this.windows = new WrittenWindows(zone);
    this.grantKinds = new GrantKinds(this.windows);
  }

  /** What beside grants decides what a cardholder opens, as a number; 0 for most, who have nothing of it. */
  personalRules({ calendar, hours, sites, override, lockdownPass, pinExempt }: Cardholder): number {
    if (calendar === undefined && hours === undefined && sites === undefined && !override && !lockdownPass && !pinExempt) return 0;
    return this.knownPersonalRules.number(
      JSON.stringify([calendar ?? 0, hours ?? 0, setText(sites), setText(override || undefined), !!lockdownPass, !!pinExempt]),
    );
  }
}
