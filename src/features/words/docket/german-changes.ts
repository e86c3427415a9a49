import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import type { GrantTarget } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import { unreachable } from "@/core/kernel/invariant";
import { parseCivilDay } from "@/core/time/civil-day";
import type { ShownWithdrawal } from "@/operations/certification/withdrawals";
import type { Names } from "../changes";
import { germanCapital, germanCount, germanDate, germanList, germanSome } from "./german-numbers";

const named = (names: Names, kind: string, id: string): string => names[`${kind} ${id}`] ?? id;

/** A date, or a moment of UTC. */
export function germanMoment(text: string): string {
  const date = parseCivilDay(text.slice(0, 10));
  if (date === undefined) return text;
  return text.length === 10 ? germanDate(date) : `${germanDate(date)}, ${text.slice(11, 16)} UTC`;
}

function target(names: Names, open: GrantTarget): string {
  if (open.level !== undefined) return `Stufe ${named(names, "level", open.level)}`;
  if (open.bundle !== undefined) return `Bündel ${named(names, "bundle", open.bundle)}`;
  if (open.door !== undefined) return named(names, "door", open.door);
  return open.doorGroup !== undefined ? `die Türen von ${named(names, "doorGroup", open.doorGroup)}` : `die Türen zu ${named(names, "area", open.area ?? "")}`;
}

function during(names: Names, schedule: unknown): string {
  if (typeof schedule !== "string") return "";
  const name = named(names, "schedule", schedule);
  return name.startsWith("outside ") ? ` außerhalb von ${name.slice("outside ".length)}` : ` während ${name}`;
}

function narrowed({ fields }: DescribedChange, names: Names): string {
  const after = (name: string): unknown => fields.find(({ field }) => field === name)?.after;
  const [schedule, until] = [after("schedule"), after("until")];
  return [
    ...(typeof schedule === "string" ? [`auf ${named(names, "schedule", schedule)}`] : []),
    ...(typeof until === "string" ? [`bis ${germanMoment(until)}`] : []),
  ].join(" und ");
}

function grantWords(described: DescribedChange, names: Names, id: string, object: Plain | undefined): string {
  const { change } = described;
  if (change.do === "remove" || !object) return `die Berechtigung für ${named(names, "grant", id)} beenden`;
  if (change.do === "alter") return `die Berechtigung für ${named(names, "grant", id)} ${narrowed(described, names)} einschränken`;
  const what = target(names, object.open as GrantTarget);
  if (object.effect === "block")
    return `${what}${during(names, object.schedule)} für diese Person sperren${typeof object.from === "string" ? `, ab ${germanMoment(object.from)}` : ""}`;
  return `${what} einzeln geben${during(names, object.schedule)}${typeof object.until === "string" ? `, bis ${germanMoment(object.until)}` : ""}`;
}

/** One change as something to do. */
function changeWords(described: DescribedChange, names: Names): string {
  const { change } = described;
  const object = change.do === "remove" ? undefined : change.object;
  switch (change.list) {
    case "grants":
      return grantWords(described, names, change.id, object);
    case "memberships": {
      const group = named(names, "group", change.membership.group);
      return change.do === "remove" ? `aus ${group} nehmen` : `die Zugehörigkeit zu ${group} mit ${germanMoment(String(object?.until))} enden lassen`;
    }
    case "cardholders":
      return Array.isArray(object?.override)
        ? `die Dauerfreigabe auf ${germanList((object.override as string[]).map((site) => named(names, "site", site)))} beschränken`
        : "die Dauerfreigabe beenden";
    case "credentials":
      return `${named(names, "credential", change.id)} ${object?.status === "suspended" ? "sperren" : "zurückgeben"}`;
    case "schedules":
      return `einen Zeitplan anlegen,${during({ [`schedule ${change.id}`]: named(names, "schedule", change.id) }, change.id)}`;
    case "sites":
    case "areas":
    case "calendars":
    case "doors":
    case "doorGroups":
    case "levels":
    case "bundles":
    case "groups":
      return `${change.id} ändern`;
    default:
      return unreachable(change);
  }
}

/** What has to be done, and what else that does, as German sentences. */
export function germanWithdrawal({ isPossible, changes, effects, names }: Pick<ShownWithdrawal, "isPossible" | "changes" | "effects" | "names">): string {
  if (!isPossible) return "Das kommt mit etwas, das andere auch haben: keine Änderung nur bei dieser Person nimmt es weg. Entzogen, geht es als Auftrag hinaus, der von Hand zu erledigen ist.";
  if (changes.length === 0) return "Es endet von selbst: nichts muss geändert werden.";
  const done = [...new Set(changes.map((change) => changeWords(change, names)))];
  const doors = (ids: readonly string[]): string => germanSome(ids.map((id) => named(names, "door", id)));
  const { lost, narrowed: fewer, staysLess, others } = effects;
  const people = new Set(others.map(({ holder: { kind, id } }) => `${kind} ${id}`)).size;
  return [
    `${germanCapital(germanList(done))}.`,
    lost.length > 0 ? `Fällt auch weg: ${doors(lost)}.` : "",
    fewer.length > 0 ? `Weniger Stunden an ${doors(fewer.map(({ door }) => door))}.` : "",
    staysLess.length > 0 ? `Weniger, als bleiben darf, an ${doors(staysLess.map(({ door }) => door))}.` : "",
    lost.length + fewer.length + staysLess.length === 0 ? "Sonst fällt nichts weg." : "",
    people === 0
      ? "Niemand sonst ist betroffen."
      : `${germanCapital(germanCount(people, "eine andere Person verliert", "andere Personen verlieren"))} ebenfalls Zutritt.`,
  ]
    .filter(Boolean)
    .join(" ");
}
