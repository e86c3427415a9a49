import type { CertifiedBefore, PlannedDefinition } from "@/core/certification/definitions/definition-lines";
import { definitionLines } from "@/core/certification/definitions/definition-lines";
import { definitionKey, definitionsOf } from "@/core/certification/definitions/definitions-of-register";
import { definitionInScope } from "@/core/certification/round-scope";
import type { RoundScope } from "@/core/certification/round-terms";
import type { Finding } from "@/core/findings/finding";
import { groupBy } from "@/core/kernel/compare";
import { Horizon, horizonOf } from "@/core/table/horizon";
import type { CertifiedDefinition } from "../ports/rounds";
import type { OpenRegister } from "../register/open-register";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";

/** A definition of a register: whether it belongs to a round, and since when each of its certifiers has found it right, unchanged. */
export interface DefinitionOfRound extends PlannedDefinition {
  readonly changed: boolean;
  readonly included: boolean;
  readonly keptBefore: (certifier: string | undefined) => string | undefined;
}

/** How definitions were when they were certified last, by their keys, read over the minutes ahead of the present register. */
async function certifiedBefore(services: Services, certified: readonly CertifiedDefinition[], present: Horizon): Promise<Map<string, CertifiedBefore>> {
  const last = new Map(certified.map((one) => [definitionKey(one), one]));
  const before = new Map<string, CertifiedBefore>();
  for (const [snapshot, own] of groupBy(last.values(), (one) => one.snapshot)) {
    const register = await openRegister(services, snapshot);
    if (!register) continue;
    const then = new Map(definitionsOf(new Horizon(register.compiled, present.ahead)).map((defined) => [definitionKey(defined.subject), defined]));
    for (const one of own) before.set(definitionKey(one), { at: one.signedAt, was: then.get(definitionKey(one)) });
  }
  return before;
}

/** The definitions of a register that a round of a scope could have. */
export async function planDefinitions(
  services: Services,
  { compiled }: OpenRegister,
  scope: RoundScope,
  findings: readonly Finding[],
): Promise<DefinitionOfRound[]> {
  const present = horizonOf(compiled);
  const certified = await services.rounds.certifiedDefinitions();
  const before = await certifiedBefore(services, certified, present);
  const byCertifier = new Map(certified.map((one) => [`${definitionKey(one)} ${one.certifier ?? ""}`, one]));
  const isIncluded = definitionInScope(compiled, scope);
  const { settings } = await services.ruleSettings.current();
  return definitionLines(present, findings, (subject) => before.get(definitionKey(subject)), settings).map((planned): DefinitionOfRound => {
    const { since, subject } = planned.line;
    const changed = since === undefined || since.count > 0;
    return {
      ...planned,
      changed,
      included: isIncluded({ ...planned, changed }),
      keptBefore: (certifier) => {
        const own = certifier === undefined ? undefined : byCertifier.get(`${definitionKey(subject)} ${certifier}`);
        return !changed && own?.decision === "keep" ? own.signedAt : undefined;
      },
    };
  });
}
