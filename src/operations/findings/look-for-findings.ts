import { horizonOf } from "@/core/table/horizon";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { findAll } from "@/core/findings/find";
import type { Findings } from "@/core/findings/finding";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";

/** Counts the dates with events by the sites and clocks that a register gives its doors. */
export const countDatesBy = (services: Services, compiled: CompiledFacility): Promise<void> =>
  services.events.countDates((door) => {
    const at = compiled.doors[compiled.doorById.get(door) ?? -1];
    return at && { site: at.door.site, zone: at.zone.name };
  });

/** What should not be in a register, with what the events say up to its export. The dates with events are counted by where its doors are. */
export async function findingsIn(services: Services, compiled: CompiledFacility): Promise<Findings> {
  await countDatesBy(services, compiled);
  const horizon = horizonOf(compiled);
  return findAll(horizon, await services.events.lastUses(horizon.asOf));
}

/** Looks for the findings of the latest snapshot, or of another one, and keeps them; those it had are replaced. */
export async function lookForFindings(services: Services, snapshot?: number): Promise<void> {
  const register = await openRegister(services, snapshot);
  if (register) await services.findings.put(register.snapshot.id, await findingsIn(services, register.compiled), services.now());
}
