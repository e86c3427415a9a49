import { causesOf } from "@/core/compare/causes";
import type { Cause } from "@/core/compare/causes";
import { compareAccess } from "@/core/compare/compare-access";
import type { DoorChange } from "@/core/compare/compare-access";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import { First, firstFew } from "@/core/kernel/compare";
import { directoryOf } from "@/core/register/directory";
import { ordinary } from "@/core/paths/paths";
import type { Horizon } from "@/core/table/horizon";
import type { HolderId } from "@/core/facility/holder-id";

/** What brings a change about, by name. */
export interface NamedCause {
  readonly kind: Cause["kind"];
  readonly name: string;
  readonly what: Cause["what"];
}

/** A person, or a card that nobody holds, that opens a door more or less than before. */
export interface NamedChange {
  readonly holder: HolderId;
  readonly name: string;
  readonly door: string;
  readonly doorName: string;
  readonly sensitivity: number;
  readonly change: DoorChange["change"];
  readonly minutesMore: number;
  readonly minutesLess: number;
  readonly causes: readonly NamedCause[];
}

/** What a change of the register does to access in the 13 months from its export. */
export interface AccessEffect {
  readonly gained: number;
  readonly lost: number;
  readonly hours: number;
  /** How many people are concerned, with cards that nobody holds. */
  readonly people: number;
  /** The weightiest: into the most sensitive areas first, then by how many minutes. */
  readonly changes: readonly NamedChange[];
}

type Named = Parameters<ReturnType<typeof directoryOf>["name"]>[0];

const changesListed = 100;

interface Weighed extends DoorChange {
  readonly sensitivity: number;
}

interface Ranked extends Weighed {
  readonly holder: HolderId;
}

/** The changes that holders with the same rows have in common. */
interface SharedChanges {
  readonly gained: number;
  readonly lost: number;
  readonly hours: number;
  /** As many as are listed at most, the weightiest first. */
  readonly weightiest: readonly Weighed[];
}

const byWeight = (a: Weighed, b: Weighed): number => b.sensitivity - a.sensitivity || b.minutesMore - a.minutesMore || b.minutesLess - a.minutesLess;

/** Compares two registers, one beside the other over the same minutes, by what people open. Cost: the rows that differ, and a look at each person. */
export function effectOnAccess(was: Horizon, is: Horizon): AccessEffect {
  const [before, after] = [was.compiled, is.compiled];
  const counts = { gained: 0, lost: 0, hours: 0, people: 0 };
  const sensitivities = new Map<string, number>();
  const sensitivityOf = (id: string): number => {
    let sensitivity = sensitivities.get(id);
    if (sensitivity === undefined) {
      const [was, is] = [before.doorById.get(id), after.doorById.get(id)];
      sensitivity = Math.max(was === undefined ? 0 : doorSensitivity(before, was), is === undefined ? 0 : doorSensitivity(after, is));
      sensitivities.set(id, sensitivity);
    }
    return sensitivity;
  };
  const shared = new Map<readonly DoorChange[], SharedChanges>();
  const sharedBy = (changes: readonly DoorChange[]): SharedChanges => {
    let found = shared.get(changes);
    if (!found) {
      const of = { gained: 0, lost: 0, hours: 0 };
      for (const { change } of changes) of[change]++;
      found = {
        ...of,
        weightiest: firstFew(
          changes.map((change) => ({ ...change, sensitivity: sensitivityOf(change.door) })),
          changesListed,
          byWeight,
        ),
      };
      shared.set(changes, found);
    }
    return found;
  };
  const first = new First<Ranked>(changesListed, byWeight);
  for (const { kind, id, changes } of compareAccess(was.table(ordinary), is.table(ordinary))) {
    const { gained, lost, hours, weightiest } = sharedBy(changes);
    counts.people++;
    counts.gained += gained;
    counts.lost += lost;
    counts.hours += hours;
    // Once one is too light, those after it are so as well.
    for (const change of weightiest) if (!first.offer({ ...change, holder: { kind, id } })) break;
  }
  const nameIn = (kind: Named, id: string): string => {
    const name = directoryOf(after).name(kind, id);
    return name === id ? directoryOf(before).name(kind, id) : name;
  };
  const named = ({ kind, id, what, entry }: Cause): NamedCause => ({ kind, what, name: entry ?? causeName(kind, id) });
  const credentialName = (id: string): string => directoryOf(after.credentialById.has(id) ? after : before).credentialName(id);
  const causeName = (kind: Cause["kind"], id: string): string => {
    if (kind === "credential") return credentialName(id);
    if (kind === "grant" || kind === "calendarEntry") return id;
    return nameIn(kind === "membership" ? "group" : kind, id);
  };
  return {
    ...counts,
    changes: first.items().map(({ holder, door, change, minutesMore, minutesLess, sensitivity }) => ({
      holder,
      name: holder.kind === "cardholder" ? nameIn("cardholder", holder.id) : credentialName(holder.id),
      door,
      doorName: nameIn("door", door),
      sensitivity,
      change,
      minutesMore,
      minutesLess,
      causes: causesOf(before, after, holder, door).map(named),
    })),
  };
}
