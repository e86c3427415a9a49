import type { CompiledFacility } from "../compile/compiled-facility";
import { canonicalJson } from "../facility/canonical-json";
import type { DefinitionLine } from "./definitions/definition";
import type { Line } from "./line";
import type { RoundScope } from "./round-terms";

/** Whether two lines of one holder and subject say the same of access and of what speaks against it; use and peers, which change daily, are left aside. */
export const saysTheSame = (a: Line, b: Line): boolean => textOf(a) === textOf(b);

const textOf = ({ hours, override, life, findings }: Line): string =>
  canonicalJson([
    hours.map(({ doors, words, week }) => [doors.map(({ id }) => id), words, week]),
    override,
    life,
    findings.map(({ fingerprint }) => fingerprint),
  ]);

/** Ids of a list with all that hang below them by `parent`. */
function withBelow(objects: readonly { readonly id: string; readonly parent?: string }[], ids: readonly string[]): Set<string> {
  const below = new Map<string, string[]>();
  for (const { id, parent } of objects) if (parent !== undefined) below.set(parent, [...(below.get(parent) ?? []), id]);
  const found = new Set<string>();
  const waiting = [...ids];
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
    if (found.has(id)) continue;
    found.add(id);
    waiting.push(...(below.get(id) ?? []));
  }
  return found;
}

/** What of a line a scope asks for beside the line itself. */
export interface ScopedLine {
  readonly line: Line;
  /** Whether it is otherwise than in the last round, or was not in it. */
  readonly changed: boolean;
}

/**
 * Whether a line belongs to a round of a scope. A line about a card speaks of all that it would open, wherever that is: a round of some sites or areas has
 * the cards of everybody, rather than leave one out.
 */
export function inScope({ facility, cardholderById, indexes }: CompiledFacility, scope: RoundScope): (of: ScopedLine) => boolean {
  const areas = scope.areas && withBelow(facility.areas, scope.areas);
  const departments = scope.departments && withBelow(facility.groups, scope.departments);
  const siteOf = ({ subject }: Line): string | undefined =>
    subject.kind === "site" ? subject.id : subject.kind === "area" ? facility.areas[indexes.of("areas").get(subject.id) ?? -1]?.site : undefined;
  return ({ line, changed }) => {
    if (scope.definitions === "only") return false;
    const { subject, cardholder } = line;
    const site = siteOf(line);
    if (scope.sites && site !== undefined && !scope.sites.includes(site)) return false;
    if (areas && subject.kind !== "credential" && !(subject.kind === "area" && areas.has(subject.id))) return false;
    if (scope.sensitivity !== undefined && line.sensitivity < scope.sensitivity) return false;
    const holder = facility.cardholders[cardholderById.get(cardholder ?? "") ?? -1];
    if (departments && !(holder?.department !== undefined && departments.has(holder.department))) return false;
    // Who is of no stated type counts as employed, as everywhere.
    if (scope.types && !(holder && scope.types.includes(holder.type ?? "employee"))) return false;
    if (scope.only === "findings" && line.findings.length === 0) return false;
    return scope.only !== "changed" || changed;
  };
}

/** What of a definition a scope asks for beside the definition itself. */
export interface ScopedDefinition {
  readonly line: DefinitionLine;
  readonly areas: ReadonlySet<string>;
  readonly sites: ReadonlySet<string>;
  readonly changed: boolean;
}

/** Whether a definition belongs to a round of a scope: it concerns one of its sites or areas. Departments and types tell people apart, and leave none out. */
export function definitionInScope({ facility }: CompiledFacility, scope: RoundScope): (of: ScopedDefinition) => boolean {
  const chosen = scope.areas && withBelow(facility.areas, scope.areas);
  return ({ line, areas, sites, changed }) => {
    if (scope.definitions === undefined || scope.about) return false;
    if (scope.sites && ![...sites].some((site) => scope.sites?.includes(site))) return false;
    if (chosen && ![...areas].some((area) => chosen.has(area))) return false;
    if (scope.sensitivity !== undefined && line.sensitivity < scope.sensitivity) return false;
    if (scope.only === "findings" && line.findings.length === 0) return false;
    return scope.only !== "changed" || changed;
  };
}
