import { profilesOf } from "./internal/access-profiles";
import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { subtract } from "../time/intervals";
import { pathsBetween } from "../paths/paths";
import type { Timeframe } from "../paths/timeframe";
import { livingWindow } from "../paths/timeframe";
import { openIn } from "../paths/timetable";

/** Ending a grant that somebody has through their department, and how many others it would take access from. */
export interface GroupRemoval {
  readonly grant: string;
  /** The group that has the grant. */
  readonly group: string;
  /** Cardholders beside those asked about who would open some door less, by the resolver. */
  readonly others: number;
}

/** Whether ending a grant takes anything from a credential, on the minutes of the reading. */
function losesBy(compiled: CompiledFacility, timeframe: Timeframe, credential: CompiledCredential, grant: Position): boolean {
  for (const door of compiled.waysOf(grant).keys()) {
    const paths = pathsBetween(compiled, credential, door);
    const left = paths.filter((path) => path.grant.position !== grant);
    if (left.length === paths.length) continue;
    const before = openIn(compiled, timeframe, credential, door, paths);
    if (subtract(before, openIn(compiled, timeframe, credential, door, left)).length > 0) return true;
  }
  return false;
}

/**
 * The department's grants by which credentials open a door: what would have to be ended to shut it without a block, those that touch
 * fewest others first. Cost: the members of each group, and the doors of the grant until one is lost.
 */
export function groupRemovals(compiled: CompiledFacility, timeframe: Timeframe, credentials: readonly CompiledCredential[], door: Position): GroupRemoval[] {
  const asked = new Set(credentials.map(({ holder }) => holder?.position));
  const profiles = profilesOf(compiled).profileOf;
  const found = new Map<Position, GroupRemoval>();
  for (const credential of credentials)
    for (const path of pathsBetween(compiled, credential, door)) {
      const { position, grant, blocks } = path.grant;
      if (path.by !== "department" || blocks || found.has(position)) continue;
      const group = required(grant.to.group, "what comes through a department is given to a group");
      let others = 0;
      // Most members are like many others: cards of one profile that are live throughout lose alike.
      const byProfile = new Map<number, boolean>();
      const loses = (one: Position): boolean => {
        const credential = required(compiled.credentials.at(one), "positions are valid");
        const isWhole = [credential.life, ...(credential.holder ? [credential.holder.life] : [])].every((life) =>
          timeframe.holdsThroughout(livingWindow(life)),
        );
        if (!isWhole && !timeframe.mode.asIfLive) return losesBy(compiled, timeframe, credential, position);
        const profile = profiles[one] as number;
        let known = byProfile.get(profile);
        if (known === undefined) {
          known = losesBy(compiled, timeframe, credential, position);
          byProfile.set(profile, known);
        }
        return known;
      };
      for (const cardholder of compiled.cardholdersIn(required(compiled.groupById.get(group), "references resolve"))) {
        if (asked.has(cardholder)) continue;
        const credentials = required(compiled.cardholders.at(cardholder), "positions are valid").credentials;
        if (credentials.some(loses)) others++;
      }
      found.set(position, { grant: grant.id, group, others });
    }
  return [...found.values()].sort((a, b) => a.others - b.others || (a.grant < b.grant ? -1 : 1));
}
