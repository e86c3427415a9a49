import { runTrial } from "@/core/evidence/trials";
import type { Trial, TrialResult } from "@/core/evidence/trials";
import { instantOf } from "@/core/facility/time-rules";
import { credentialLabel } from "@/core/facility/labels";
import { minuteDown } from "@/core/time/instant";
import { localTime } from "@/core/time/zone";
import type { LocalTime } from "@/core/questions/when";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { KeptTrial } from "../ports/trials";
import { demand } from "../rights";
import type { Services } from "../services";

/** So many trials are kept; each is run whenever they are looked at. */
export const mostTrials = 1000;

/** A trial as it comes out in a register. */
export interface RunTrial extends KeptTrial, TrialResult {
  /** The card by name; its id where the register does not hold it. */
  readonly card: string;
  /** Whose it is, where the register tells. */
  readonly holder: string | undefined;
  readonly doorName: string;
  /** The instant on the clock of the door's site; undefined where there is no such door. */
  readonly there: LocalTime | undefined;
  readonly zone: string | undefined;
}

/** Every trial, run anew in a register. Cost: the paths of each pair. */
export async function runTrials(services: Services, account: Account, { compiled, sites }: OpenRegister): Promise<readonly RunTrial[]> {
  demand(account, "ask");
  const { facility, credentialById, doorById, cardholderById, doors } = compiled;
  const kept = await services.trials.kept();
  // Of doors beyond their sites somebody limited to some is told nothing, least of all that they stay shut.
  const shown = sites === undefined ? kept : kept.filter(({ credential, door }) => doorById.has(door) && credentialById.has(credential));
  return shown.map((trial): RunTrial => {
    const credential = facility.credentials[credentialById.get(trial.credential) ?? -1];
    const door = doors[doorById.get(trial.door) ?? -1];
    return {
      ...trial,
      ...runTrial(compiled, trial),
      card: credential ? credentialLabel(credential) : trial.credential,
      holder: facility.cardholders[cardholderById.get(credential?.cardholder ?? "") ?? -1]?.name,
      doorName: door?.door.name ?? trial.door,
      there: door && localTime(door.zone, minuteDown(instantOf(trial.at))),
      zone: door?.zone.name,
    };
  });
}

/** Writes a trial down, to be run again on later registers. */
export async function addTrial(services: Services, account: Account, trial: Trial): Promise<"written" | "full"> {
  demand(account, "triage");
  if ((await services.trials.kept()).length >= mostTrials) return "full";
  await services.trials.add(trial, { signIn: account.signIn }, services.now());
  return "written";
}

export async function dropTrial(services: Services, account: Account, id: number): Promise<boolean> {
  demand(account, "triage");
  return services.trials.drop(id, { signIn: account.signIn }, services.now());
}
