import type { ByHand, DescribedChange, OrderedChange } from "@/core/certification/withdrawal/described-change";
import type { WithdrawalEffects } from "@/core/certification/withdrawal/withdrawal-effects";
import type { GrantTarget } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import { unreachable } from "@/core/kernel/invariant";
import type { Names } from "@/operations/register/drafts/change-names";
import type { ShownWithdrawal } from "@/operations/certification/withdrawals";
import { englishDefinitions } from "./docket/english-definitions";
import { capital, listWords, plural, someWords } from "./numbers";
import { momentWords } from "./times";

export type { Names };

const named = (names: Names, kind: string, id: string): string => names[`${kind} ${id}`] ?? id;

function targetName(names: Names, open: GrantTarget): string {
  if (open.level !== undefined) return `level ${named(names, "level", open.level)}`;
  if (open.bundle !== undefined) return `bundle ${named(names, "bundle", open.bundle)}`;
  if (open.door !== undefined) return named(names, "door", open.door);
  return open.doorGroup !== undefined ? `the doors of ${named(names, "doorGroup", open.doorGroup)}` : `the doors into ${named(names, "area", open.area ?? "")}`;
}

/** The hours of a schedule; one that the planner makes is called "outside" another by itself. */
function duringWords(names: Names, schedule: unknown): string {
  if (typeof schedule !== "string") return "";
  const name = named(names, "schedule", schedule);
  return name.startsWith("outside ") ? ` ${name}` : ` during ${name}`;
}

/** What an altered object then says of schedule and end, as far as it is altered. */
function narrowedWords({ fields }: DescribedChange, names: Names): string {
  const after = (name: string): unknown => fields.find(({ field }) => field === name)?.after;
  const [schedule, until] = [after("schedule"), after("until")];
  return [
    ...(typeof schedule === "string" ? [`to ${named(names, "schedule", schedule)}`] : []),
    ...(typeof until === "string" ? [`to end with ${momentWords(until)}`] : []),
  ].join(" and ");
}

function grantWords(described: DescribedChange, names: Names, id: string, object: Plain | undefined): string {
  const { change } = described;
  if (change.do === "remove" || !object) return `end the grant of ${named(names, "grant", id)}`;
  if (change.do === "alter") return `narrow the grant of ${named(names, "grant", id)} ${narrowedWords(described, names)}`;
  const target = targetName(names, object.open as GrantTarget);
  if (object.effect === "block")
    return `block ${target} for them${duringWords(names, object.schedule)}${typeof object.from === "string" ? ` from ${momentWords(object.from)} on` : ""}`;
  return `give ${target} by itself${duringWords(names, object.schedule)}${typeof object.until === "string" ? `, until ${momentWords(object.until)}` : ""}`;
}

const waysShown = 4;

/** What has to be seen to by hand, and where to look. */
function byHandWords({ ways }: ByHand, names: Names): string {
  const told = ways.map((way) => {
    if (way.kind === "override") return "the standing override";
    const grant = `the grant of ${named(names, "grant", way.grant)}`;
    return way.group === undefined ? grant : `${grant} through ${named(names, "group", way.group)}`;
  });
  return `see to it by hand: no change of what they have takes just this away; it opens by ${someWords(told, waysShown)}`;
}

/** One change as something to do. */
export function changeWords(described: OrderedChange, names: Names): string {
  if ("ways" in described) return byHandWords(described, names);
  if ("task" in described) return `change ${englishDefinitions.title(described.subject)}: “${described.task}”`;
  const { change } = described;
  const object = change.do === "remove" ? undefined : change.object;
  switch (change.list) {
    case "grants":
      return grantWords(described, names, change.id, object);
    case "memberships": {
      const group = named(names, "group", change.membership.group);
      return change.do === "remove" ? `take them out of ${group}` : `let their membership of ${group} end with ${momentWords(String(object?.until))}`;
    }
    case "cardholders":
      return Array.isArray(object?.override)
        ? `narrow the standing override to ${listWords((object.override as string[]).map((site) => named(names, "site", site)))}`
        : "end the standing override";
    case "credentials":
      return `${object?.status === "suspended" ? "suspend" : "return"} ${named(names, "credential", change.id)}`;
    case "schedules":
      return `add a schedule, ${named(names, "schedule", change.id)}`;
    case "sites":
    case "areas":
    case "calendars":
    case "doors":
    case "doorGroups":
    case "levels":
    case "bundles":
    case "groups":
      return `${change.do} ${change.id}`;
    default:
      return unreachable(change);
  }
}

export const changesWords = (changes: readonly DescribedChange[], names: Names): string =>
  listWords([...new Set(changes.map((change) => changeWords(change, names)))]);

const doorsShown = 3;

/** What has to be done, and what else that does, as sentences. */
export function withdrawalWords({ isPossible, changes, effects, names }: Pick<ShownWithdrawal, "isPossible" | "changes" | "effects" | "names">): string {
  if (!isPossible)
    return "It comes with something that others have too: no change of theirs alone takes just this away. Withdrawn, it goes out to be seen to by hand.";
  if (changes.length === 0) return "It is over by itself: nothing has to be changed.";
  return `${capital(changesWords(changes, names))}. ${effectsWords(effects, names)}`;
}

/** What else changes, as sentences. */
export function effectsWords({ lost, narrowed, staysLess, others }: WithdrawalEffects, names: Names): string {
  const doors = (ids: readonly string[]): string =>
    someWords(
      ids.map((id) => named(names, "door", id)),
      doorsShown,
    );
  const people = new Set(others.map(({ holder: { kind, id } }) => `${kind} ${id}`)).size;
  const parts = [
    lost.length > 0 ? `Also lost: ${doors(lost)}.` : "",
    narrowed.length > 0 ? `Fewer hours at ${doors(narrowed.map(({ door }) => door))}.` : "",
    staysLess.length > 0 ? `Less than what may stay at ${doors(staysLess.map(({ door }) => door))}.` : "",
    lost.length + narrowed.length + staysLess.length === 0 ? "Nothing else is lost." : "",
    people === 0 ? "Nobody else is touched." : `${capital(plural(people, "other loses", "others lose"))} access too.`,
  ];
  return parts.filter(Boolean).join(" ");
}
