import { withAllLists } from "@/core/facility/facility";
import type { FacilityDocument } from "@/core/facility/document";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { candidateDoors } from "@/core/paths/candidates";
import { ordinary } from "@/core/paths/paths";
import { reasonAt } from "@/core/paths/verdict";
import { required } from "@/core/kernel/invariant";
import { minutesADay } from "@/core/time/civil-day";
import { formatInstant, minuteDown, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { asOf } from "./institute";
import { seeded } from "./random";
import type { Random } from "./random";
import { neverSeen } from "./stories";

/** Share of credentials that lie in a drawer: never, or not for a long time, used. */
const forgotten = 0.025;
const daysOfEvents = 396;

const second = (text: string): number => required(parseInstant(text), text).seconds;

/** One row: an id, or a number with a facility code. */
interface MadeEvent {
  readonly second: number;
  readonly door: string;
  readonly credential?: string;
  readonly number?: string;
  readonly facilityCode?: string;
  readonly granted: boolean;
  readonly reason?: string;
}

const lineOf = ({ second: at, door, credential = "", number = "", facilityCode = "", granted, reason = "" }: MadeEvent): string =>
  [formatInstant({ seconds: at, fraction: "" }), door, credential, granted ? "granted" : "refused", reason, number, facilityCode].join(",");

/** Times at which a site told nothing, and doors that fell silent. */
const silences: readonly { readonly site?: string; readonly door?: string; readonly from: string; readonly to: string }[] = [
  // The line to the island was down after a storm.
  { site: "island", from: "2026-03-10T00:00:00Z", to: "2026-03-24T00:00:00Z" },
  { door: "g-shop", from: "2026-09-30T00:00:00Z", to: asOf },
];

/** What happened once: each a story to be followed from a finding to its events. */
function stories({ facility, cardholderById }: CompiledFacility): MadeEvent[] {
  const cardOf = (name: string): string => {
    const holder = facility.cardholders.find((one) => one.name === name)?.id;
    return required(facility.credentials.find(({ cardholder }) => cardholder !== undefined && cardholder === holder)?.id, name);
  };
  const cleaner = facility.credentials.find(
    ({ cardholder, status }) => status === "active" && facility.cardholders[cardholderById.get(cardholder ?? "") ?? -1]?.department === "d-cleaning",
  );
  const at = (text: string, door: string, who: Partial<MadeEvent>, granted: boolean, reason?: string): MadeEvent => ({
    second: second(text),
    door,
    granted,
    ...who,
    ...(reason !== undefined && { reason }),
  });
  const stranger = { number: "51177", facilityCode: "87" };
  const of = (name: string): Partial<MadeEvent> => ({ credential: cardOf(name) });
  const [casper, ignace, director] = [of("Casper Nettlerode"), of("Ignace Quillon"), of("Sefa Marchwald")];
  const [orsolya, onLeave] = [of("Orsolya Tamm"), of("Rikard Gorsevik")];
  return [
    // Somebody tries a card that nobody knows at the vault.
    ...["2026-11-02T21:14:08Z", "2026-11-02T21:14:31Z", "2026-11-09T21:02:55Z", "2026-11-16T21:11:40Z"].map((text) =>
      at(text, "v-outer", stranger, false, "unknown-card"),
    ),
    // Barred from the pesticide store, and does not believe it.
    ...[2, 3, 3, 4, 5, 6].map((minute, i) => at(`2026-11-12T07:0${minute}:${10 + 7 * i}Z`, "g-pesticide", casper, false, "blocked")),
    ...[4, 9, 11, 17].map((day) => at(`2026-11-${String(day).padStart(2, "0")}T08:31:0${day % 10}Z`, "g-office-main", onLeave, false, "credential-inactive")),
    // Too early for him; the cleaner opens, and a few minutes later he is inside.
    at("2026-11-11T04:40:05Z", "g-lab-main", ignace, false, "closed-schedule"),
    at("2026-11-11T04:40:27Z", "g-lab-main", { credential: required(cleaner, "somebody cleans").id }, true),
    at("2026-11-11T04:46:10Z", "g-lab-3", ignace, false, "closed-schedule"),
    // The director's card at two ends of the country.
    at("2026-11-05T09:00:12Z", "g-office-main", director, true),
    at("2026-11-05T09:21:40Z", "v-gate", director, true),
    // And then the store lets him in: it was not told of the block.
    at("2026-11-13T07:10:20Z", "g-pesticide", casper, true),
    // A door that had lost its line.
    ...["2026-11-10T10:02:11Z", "2026-11-10T10:02:40Z"].map((text) => at(text, "v-corridor", orsolya, false, "offline")),
    // The clock of the mast was reset, and told of the turn of the millennium.
    ...["2000-01-01T00:04:10Z", "2000-01-01T00:09:33Z"].map((text) => at(text, "i-mast", { number: "1", facilityCode: "0" }, false, "unknown-card")),
  ];
}

/** Some of the doors, in no order. */
function someOf<T>(random: Random, all: readonly T[], share: number): T[] {
  const left = [...all];
  const count = Math.min(all.length, Math.max(2, Math.ceil(all.length * share)));
  return Array.from({ length: count }, () => left.splice(random.below(left.length), 1)[0] as T);
}

/**
 * Thirteen months of events of an institute, in order of time: what people do on their days, by what the resolver says of the present register at that time,
 * and what happened once.
 */
export function* eventsOf(institute: FacilityDocument, seed: number): Generator<MadeEvent> {
  const random = seeded(seed ^ 0x5eed);
  const compiled = compileFacility(withAllLists(institute));
  const end = minuteDown(required(parseInstant(asOf), "the demo's export has an instant"));
  // Who opens a door by night and not by day comes by night. 2026-09-16 is an ordinary Wednesday.
  const [aNight, aNoon] = ["2026-09-16T21:00:00Z", "2026-09-16T10:00:00Z"].map((text) => Math.floor(second(text) / 60)) as [EpochMinute, EpochMinute];
  const habits = compiled.credentials.all().flatMap((credential) => {
    const doors = candidateDoors(compiled, credential);
    const { holder } = credential;
    if (doors.length === 0 || random.chance(forgotten) || !holder || holder.cardholder.name.startsWith("Mirte") || holder.cardholder.name === neverSeen)
      return [];
    // Most people get around; a few use hardly any of the doors that they may open.
    const used = someOf(random, doors, random.chance(0.96) ? 0.85 + random.below(15) / 100 : 0.06);
    const night =
      random.chance(0.7) &&
      used.some(
        (door) => reasonAt(compiled, credential, door, aNight, ordinary) === "open" && reasonAt(compiled, credential, door, aNoon, ordinary) !== "open",
      );
    return [{ credential, used, hour: night ? 19 + random.below(4) : 6 + random.below(9), often: 0.25 + 0.5 * (random.below(100) / 100) }];
  });
  const silent = silences.map(({ site, door, from, to }) => ({ site, door, from: second(from), to: second(to) }));
  const once = stories(compiled).sort((a, b) => a.second - b.second);
  let told = 0;
  for (let day = daysOfEvents; day >= 1; day--) {
    const midnight = (Math.floor(end / minutesADay) - day) * minutesADay;
    const rest = (Math.floor(midnight / minutesADay) + 3) % 7 >= 5;
    const events: MadeEvent[] = [];
    for (const { credential, used, hour, often } of habits) {
      if (!random.chance(rest ? often / 8 : often)) continue;
      // Hardly anybody is at two sites in a day, or comes into a place twice.
      const site = compiled.doors[random.pick(used)]?.door.site;
      const there = used.filter((door) => compiled.doors[door]?.door.site === site);
      const entered = new Set<string>();
      for (let turn = 1 + random.below(3); turn > 0; turn--) {
        const at = (midnight + hour * 60 + random.below(360)) as EpochMinute;
        const position = random.pick(there);
        const { area, from } = required(compiled.doors[position], "positions are valid").door;
        if (area !== undefined && area !== from) {
          if (entered.has(area)) continue;
          entered.add(area);
        }
        const reason = reasonAt(compiled, credential, position, at, ordinary);
        // Nobody tries for long a card that opens nothing any more.
        if (reason !== "open" && !random.chance(reason.endsWith("inactive") || reason === "expired" ? 0.004 : 0.12)) continue;
        const { door } = required(compiled.doors[position], "positions are valid");
        const moment = at * 60 + random.below(60);
        if (silent.some(({ site, door: one, from, to }) => (site === door.site || one === door.id) && moment >= from && moment < to)) continue;
        events.push({ second: moment, door: door.id, credential: credential.credential.id, granted: reason === "open", ...(reason !== "open" && { reason }) });
      }
    }
    const until = (midnight + minutesADay) * 60;
    while (told < once.length && (once[told] as MadeEvent).second < until) events.push(once[told++] as MadeEvent);
    yield* events.sort((a, b) => a.second - b.second);
  }
}

/** The same as CSV (RFC 4180). */
export function* eventLines(institute: FacilityDocument, seed: number): Generator<string> {
  yield "at,door,credential,result,reason,number,facilityCode";
  for (const event of eventsOf(institute, seed)) yield lineOf(event);
}

/** What happened once, as lines: the record does not say all of it. */
export const storyLines = (institute: FacilityDocument): string[] => stories(compileFacility(withAllLists(institute))).map(lineOf);
