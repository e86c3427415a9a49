import type { FacilityChange } from "../facility/facility-change";
import { normalObject } from "../facility/normal-form";
import type { Plain } from "../facility/object-key";
import { formatInstant } from "../time/instant";
import type { PlannedWithdrawal } from "./line-withdrawal";
import { withdrawDoors } from "./line-withdrawal";
import type { Horizon } from "../table/horizon";
import type { Withdrawable } from "./what-ends";
import type { PlanningTerms } from "./withdrawal/plan-withdrawal";
import { withdrawalEffects } from "./withdrawal/withdrawal-effects";

/** The doors into areas, or below them. */
function doorsInto({ compiled }: Horizon, areas: readonly string[]): string[] {
  const asked = new Set(areas.map((id) => compiled.indexes.of("areas").get(id)));
  return compiled.doors.filter((door) => door.areas.some((area) => asked.has(area))).map(({ door }) => door.id);
}

/** The best way to take it away, and all that this does. What is not in the register any more is left aside. */
export function withdraw(horizon: Horizon, what: Withdrawable, terms?: PlanningTerms): PlannedWithdrawal {
  const { compiled, ahead } = horizon;
  if (!("credentials" in what)) {
    const doors = "doors" in what ? what.doors : doorsInto(horizon, what.areas);
    return withdrawDoors(
      horizon,
      what.holder,
      doors.filter((door) => compiled.doorById.has(door)),
      terms ? { terms } : {},
    );
  }
  const changes = what.credentials.flatMap((id): FacilityChange[] => {
    const found = compiled.credentials.at(compiled.credentialById.get(id) ?? -1);
    if (!found || found.life.inactiveFrom <= ahead.from) return [];
    return [
      {
        do: "alter",
        list: "credentials",
        id,
        object: normalObject(
          { ...(found.credential as unknown as Plain), status: what.status, statusSince: formatInstant({ seconds: ahead.from * 60, fraction: "" }) },
          "credentials",
        ),
      },
    ];
  });
  return { changes, searched: "all", alternative: undefined, effects: withdrawalEffects(horizon, changes, { holder: what.holder, doors: [], stays: {} }) };
}
