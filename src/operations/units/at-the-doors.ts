import type { Presented } from "@/core/units/decide-at-unit";
import type { UnitEvent } from "@/core/units/unit-protocol";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { visitUnits } from "./visit-units";

/** What came of something done at a door of a stand-in. */
export type AtTheDoor = { readonly event: UnitEvent } | { readonly failed: string };

async function tried(services: Services, work: () => Promise<object>): Promise<AtTheDoor> {
  try {
    const event = (await work()) as UnitEvent;
    // What happened is in the register at once, as far as the unit can be heard.
    await visitUnits(services, true);
    return { event };
  } catch (error) {
    return { failed: error instanceof Error ? error.message : "It does not answer." };
  }
}

const noStandIns = { failed: "No stand-in controllers run here." } as const;

/** Presents a card, a PIN or both at a door of a unit that ships. */
export async function presentAtUnit(services: Services, account: Account, unit: string, presented: Presented): Promise<AtTheDoor> {
  demand(account, "tend-units");
  const { standInDoors } = services;
  return standInDoors ? tried(services, () => standInDoors.present(unit, presented)) : noStandIns;
}

/** Forces a door of a unit that ships, or holds it open for too long. */
export async function disturbDoor(services: Services, account: Account, unit: string, door: string, what: "forced" | "held"): Promise<AtTheDoor> {
  demand(account, "tend-units");
  const { standInDoors } = services;
  return standInDoors ? tried(services, () => standInDoors.happen(unit, door, what)) : noStandIns;
}

/** What can be done to a stand-in that no real unit would let be done to it from here. */
export interface UnitTreatment {
  readonly isOffline?: boolean;
  readonly clockOff?: number;
  readonly passback?: boolean;
}

export async function treatUnit(services: Services, account: Account, unit: string, treatment: UnitTreatment): Promise<"done" | { readonly failed: string }> {
  demand(account, "tend-units");
  if (!services.standInDoors) return noStandIns;
  try {
    await services.standInDoors.treat(unit, treatment);
    await visitUnits(services, true);
    return "done";
  } catch (error) {
    return { failed: error instanceof Error ? error.message : "It does not answer." };
  }
}
