import { localDate } from "@/core/findings/written";
import { eventParameters, own } from "@/core/findings/settings";
import { instantOf } from "@/core/facility/time-rules";
import { formatCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { minuteDown } from "@/core/time/instant";
import type { OpenRegister } from "../register/open-register";
import type { Services } from "../services";

/** A door that told something once, and has told nothing for long. */
export interface SilentDoor {
  readonly id: string;
  readonly name: string;
  /** The last date of its site on which it told something. */
  readonly last: string;
}

/** Doors of a register that have told nothing for more days than may lie between two dates with events, up to its export; those silent longest first. */
export async function silentDoors(services: Pick<Services, "events" | "ruleSettings">, { compiled }: OpenRegister): Promise<SilentDoor[]> {
  const { settings } = await services.ruleSettings.current();
  const gap = own(own(settings.parameters, "events"), "gapDays") ?? eventParameters.gapDays;
  const last = await services.events.lastDates();
  const asOf = minuteDown(instantOf(compiled.facility.asOf));
  return compiled.doors
    .flatMap(({ door: { id, name }, zone }) => {
      const date = last.get(id);
      return date !== undefined && localDate(zone, asOf) - date > gap ? [{ id, name, date }] : [];
    })
    .sort((a, b) => a.date - b.date || (a.id < b.id ? -1 : 1))
    .map(({ id, name, date }) => ({ id, name, last: formatCivilDay(date as CivilDay) }));
}
