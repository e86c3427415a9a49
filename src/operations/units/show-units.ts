import { credentialLabel } from "@/core/facility/labels";
import { compareCodePoints } from "@/core/kernel/compare";
import type { EntryRule } from "@/core/facility/document";
import type { LocalTime } from "@/core/questions/when";
import { compareEntry } from "@/core/units/compare-entry";
import { compareUnit } from "@/core/units/compare-unit";
import type { UnitDifference } from "@/core/units/compare-unit";
import { changesBetween, memoryText } from "@/core/units/memory-changes";
import { emptyMemory } from "@/core/units/unit-memory";
import type { UnitErring, UnitLimits } from "@/core/units/unit-memory";
import { unitFormat } from "@/core/units/unit-protocol";
import { doorsByUnit } from "@/core/units/unit-sources";
import { roomTaken } from "@/core/units/within-limits";
import type { Shortfall } from "@/core/units/within-limits";
import { localTime } from "@/core/time/zone";
import { instantOf } from "@/core/facility/time-rules";
import type { Account } from "../ports/accounts";
import type { UnitChecked, UnitOfRegister, UnitSending, UnitState } from "../ports/units";
import { demand } from "../rights";
import type { OpenRegister } from "../register/open-register";
import type { Services } from "../services";
import { cardsConcerned, unitSourcesOf, wantedMemory } from "./check-units";
import { clockToleranceSeconds, minuteNow } from "./visit-units";

/** How a unit stands, the worst first. */
export const unitStandings = [
  "silent",
  "other-version",
  "free-otherwise",
  "opens-more",
  "opens-less",
  "asks-otherwise",
  "updating",
  "not-compared",
  "clock-off",
  "not-heard",
  "not-known",
  "in-step",
] as const;
export type UnitStanding = (typeof unitStandings)[number];

/** A unit in the list: doors that name it, or that it was made known for. */
export interface UnitLine {
  readonly id: string;
  readonly doors: readonly { readonly id: string; readonly name: string }[];
  readonly standing: UnitStanding;
  /** Since when it stands so, where that is known. */
  readonly since: string | undefined;
  readonly isSentFromHere: boolean;
  readonly answeredAt: string | undefined;
  readonly clockOff: number | undefined;
  readonly lockdown: boolean;
  readonly checked: UnitChecked | undefined;
  readonly sending: UnitSending | undefined;
  /** What keeps it from being otherwise, in the words of the unit or of whoever asked it. */
  readonly problem: string | undefined;
}

/** After so many seconds without an answer a unit is silent: it is asked every few seconds. */
const silentSeconds = 120;

const secondsBetween = (from: string, to: string): number => instantOf(to).seconds - instantOf(from).seconds;

function standingOf(unit: UnitOfRegister | undefined, snapshot: number, now: string): { readonly standing: UnitStanding; readonly since: string | undefined } {
  if (!unit) return { standing: "not-known", since: undefined };
  const { status, answeredAt, failing, held, sending, clockOff = 0 }: UnitState = unit.state;
  // What was held against another register, or of another memory, says nothing of this one.
  const checked = unit.state.checked?.snapshot === snapshot && unit.state.checked.sum === held?.sum ? unit.state.checked : undefined;
  if (failing && /speaks/.test(failing.words) && failing.words.includes(unitFormat)) return { standing: "other-version", since: failing.since };
  if (answeredAt === undefined || !status) return { standing: "not-heard", since: failing?.since };
  if (failing && secondsBetween(answeredAt, now) > silentSeconds) return { standing: "silent", since: answeredAt };
  if (sending && !sending.problem) return { standing: "updating", since: sending.since };
  if (!checked) return { standing: "not-compared", since: undefined };
  if (checked.free > 0) return { standing: "free-otherwise", since: sending?.since };
  if (checked.more > 0) return { standing: "opens-more", since: sending?.since };
  if (checked.less > 0) return { standing: "opens-less", since: sending?.since };
  if (checked.entry > 0) return { standing: "asks-otherwise", since: sending?.since };
  if (sending) return { standing: "updating", since: sending.since };
  if (Math.abs(clockOff) > clockToleranceSeconds) return { standing: "clock-off", since: undefined };
  return { standing: "in-step", since: undefined };
}

const namedDoors = (doors: readonly { readonly door: { readonly id: string; readonly name: string } }[]) =>
  doors.map(({ door: { id, name } }) => ({ id, name }));

function lineOf(id: string, doors: UnitLine["doors"], unit: UnitOfRegister | undefined, snapshot: number, now: string): UnitLine {
  const { answeredAt, clockOff, status, checked, sending, failing }: UnitState = unit?.state ?? {};
  return {
    id,
    doors,
    ...standingOf(unit, snapshot, now),
    isSentFromHere: unit?.isSentFromHere ?? false,
    answeredAt,
    clockOff,
    lockdown: status?.lockdown ?? false,
    checked,
    sending,
    problem: failing?.words ?? sending?.problem,
  };
}

/** Every unit that a door names or that was made known, what is wrong first. */
export async function listUnits(services: Services, account: Account, { compiled, snapshot }: OpenRegister): Promise<readonly UnitLine[]> {
  demand(account, "read-whole");
  const known = new Map((await services.units.all()).map((unit) => [unit.id, unit]));
  const doors = doorsByUnit(compiled);
  const now = services.now();
  const ids = [...new Set([...doors.keys(), ...known.keys()])];
  return ids
    .map((id) => lineOf(id, namedDoors(doors.get(id) ?? []), known.get(id), snapshot.id, now))
    .sort((a, b) => unitStandings.indexOf(a.standing) - unitStandings.indexOf(b.standing) || compareCodePoints(a.id, b.id));
}

/** A door at which a unit decides of a card otherwise than the register says, with names. */
export interface ShownDifference {
  readonly door: { readonly id: string; readonly name: string };
  /** Undefined where it goes for anybody. */
  readonly card: { readonly id: string; readonly label: string } | undefined;
  readonly holder: { readonly id: string; readonly name: string } | undefined;
  readonly unit: "open" | "closed";
  readonly first: LocalTime;
  readonly timeZone: string;
  readonly minutesMore: number;
  readonly minutesLess: number;
}

export interface ShownUnit {
  readonly line: UnitLine;
  readonly address: string | undefined;
  readonly erring: UnitErring;
  readonly limits: UnitLimits;
  readonly room: Omit<Record<keyof UnitLimits, number>, "windows"> | undefined;
  readonly heldReadAt: string | undefined;
  /** What it holds against the register, the first of it, and how much there is. */
  readonly differences: readonly ShownDifference[];
  readonly differenceCount: number;
  readonly entry: readonly { readonly door: string; readonly register: EntryRule; readonly held: EntryRule; readonly minutes: number }[];
  /** What would be different still once it held all that it has room for. */
  readonly afterSending: {
    readonly isHeld: boolean;
    readonly more: number;
    readonly less: number;
    readonly free: number;
    readonly entry: number;
    readonly first: readonly ShownDifference[];
  };
  readonly shortfalls: readonly (Shortfall & { readonly named: readonly string[] })[];
  readonly isStandIn: boolean;
  /** Cards that could be tried at a stand-in: some of those that it holds, with whose they are. */
  readonly pocket: readonly { readonly id: string; readonly label: string; readonly holder: string | undefined; readonly hasPin: boolean }[];
}

const differencesShown = 60;
const firstShown = 5;
const namedShown = 12;
const pocketSize = 60;

/** What opens more goes before what opens less, and much before little. */
const worstFirst = (a: UnitDifference, b: UnitDifference): number =>
  Number(b.minutesMore > 0) - Number(a.minutesMore > 0) || b.minutesMore + b.minutesLess - (a.minutesMore + a.minutesLess);

/** One unit: what it holds against the register, by access, and what it has no room for. */
export async function showUnit(services: Services, account: Account, { compiled, snapshot }: OpenRegister, id: string): Promise<ShownUnit | undefined> {
  demand(account, "read-whole");
  const unit = await services.units.byId(id);
  const sources = unitSourcesOf(compiled);
  const doors = sources.doorsOf.get(id);
  if (!unit && !doors) return undefined;
  const { facility, credentialById, cardholderById, doors: allDoors, doorById } = compiled;
  const cardOf = (credential: string) => facility.credentials[credentialById.get(credential) ?? -1];
  const holderOf = (credential: string) => facility.cardholders[cardholderById.get(cardOf(credential)?.cardholder ?? "") ?? -1];
  const labelOf = (credential: string): string => {
    const card = cardOf(credential);
    return card ? credentialLabel(card) : credential;
  };
  const shown = ({ door: at, credential, unit: decides, first, minutesMore, minutesLess }: UnitDifference): ShownDifference => {
    const door = allDoors[doorById.get(at) ?? -1];
    const holder = credential === undefined ? undefined : holderOf(credential);
    return {
      door: { id: at, name: door?.door.name ?? at },
      card: credential === undefined ? undefined : { id: credential, label: labelOf(credential) },
      holder: holder && { id: holder.id, name: holder.name },
      unit: decides,
      first: localTime(door?.zone ?? compiled.vocabulary.zone, first),
      timeZone: (door?.zone ?? compiled.vocabulary.zone).name,
      minutesMore,
      minutesLess,
    };
  };
  const memory = unit && (await services.units.memoryOf(id));
  const differences = memory ? [...compareUnit(sources, id, memory)].sort(worstFirst) : [];
  const wanted = unit && wantedMemory(compiled, unit, memory ?? emptyMemory, minuteNow(services.now()));
  const isHeld = wanted !== undefined && memory !== undefined && memoryText(wanted.memory) === memoryText(memory);
  const after = wanted ? (isHeld ? differences : [...compareUnit(sources, id, wanted.memory)].sort(worstFirst)) : [];
  const entry = memory ? compareEntry(sources, id, memory) : [];
  // It is held against the register here and now: what was kept of the last time may be older.
  const checked =
    unit && memory && unit.state.held && wanted
      ? {
          snapshot: snapshot.id,
          sum: unit.state.held.sum,
          ...cardsConcerned(differences),
          lacks: changesBetween(memory, wanted.memory).length,
          entry: entry.length,
          shortfalls: wanted.shortfalls,
        }
      : undefined;
  const line = lineOf(id, namedDoors(doors ?? []), unit && checked ? { ...unit, state: { ...unit.state, checked } } : unit, snapshot.id, services.now());
  const namedOf = (one: string): string => (credentialById.get(one) === undefined ? one : (holderOf(one)?.name ?? labelOf(one)));
  return {
    line,
    address: unit?.address,
    erring: unit?.erring ?? "less",
    limits: unit?.state.status?.limits ?? {},
    room: memory && roomTaken(memory),
    heldReadAt: unit?.state.held?.readAt,
    differences: differences.slice(0, differencesShown).map(shown),
    differenceCount: differences.length,
    entry: entry.map(({ door, register, held, minutes }) => ({
      door: facility.doors[doorById.get(door) ?? -1]?.name ?? door,
      register,
      held,
      minutes,
    })),
    afterSending: {
      isHeld,
      ...cardsConcerned(after),
      entry: wanted ? compareEntry(sources, id, wanted.memory).length : 0,
      first: after.slice(0, firstShown).map(shown),
    },
    shortfalls: (wanted?.shortfalls ?? []).map((one) => ({ ...one, named: one.without.slice(0, namedShown).map(namedOf) })),
    isStandIn: services.standInDoors !== undefined && unit !== undefined,
    pocket: (memory?.cards ?? []).slice(0, pocketSize).map((card) => ({
      id: card.id,
      label: labelOf(card.id),
      holder: holderOf(card.id)?.name,
      hasPin: card.hasPin === true,
    })),
  };
}
