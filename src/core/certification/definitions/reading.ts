import { hoursAtDoors } from "../hours-at-doors";
import { compareCodePoints, groupBy } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { doorSensitivity } from "../../compile/door-sensitivity";
import { BusinessWeeks, businessHoursOf } from "../../findings/business-hours";
import type { RuleSettings } from "../../findings/settings";
import { ordinary } from "../../paths/paths";
import { ordinaryWeekTimeframe } from "../../paths/timeframe";
import type { Timeframe } from "../../paths/timeframe";
import type { Horizon } from "../../table/horizon";
import { contentKey } from "../../time/intervals";
import type { IntervalSet } from "../../time/intervals";
import type { DefinedHours, DefinitionSubject, Definition, FirstNames, Named, PartSays } from "./definition";

/** What definitions of a register are read with: its minutes ahead, an ordinary week, and the words of hours. */
export interface Reading {
  readonly horizon: Horizon;
  readonly compiled: CompiledFacility;
  readonly ahead: Timeframe;
  readonly week: Timeframe;
  readonly business: BusinessWeeks;
  readonly describe: ReturnType<typeof hoursAtDoors>;
}

export function readingOf(horizon: Horizon, settings: RuleSettings): Reading {
  const { compiled, ahead } = horizon;
  return {
    horizon,
    compiled,
    ahead: horizon.timeframe(ordinary),
    week: ordinaryWeekTimeframe(compiled, ahead.from, ordinary),
    business: new BusinessWeeks(compiled, businessHoursOf(settings), ahead.from),
    describe: hoursAtDoors(compiled, ahead.from, ahead.to),
  };
}

/** A part of a definition as it is compared: equal keys say the same. */
export interface DefinedPart extends Named {
  readonly key: string;
  readonly says: () => PartSays;
}

/** What of a definition is frozen, and whom it concerns. */
export interface FrozenDefinition {
  readonly definition: Definition;
  /** The doors that it concerns; their areas' owners certify it. */
  readonly doors: readonly Position[];
  /** Cardholders who cannot certify it, since it is about them. */
  readonly about: readonly Position[];
}

/** A definition of a register: its parts, by id, and what of it is shown; both are worked out when they are asked for. */
export interface Defined {
  readonly subject: DefinitionSubject;
  readonly parts: () => ReadonlyMap<string, DefinedPart>;
  readonly freeze: () => FrozenDefinition;
}

const namesKept = 5;

/** The first few of a list by name. */
export const firstNames = (names: readonly string[], count = names.length): FirstNames => ({ names: names.slice(0, namesKept), count });

export const partsById = (parts: readonly DefinedPart[]): ReadonlyMap<string, DefinedPart> => new Map(parts.map((part) => [part.id, part]));

/** When something opens a door, and what else it does there. */
export interface OpenDoor {
  readonly door: Position;
  readonly open: IntervalSet;
  readonly week: IntervalSet;
  readonly actions: readonly string[];
}

const groupsKept = 20;
const doorsKept = 8;

/** Doors that open at the same times as one, the most sensitive first; of more than some, how many there are besides. */
export function definedHours(
  { compiled, business, describe }: Reading,
  doors: readonly OpenDoor[],
): { readonly hours: DefinedHours[]; readonly moreHours: number } {
  const same = groupBy(
    doors,
    ({ door, open, week }) => `${compiled.doors[door]?.zone.name} ${compiled.doors[door]?.calendar} ${contentKey(week)} ${contentKey(open)}`,
  );
  const weight = (group: readonly OpenDoor[]): number => Math.max(...group.map(({ door }) => doorSensitivity(compiled, door)));
  const groups = [...same.values()].map((group) => ({ group, weight: weight(group) })).sort((a, b) => b.weight - a.weight || b.group.length - a.group.length);
  const hours = groups.slice(0, groupsKept).map(({ group }) => {
    const { door, open, week } = required(group[0], "groups are not empty");
    return {
      doors: group.slice(0, doorsKept).map((one) => namedDoor(compiled, one.door)),
      count: group.length,
      ...describe(open, undefined, door),
      zone: required(compiled.doors[door], "positions are valid").zone.name,
      week,
      outside: business.outside(
        group.map((one) => one.door),
        week,
      ),
    };
  });
  return { hours, moreHours: groups.length - hours.length };
}

export function namedDoor(compiled: CompiledFacility, door: Position): Named {
  const { id, name } = required(compiled.facility.doors[door], "positions are valid");
  return { id, name };
}

/** Doors as parts: two say the same that open at the same minutes and do the same besides. */
export const doorParts = ({ compiled, describe }: Reading, doors: readonly OpenDoor[]): ReadonlyMap<string, DefinedPart> =>
  partsById(
    doors.map(({ door, open, actions }) => ({
      ...namedDoor(compiled, door),
      key: `${contentKey(open)} ${JSON.stringify(actions)}`,
      says: () => ({ kind: "hours", ...describe(open, undefined, door), actions }),
    })),
  );

/** Names of the areas (or sites) that doors lead into, the most sensitive first. */
export function placesOfDoors(compiled: CompiledFacility, doors: Iterable<Position>): string[] {
  const places = new Map<string, number>();
  for (const position of doors) {
    const at = required(compiled.doors[position], "positions are valid");
    const area = at.areas[0];
    const name = area === undefined ? compiled.facility.sites.find(({ id }) => id === at.door.site)?.name : compiled.facility.areas[area]?.name;
    if (name !== undefined) places.set(name, Math.max(places.get(name) ?? 0, doorSensitivity(compiled, position)));
  }
  return [...places].sort((a, b) => b[1] - a[1] || compareCodePoints(a[0], b[0])).map(([name]) => name);
}
