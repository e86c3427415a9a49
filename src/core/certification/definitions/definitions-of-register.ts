import type { RuleSettings } from "../../findings/settings";
import { usualSettings } from "../../findings/settings";
import type { Horizon } from "../../table/horizon";
import { calendarDefinitions } from "./calendars";
import type { DefinitionChange, DefinitionSubject } from "./definition";
import { levelDefinitions } from "./levels";
import { privilegeDefinitions } from "./privileges";
import type { Defined, DefinedPart } from "./reading";
import { readingOf } from "./reading";
import { stockDefinitions } from "./stock";
import { unlockingDefinitions } from "./unlocking";

/** All definitions of a register, as they are read over the minutes ahead of a horizon, with the business hours that are set. */
export function definitionsOf(horizon: Horizon, settings: RuleSettings = usualSettings): Defined[] {
  const reading = readingOf(horizon, settings);
  return [levelDefinitions, unlockingDefinitions, calendarDefinitions, stockDefinitions, privilegeDefinitions].flatMap((find) => find(reading));
}

/** What tells a definition from the others of a register. */
export const definitionKey = ({ kind, id }: Pick<DefinitionSubject, "kind" | "id">): string => `${kind} ${id}`;

/**
 * What came to a definition, went from it, or is otherwise than in another register that was read over the same minutes; undefined there means that it was
 * not. Parts that were there first, in their order, then those that came.
 */
export function definitionChanges(was: ReadonlyMap<string, DefinedPart>, is: ReadonlyMap<string, DefinedPart>): DefinitionChange[] {
  const named = ({ id, name }: DefinedPart) => ({ id, name });
  const before = [...was.values()].flatMap((part): DefinitionChange[] => {
    const now = is.get(part.id);
    if (!now) return [{ do: "gone", part: named(part), was: part.says() }];
    return now.key === part.key ? [] : [{ do: "altered", part: named(now), was: part.says(), is: now.says() }];
  });
  return [
    ...before,
    ...[...is.values()].flatMap((part): DefinitionChange[] => (was.has(part.id) ? [] : [{ do: "added", part: named(part), is: part.says() }])),
  ];
}
