import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { PositionIndex } from "@/core/compile/position-index";
import type { RoundTerms } from "@/core/certification/round-terms";
import { minutesFor } from "../mail/plan-mails";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { demand } from "../rights";
import type { Services } from "../services";
import type { PlannedLine } from "./plan-dockets";
import { holderName, planDockets } from "./plan-dockets";

/** Something that a round can be narrowed to, and how many lines that has, whatever else is chosen. */
export interface ScopeChoice {
  readonly value: string;
  readonly name: string;
  readonly lines: number;
}

/** What each choice of a scope comes to by itself. */
export interface ScopeChoices {
  readonly sites: readonly ScopeChoice[];
  readonly areas: readonly ScopeChoice[];
  readonly departments: readonly ScopeChoice[];
  readonly types: readonly ScopeChoice[];
  /** Lines into places of at least so much sensitivity. */
  readonly sensitivity: readonly ScopeChoice[];
  readonly findings: number;
  readonly changed: number;
  /** All definitions that the owners of areas could certify, besides. */
  readonly definitions: number;
}

export interface PreviewedDocket {
  /** The cardholder who certifies. */
  readonly id: string;
  readonly certifier: string;
  readonly lines: number;
  readonly flagged: number;
  readonly minutes: number;
  readonly hasAccount: boolean;
}

/** What a round over the latest snapshot would be. */
export interface RoundPreview {
  readonly snapshot: number;
  /** The name of whom alone it is about; undefined where it is about everybody, or the register does not have them. */
  readonly about: string | undefined;
  /** All the lines that there are, and those in scope. */
  readonly all: number;
  readonly lines: number;
  /** How many of these are about definitions. */
  readonly definitions: number;
  readonly flagged: number;
  readonly dockets: readonly PreviewedDocket[];
  /** Lines that nobody certifies, and so fall to the reviewer. */
  readonly uncertified: number;
  /** Certifiers of whom the register has no e-mail address. */
  readonly withoutMail: number;
  readonly choices: ScopeChoices;
}

/** Counts lines by what they can be narrowed to. A line counts for its area and those above, and for its department and those above. */
function scopeChoices({ facility, cardholderById, indexes }: CompiledFacility, planned: readonly PlannedLine[], definitions: number): ScopeChoices {
  const counts = {
    sites: new Map<string, number>(),
    areas: new Map<string, number>(),
    departments: new Map<string, number>(),
    types: new Map<string, number>(),
  };
  const sensitivity = new Map<number, number>();
  const add = <K>(to: Map<K, number>, key: K) => to.set(key, (to.get(key) ?? 0) + 1);
  const chain = (objects: readonly { readonly id: string; readonly parent?: string }[], positions: PositionIndex, id: string | undefined): string[] => {
    const found: string[] = [];
    for (let at = objects[positions.get(id ?? "") ?? -1]; at !== undefined; at = objects[positions.get(at.parent ?? "") ?? -1]) found.push(at.id);
    return found;
  };
  const [areaAt, groupAt] = [indexes.of("areas"), indexes.of("groups")];
  for (const { line } of planned) {
    const { subject } = line;
    if (subject.kind === "area") {
      for (const area of chain(facility.areas, areaAt, subject.id)) add(counts.areas, area);
      const site = facility.areas[areaAt.get(subject.id) ?? -1]?.site;
      if (site !== undefined) add(counts.sites, site);
    } else if (subject.kind === "site") add(counts.sites, subject.id);
    for (let from = 1; from <= line.sensitivity; from++) add(sensitivity, from);
    const holder = facility.cardholders[cardholderById.get(line.cardholder ?? "") ?? -1];
    if (!holder) continue;
    for (const group of chain(facility.groups, groupAt, holder.department)) add(counts.departments, group);
    add(counts.types, holder.type ?? "employee");
  }
  const named = (of: Map<string, number>, objects: readonly { readonly id: string; readonly name: string }[]): ScopeChoice[] =>
    objects.flatMap(({ id, name }) => {
      const lines = of.get(id);
      return lines === undefined ? [] : [{ value: id, name, lines }];
    });
  return {
    sites: named(counts.sites, facility.sites),
    areas: named(counts.areas, facility.areas),
    departments: named(counts.departments, facility.groups),
    types: [...counts.types].map(([type, lines]) => ({ value: type, name: type, lines })),
    sensitivity: [...sensitivity].sort(([a], [b]) => a - b).map(([from, lines]) => ({ value: String(from), name: String(from), lines })),
    findings: planned.filter(({ line }) => line.findings.length > 0).length,
    changed: planned.filter(({ changed }) => changed).length,
    definitions,
  };
}

/** What a round over the latest snapshot would be, before it starts, and what each choice of its scope does. */
export async function previewRound(
  services: Services,
  account: Account,
  terms: Pick<RoundTerms, "scope" | "by">,
  report: Report,
): Promise<RoundPreview | undefined> {
  demand(account, "run-rounds");
  const register = await openRegister(services);
  if (!register) return undefined;
  const { dockets, lines, definitions } = await planDockets(services, register, terms, report);
  const { facility, cardholderById } = register.compiled;
  const cardholder = (id: string) => facility.cardholders[cardholderById.get(id) ?? -1];
  const previewed = dockets
    .flatMap(({ certifier, lines: own, hasAccount }): PreviewedDocket[] => {
      if (certifier === undefined) return [];
      const flagged = own.filter((line) => line.flagged).length;
      const minutes = minutesFor(own.length, flagged);
      return [{ id: certifier, certifier: cardholder(certifier)?.name ?? certifier, lines: own.length, flagged, minutes, hasAccount }];
    })
    .sort((a, b) => b.flagged - a.flagged || b.lines - a.lines);
  const included = [...lines, ...definitions].filter((line) => line.included);
  return {
    snapshot: register.snapshot.id,
    about: terms.scope.about && holderName(register, terms.scope.about),
    all: lines.length,
    definitions: definitions.filter((definition) => definition.included).length,
    lines: included.length,
    flagged: included.filter(({ line }) => line.findings.length > 0).length,
    dockets: previewed,
    uncertified: dockets.find(({ certifier }) => certifier === undefined)?.lines.length ?? 0,
    withoutMail: previewed.filter(({ id }) => (cardholder(id)?.email ?? "") === "").length,
    choices: scopeChoices(register.compiled, lines, definitions.length),
  };
}
