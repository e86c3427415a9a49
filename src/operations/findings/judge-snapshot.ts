import type { Judged } from "@/core/findings/judged";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";
import { judged, judgedHorizon, judgingOf } from "./judging";
import { countEventsBy, countForPresent } from "./look-for-findings";

/** A snapshot as its rules judge it, with what is kept of events, what was before it and what was decided; undefined where there is no such snapshot. */
export async function judgeSnapshot(services: Services, snapshot: number): Promise<Judged | undefined> {
  const register = await openRegister(services, snapshot);
  if (!register) return undefined;
  await countEventsBy(services, register.compiled);
  const judging = await judgingOf(services, register.compiled, snapshot);
  await countForPresent(services, snapshot);
  return judged(judgedHorizon(register.compiled, judging.settings), judging);
}
