import { required } from "../../kernel/invariant";
import type { Finding } from "../../findings/finding";
import type { RuleSettings } from "../../findings/settings";
import { usualSettings } from "../../findings/settings";
import { doorSensitivity } from "../../compile/door-sensitivity";
import { greatest } from "../../kernel/compare";
import type { Horizon } from "../../table/horizon";
import { ownersOfAreas } from "../certifier";
import { findingsOfLine } from "../line-findings";
import type { DefinitionLine, DefinitionSubject, SinceLastTime } from "./definition";
import { findingsOfDefinitions } from "./definition-findings";
import { definitionChanges, definitionKey, definitionsOf } from "./definitions-of-register";
import type { Defined } from "./reading";

/** When a definition was certified last, and what it was then, read over the same minutes; `was` is undefined where that register did not have it. */
export interface CertifiedBefore {
  readonly at: string;
  readonly was: Defined | undefined;
}

/** A line about a definition, with who certifies it (cardholder ids; nobody where nobody owns an area that it concerns), and the areas and sites concerned. */
export interface PlannedDefinition {
  readonly line: DefinitionLine;
  readonly certifiers: readonly string[];
  readonly areas: ReadonlySet<string>;
  readonly sites: ReadonlySet<string>;
}

const changesKept = 12;
const findingsKept = 5;

function sinceThen({ at, was }: CertifiedBefore, now: Defined): SinceLastTime {
  const changes = definitionChanges(was?.parts() ?? new Map(), now.parts());
  return { at, changes: changes.slice(0, changesKept), count: changes.length };
}

/** The lines about the definitions of a register: each goes to the owners of the areas that it concerns, but to nobody about themself. */
export function definitionLines(
  horizon: Horizon,
  findings: readonly Finding[],
  certifiedBefore: (subject: DefinitionSubject) => CertifiedBefore | undefined,
  settings: RuleSettings = usualSettings,
): PlannedDefinition[] {
  const { compiled } = horizon;
  const { facility } = compiled;
  const against = findingsOfDefinitions(compiled, findings);
  const ownersOf = ownersOfAreas(facility);
  return definitionsOf(horizon, settings).map((defined): PlannedDefinition => {
    const { subject } = defined;
    const { definition, doors, about } = defined.freeze();
    const own = [...(against.get(definitionKey(subject)) ?? [])].sort((a, b) => b.risk - a.risk);
    const before = certifiedBefore(subject);
    const [areas, sites] = [new Set<string>(), new Set<string>()];
    for (const position of doors) {
      const at = required(compiled.doors[position], "positions are valid");
      const area = at.areas[0] === undefined ? undefined : facility.areas[at.areas[0]]?.id;
      if (area !== undefined) areas.add(area);
      sites.add(at.door.site);
    }
    const themselves = new Set(about.map((position) => required(facility.cardholders[position], "positions are valid").id));
    return {
      line: {
        definition,
        subject,
        sensitivity: greatest(
          doors.map((door) => doorSensitivity(compiled, door)),
          0,
        ),
        findings: findingsOfLine(compiled, own.slice(0, findingsKept)),
        ...(own.length > findingsKept && { moreFindings: own.length - findingsKept }),
        ...(before && { since: sinceThen(before, defined) }),
      },
      certifiers: ownersOf(areas, themselves),
      areas,
      sites,
    };
  });
}
