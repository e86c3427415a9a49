import { compareAccess } from "../../compare/compare-access";
import { compileFacility } from "../../compile/compile-facility";
import type { FacilityChange } from "../../facility/facility-change";
import { withChanges } from "../../facility/facility-change";
import type { HolderId } from "../../facility/holder-id";
import { byText } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import { ordinary } from "../../paths/paths";
import type { Horizon } from "../../table/horizon";
import { intersect, totalMinutes } from "../../time/intervals";
import type { MayStay } from "./wish";
import { holderOf, mayStayAt, stayOf } from "./wish";

/** A door that opens at fewer minutes than before. */
export interface FewerMinutes {
  readonly door: string;
  readonly minutesLess: number;
}

/** What changes do to access, in ordinary times; lists sorted by id. */
export interface WithdrawalEffects {
  /** Doors, not asked, that the holder opened and opens no more. */
  readonly lost: readonly string[];
  /** Doors, not asked, that the holder still opens, at fewer minutes. */
  readonly narrowed: readonly FewerMinutes[];
  /** Doors asked that the holder opens at fewer minutes than may stay. */
  readonly staysLess: readonly FewerMinutes[];
  readonly others: readonly (FewerMinutes & { readonly holder: HolderId })[];
}

/** Doors that shall no longer open, but for what may stay there. */
export interface AskedDoors {
  readonly doors: readonly string[];
  readonly stays: MayStay;
}

/** What effects are told of: whose, at which doors, and what may stay there; `also` where the same changes serve several wishes. */
export interface EffectsOf extends AskedDoors {
  readonly holder: HolderId;
  readonly also?: readonly AskedDoors[];
}

/**
 * What changes do, read off: the changed register is laid out beside the old one, and everybody's access at every door compared. Cost: what
 * of the register has changed, laid out, and one look at each holder.
 */
export function withdrawalEffects(horizon: Horizon, changes: readonly FacilityChange[], { holder: of, doors, stays, also = [] }: EffectsOf): WithdrawalEffects {
  const { compiled, ahead } = horizon;
  const after = horizon.beside(compileFacility(withChanges(compiled.facility, changes), compiled)).table(ordinary);
  const table = horizon.table(ordinary);
  const holder = required(holderOf(compiled, of), "the holder of a wish is in the document");
  const asked = new Map([{ doors, stays }, ...also].flatMap((one) => one.doors.map((door) => [door, stayOf(compiled, ahead, one.stays)] as const)));
  const [lost, narrowed, staysLess, others]: [string[], FewerMinutes[], FewerMinutes[], (FewerMinutes & { holder: HolderId })[]] = [[], [], [], []];
  for (const { kind, id, changes: doorChanges } of compareAccess(table, after))
    for (const { door, change, before: was, after: is, minutesLess } of doorChanges) {
      if (kind !== of.kind || id !== of.id) {
        if (minutesLess > 0) others.push({ holder: { kind, id }, door, minutesLess });
        continue;
      }
      const stay = asked.get(door);
      if (!stay) {
        if (change === "lost") lost.push(door);
        else if (minutesLess > 0) narrowed.push({ door, minutesLess });
      } else {
        const position = required(compiled.doorById.get(door), "the door is in the document");
        const mayStay = mayStayAt(compiled, table.timeframe, stay, required(holder.credentials[0], "who opens something has a credential"), position);
        const less = totalMinutes(intersect(table.timelines.set(table.timelines.subtract(was, is)), mayStay));
        if (less > 0) staysLess.push({ door, minutesLess: less });
      }
    }
  const byDoor = byText(({ door }: FewerMinutes) => door);
  const byId = byText(({ holder: { id } }: { holder: HolderId }) => id);
  const byKind = byText(({ holder: { kind } }: { holder: HolderId }) => kind);
  return {
    lost: lost.sort(byText((door) => door)),
    narrowed: narrowed.sort(byDoor),
    staysLess: staysLess.sort(byDoor),
    others: others.sort((a, b) => byId(a, b) || byKind(a, b) || byDoor(a, b)),
  };
}
