import { agreementOf } from "@/core/events/agreement";
import { cardKey, ownersIn } from "@/core/events/told-card";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { credentialLabel } from "@/core/facility/labels";
import type { Reason } from "@/core/paths/verdict";
import { addDays } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { firstMinuteFrom, localTime, zoneOf } from "@/core/time/zone";
import type { Account } from "../ports/accounts";
import type { StoredEvent } from "../ports/events";
import type { Report } from "../ports/progress";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { wordsOfCard } from "./cards-without-owner";
import { heldAgainst, recordOfTime } from "./record-of-time";

/** A period of local dates of the facility, the last included. */
export interface AskedReplay {
  readonly from: CivilDay;
  readonly to: CivilDay;
}

/** What events that did otherwise than the record says have in common. */
export interface Difference {
  readonly key: string;
  readonly name: string;
  readonly events: number;
}

export interface ReplayedDay {
  readonly date: CivilDay;
  readonly agree: number;
  readonly differ: number;
}

/** One event that did otherwise, to be told in full. */
export interface DifferingEvent {
  readonly second: number;
  readonly door: string;
  readonly doorId: string;
  readonly zone: string;
  readonly card: string;
  readonly cardholder: string | undefined;
  readonly granted: boolean;
  readonly reason: Reason;
  readonly snapshot: number;
}

export interface Replay {
  readonly agree: number;
  readonly differ: number;
  /** Events at doors that the record does not have, or with numbers that several cards have. */
  readonly cannotTell: number;
  readonly days: readonly ReplayedDay[];
  readonly byDoor: readonly Difference[];
  readonly byPerson: readonly Difference[];
  /** By what happened and what the record says, such as `granted expired`. */
  readonly byReason: readonly Difference[];
  /** The latest, of each reason some. */
  readonly examples: readonly DifferingEvent[];
  /** The snapshots that they were held against; events before the first are held against it. */
  readonly snapshots: readonly number[];
}

const listed = 40;
const examplesOfAReason = 4;
const reportEvery = 5000;

/** Counts by a text, and what they are called. */
class Counted {
  private readonly counts = new Map<string, { readonly name: string; events: number }>();

  add(key: string, name: () => string): void {
    const known = this.counts.get(key);
    if (known) known.events++;
    else this.counts.set(key, { name: name(), events: 1 });
  }

  most(): Difference[] {
    const all = [...this.counts].map(([key, { name, events }]) => ({ key, name, events }));
    return all.sort((a, b) => b.events - a.events || (a.key < b.key ? -1 : 1)).slice(0, listed);
  }
}

/** Holds every event of a period against the record of its time. Cost: a verdict an event; each register of the period is opened once. */
export async function replayEvents(services: Services, account: Account, { from, to }: AskedReplay, report: Report): Promise<Replay | undefined> {
  demand(account, "read-whole");
  report({ step: "reading", done: 0, of: 1 });
  const present = await openRegister(services);
  if (!present) return undefined;
  const { compiled: now } = present;
  const zone = zoneOf(now.facility.timeZone);
  const [first, end] = [firstMinuteFrom(zone, from) * 60, firstMinuteFrom(zone, addDays(to, 1)) * 60];
  const snapshotAt = recordOfTime(await services.snapshots.list());
  const owners = ownersIn(now);
  const days = new Map<CivilDay, { agree: number; differ: number }>();
  const [byDoor, byPerson, byReason] = [new Counted(), new Counted(), new Counted()];
  const examples = new Map<string, StoredEvent[]>();
  const snapshots = new Set<number>();
  let [agree, differ, cannotTell, looked] = [0, 0, 0, 0];
  let held: { readonly id: number; readonly compiled: CompiledFacility } | undefined;
  for await (const event of services.events.between(first, end)) {
    if (++looked % reportEvery === 0) report({ step: "storing", done: looked, of: 0 });
    const id = snapshotAt(event.second)?.id ?? present.snapshot.id;
    if (held?.id !== id) {
      const snapshot = await services.snapshots.byId(id);
      held = { id, compiled: snapshot ? await services.compiled(snapshot) : now };
      snapshots.add(id);
    }
    const agreement = agreementOf(held.compiled, event);
    if (agreement.agrees === "cannot-tell") {
      cannotTell++;
      continue;
    }
    const { date } = localTime(zone, Math.floor(event.second / 60) as EpochMinute);
    const day = days.get(date) ?? { agree: 0, differ: 0 };
    days.set(date, day);
    if (agreement.agrees === "yes") {
      agree++;
      day.agree++;
      continue;
    }
    differ++;
    day.differ++;
    const what = `${event.granted ? "granted" : "refused"} ${agreement.says.reason}`;
    byReason.add(what, () => what);
    byDoor.add(event.door, () => now.facility.doors[now.doorById.get(event.door) ?? -1]?.name ?? event.door);
    const owner = owners.ownerOf(event);
    const credential = typeof owner === "number" ? now.facility.credentials[owner] : undefined;
    const holder = now.facility.cardholders[now.cardholderById.get(credential?.cardholder ?? "") ?? -1];
    const card = cardKey(event);
    byPerson.add(
      holder ? `cardholder:${holder.id}` : credential ? `credential:${credential.id}` : card,
      () => holder?.name ?? (credential ? credentialLabel(credential) : wordsOfCard(event)),
    );
    const same = examples.get(what) ?? [];
    examples.set(what, [...same.slice(-(examplesOfAReason - 1)), event]);
  }
  const told = [...examples.values()].flat().sort((a, b) => b.second - a.second);
  const against = await heldAgainst(services, told);
  return {
    agree,
    differ,
    cannotTell,
    days: [...days].sort(([a], [b]) => a - b).map(([date, counts]) => ({ date, ...counts })),
    byDoor: byDoor.most(),
    byPerson: byPerson.most(),
    byReason: byReason.most(),
    snapshots: [...snapshots].sort((a, b) => a - b),
    examples: told.flatMap((event, i): DifferingEvent[] => {
      const one = against[i];
      if (!one || one.agreement.agrees === "cannot-tell") return [];
      const door = now.doors[now.doorById.get(event.door) ?? -1];
      const owner = owners.ownerOf(event);
      const credential = typeof owner === "number" ? now.facility.credentials[owner] : undefined;
      return [
        {
          second: event.second,
          door: door?.door.name ?? event.door,
          doorId: event.door,
          zone: door?.zone.name ?? now.facility.timeZone,
          card: credential ? credentialLabel(credential) : wordsOfCard(event),
          cardholder: now.facility.cardholders[now.cardholderById.get(credential?.cardholder ?? "") ?? -1]?.name,
          granted: event.granted,
          reason: one.agreement.says.reason,
          snapshot: one.snapshot,
        },
      ];
    }),
  };
}
