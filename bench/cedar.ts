import { preparsePolicySet, statefulIsAuthorized } from "@cedar-policy/cedar-wasm/nodejs";
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

const quoted = (text: string): string => JSON.stringify(text);
const bound = (minute: number, otherwise: number): number => (Number.isFinite(minute) ? minute : otherwise);

/** The general authorization engine Cedar, with the policies of one door parsed before: as much as can be done for it beforehand. */
export class CedarPeer {
  private readonly prepared = new Set<Position>();
  private readonly chains: (group: string) => readonly string[];
  private readonly zone: Zone;

  constructor(private readonly compiled: CompiledFacility) {
    this.chains = groupChains(compiled);
    this.zone = zoneOf(compiled.facility.timeZone);
  }

  prepare(door: Position): void {
    if (this.prepared.has(door)) return;
    const policies: string[] = [];
    for (const grant of this.compiled.grantsCovering(door)) {
      const { grant: given, blocks, window, schedule } = required(this.compiled.grants.at(grant), "positions are valid");
      const scheduleId = (position: Position | undefined) => (position === undefined ? undefined : this.compiled.facility.schedules[position]?.id);
      const ways = this.compiled.waysOf(grant).get(door) ?? [];
      for (const way of blocks ? ways.slice(0, 1) : ways) {
        const needed = [blocks ? undefined : scheduleId(way.schedule), scheduleId(schedule)].filter((id): id is string => id !== undefined);
        const conditions = [
          `context.minute >= ${bound(window.from, -1e9)}`,
          `context.minute < ${bound(window.until, 1e9)}`,
          ...needed.map((id) => `context.open.contains(${quoted(id)})`),
        ];
        policies.push(
          `${blocks ? "forbid" : "permit"} (principal in R::${quoted(receiverKey(given.to))}, action, resource) when { ${conditions.join(" && ")} };`,
        );
      }
    }
    const answer = preparsePolicySet(`door ${door}`, { staticPolicies: policies.join("\n") });
    if (answer.type !== "success") throw new Error(JSON.stringify(answer));
    this.prepared.add(door);
  }

  opens(credential: Position, door: Position, at: EpochMinute): boolean {
    this.prepare(door);
    const { compiled } = this;
    const asked = required(compiled.credentials.at(credential), "positions are valid");
    const { zone, calendar } = required(compiled.doors[door], "positions are valid");
    const days = calendar === undefined ? undefined : compiled.calendars[calendar];
    const open = compiled.facility.schedules
      .filter((_, i) => openAt(required(compiled.schedules[i], "positions are valid"), days, zone, at))
      .map(({ id }) => id);
    const membershipWindow = (membership: Position) =>
      objectWindow(required(compiled.facility.memberships[membership], "positions are valid"), this.zone, "outward");
    const receivers = receiversOf(compiled, this.chains, asked, membershipWindow).filter(({ window }) => !window || windowHolds(window, at));
    const uid = (type: string, id: string) => ({ type, id });
    const answer = statefulIsAuthorized({
      principal: uid("C", asked.credential.id),
      action: uid("Action", "open"),
      resource: uid("D", "door"),
      context: { minute: at, open },
      preparsedPolicySetId: `door ${door}`,
      entities: [{ uid: uid("C", asked.credential.id), attrs: {}, parents: receivers.map(({ id }) => uid("R", id)) }],
    });
    if (answer.type !== "success") throw new Error(JSON.stringify(answer));
    return answer.response.decision === "allow";
  }
}
