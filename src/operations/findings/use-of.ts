import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { cardOfKey, ownersIn } from "@/core/events/told-card";
import type { UseRecord } from "@/core/findings/use";
import type { HolderNumber } from "@/core/questions/asked-people";
import { cardByItself, cardholderAsHolder } from "@/core/questions/asked-people";
import type { EpochMinute } from "@/core/time/instant";
import type { Services } from "../services";
import { placesOf } from "./judging";

/** Of whose uses, at which doors, and up to which minute is asked; all where nothing is said. */
export interface AskedUse {
  readonly credentials?: readonly string[];
  readonly doors?: readonly string[];
  readonly upTo?: EpochMinute;
}

/** How doors were used with the credentials of a register, by the events; a number counts for the credential that alone has it. */
export async function useOf(
  services: Pick<Services, "events" | "ruleSettings">,
  compiled: CompiledFacility,
  { credentials, doors, upTo }: AskedUse,
): Promise<UseRecord> {
  const owners = ownersIn(compiled);
  const cards = credentials?.flatMap((id) => {
    const position = compiled.credentialById.get(id);
    return position === undefined ? [] : owners.keysOf(position);
  });
  const rows = await services.events.uses({ cards, doors, upTo: upTo === undefined ? undefined : upTo * 60 + 59 }, await placesOf(services, compiled));
  const dates = await services.events.dates();
  const lastOf = new Map<string, EpochMinute>();
  const ofDoor = new Map<string, { count: number; last: EpochMinute }>();
  for (const { card, door, uses, last } of rows) {
    const owner = owners.ownerOf(cardOfKey(card));
    const id = typeof owner === "number" ? compiled.facility.credentials[owner]?.id : undefined;
    if (id === undefined) continue;
    const minute = Math.floor(last / 60) as EpochMinute;
    if (minute > (lastOf.get(id) ?? -Infinity)) lastOf.set(id, minute);
    const key = JSON.stringify([id, door]);
    const known = ofDoor.get(key);
    ofDoor.set(key, { count: uses + (known?.count ?? 0), last: Math.max(minute, known?.last ?? -Infinity) as EpochMinute });
  }
  return {
    lastUse: (credential) => lastOf.get(credential),
    useOfDoor: (credential, door) => ofDoor.get(JSON.stringify([credential, door])),
    eventDates: (site) => dates.get(site) ?? [],
  };
}

/** Who was seen opening some doors since a minute, by door: cardholders, and cards by themselves. A number counts for the credential that alone has it. */
export async function usersOfDoors(
  services: Pick<Services, "events" | "ruleSettings">,
  compiled: CompiledFacility,
  doors: readonly string[],
  since: EpochMinute,
): Promise<ReadonlyMap<string, ReadonlySet<HolderNumber>>> {
  const owners = ownersIn(compiled);
  const { holderOf } = compiled.objects.cards;
  const users = new Map<string, Set<HolderNumber>>();
  if (doors.length === 0) return users;
  for (const { card, door, last } of await services.events.uses({ doors }, await placesOf(services, compiled))) {
    const owner = owners.ownerOf(cardOfKey(card));
    if (last < since * 60 || typeof owner !== "number") continue;
    const holder = holderOf[owner] as number;
    const seen = users.get(door) ?? new Set<HolderNumber>();
    users.set(door, seen.add(holder === -1 ? cardByItself(owner) : cardholderAsHolder(holder)));
  }
  return users;
}
