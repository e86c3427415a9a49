import type { Enforcer } from "casbin";
import { StringAdapter, newEnforcer, newModelFromString } from "casbin";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { objectWindow } from "@/core/facility/time-rules";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { EpochMinute } from "@/core/time/instant";
import { openAt } from "@/core/time/schedule";
import { windowHolds } from "@/core/time/window";
import type { Zone } from "@/core/time/zone";
import { zoneOf } from "@/core/time/zone";
import { groupChains, receiverKey, receiversOf } from "./peer-data";

const model = `
[request_definition]
r = sub, at, door
[policy_definition]
p = sub, from, until, schedules, eft
[role_definition]
g = _, _
[policy_effect]
e = some(where (p.eft == allow)) && !some(where (p.eft == deny))
[matchers]
m = g(r.sub, p.sub) && inForce(r.at, r.door, p.from, p.until, p.schedules)
`;

/** The authorization library Casbin, with the policies of one door and the roles of those who are asked about. */
export class CasbinPeer {
  private readonly enforcers = new Map<Position, Enforcer>();
  private readonly chains: (group: string) => readonly string[];
  private readonly zone: Zone;

  constructor(private readonly compiled: CompiledFacility) {
    this.chains = groupChains(compiled);
    this.zone = zoneOf(compiled.facility.timeZone);
  }

  async prepare(door: Position): Promise<Enforcer> {
    const known = this.enforcers.get(door);
    if (known) return known;
    const { compiled } = this;
    const lines: string[] = [];
    for (const grant of compiled.grantsCovering(door)) {
      const { grant: given, blocks, window, schedule } = required(compiled.grants.at(grant), "positions are valid");
      const ways = compiled.waysOf(grant).get(door) ?? [];
      for (const way of blocks ? ways.slice(0, 1) : ways) {
        const needed = [blocks ? undefined : way.schedule, schedule].filter((position) => position !== undefined);
        lines.push(`p, ${receiverKey(given.to)}, ${window.from}, ${window.until}, ${needed.join(" ") || "-"}, ${blocks ? "deny" : "allow"}`);
      }
    }
    // The adapter refuses an empty text.
    const enforcer = await (lines.length === 0
      ? newEnforcer(newModelFromString(model))
      : newEnforcer(newModelFromString(model), new StringAdapter(lines.join("\n"))));
    await enforcer.addFunction("inForce", (at: number, doorAt: number, from: string, until: string, schedules: string) => {
      const { zone, calendar } = required(compiled.doors[doorAt], "positions are valid");
      const days = calendar === undefined ? undefined : compiled.calendars[calendar];
      return (
        Number(from) <= at &&
        at < Number(until) &&
        (schedules === "-" ||
          schedules
            .split(" ")
            .every((position) => openAt(required(compiled.schedules[Number(position)], "positions are valid"), days, zone, at as EpochMinute)))
      );
    });
    this.enforcers.set(door, enforcer);
    return enforcer;
  }

  /** Gives the credential its roles as they stand at a minute; done beforehand, as a peer that keeps its roles would have. */
  async know(credential: Position, door: Position, at: EpochMinute): Promise<void> {
    const enforcer = await this.prepare(door);
    const asked = required(this.compiled.credentials.at(credential), "positions are valid");
    const membershipWindow = (membership: Position) =>
      objectWindow(required(this.compiled.facility.memberships[membership], "positions are valid"), this.zone, "outward");
    for (const { id, window } of receiversOf(this.compiled, this.chains, asked, membershipWindow))
      if (!window || windowHolds(window, at)) await enforcer.addRoleForUser(asked.credential.id, id);
  }

  async opens(credential: Position, door: Position, at: EpochMinute): Promise<boolean> {
    const enforcer = await this.prepare(door);
    return enforcer.enforce(required(this.compiled.facility.credentials[credential], "positions are valid").id, at, door);
  }
}
