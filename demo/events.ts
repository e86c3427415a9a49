import { withAllLists } from "@/core/facility/facility";
import type { FacilityDocument } from "@/core/facility/document";
import { compileFacility } from "@/core/compile/compile-facility";
import { candidateDoors } from "@/core/paths/candidates";
import { ordinary } from "@/core/paths/paths";
import { reasonAt } from "@/core/paths/verdict";
import { required } from "@/core/kernel/invariant";
import { minutesADay } from "@/core/time/civil-day";
import { formatMinute, minuteDown, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { asOf } from "./institute";
import { seeded } from "./random";

/** Share of credentials that lie in a drawer: never, or not for a long time, used. */
const forgotten = 0.06;
const daysOfEvents = 396;

/**
 * Thirteen months of events of an institute as CSV (RFC 4180), in order of time: at, door, credential, result, reason.
 * Whether a door opened is what the resolver says of the present register at that time.
 */
export function* eventLines(institute: FacilityDocument, seed: number): Generator<string> {
  const random = seeded(seed ^ 0x5eed);
  const compiled = compileFacility(withAllLists(institute));
  const end = minuteDown(required(parseInstant(asOf), "the demo's export has an instant"));
  // Who opens a door by night and not by day comes by night. 2026-09-16 is an ordinary Wednesday.
  const [aNight, aNoon] = ["2026-09-16T21:00:00Z", "2026-09-16T10:00:00Z"].map((text) => minuteDown(required(parseInstant(text), text))) as [
    EpochMinute,
    EpochMinute,
  ];
  const habits = compiled.credentials.all().flatMap((credential) => {
    const doors = candidateDoors(compiled, credential);
    const { holder } = credential;
    if (doors.length === 0 || random.chance(forgotten) || !holder || holder.cardholder.name.startsWith("Mirte")) return [];
    // People use few of the doors that they may open, and most of them at their own hours.
    const used = Array.from({ length: Math.min(doors.length, 3 + random.below(5)) }, () => random.pick(doors));
    const night =
      random.chance(0.7) &&
      used.some(
        (door) => reasonAt(compiled, credential, door, aNight, ordinary) === "open" && reasonAt(compiled, credential, door, aNoon, ordinary) !== "open",
      );
    return [{ credential, used, hour: night ? 19 + random.below(4) : 6 + random.below(9), often: 0.25 + 0.5 * (random.below(100) / 100) }];
  });
  yield "at,door,credential,result,reason";
  for (let day = daysOfEvents; day >= 1; day--) {
    const midnight = (Math.floor(end / minutesADay) - day) * minutesADay;
    const rest = (Math.floor(midnight / minutesADay) + 3) % 7 >= 5;
    const events: { at: number; line: string }[] = [];
    for (const { credential, used, hour, often } of habits) {
      if (!random.chance(rest ? often / 8 : often)) continue;
      const at = (midnight + hour * 60 + random.below(360)) as EpochMinute;
      const door = random.pick(used);
      const reason = reasonAt(compiled, credential, door, at, ordinary);
      if (reason !== "open" && !random.chance(0.15)) continue;
      const id = required(compiled.doors[door], "positions are valid").door.id;
      events.push({
        at,
        line: `${formatMinute(at)},${id},${credential.credential.id},${reason === "open" ? "granted" : "refused"},${reason === "open" ? "" : reason}`,
      });
    }
    events.sort((a, b) => a.at - b.at);
    for (const { line } of events) yield line;
  }
}
