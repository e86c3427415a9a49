import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { ownersIn } from "@/core/events/told-card";
import type { LastUseOf } from "@/core/register/columns";
import { formatInstant, parseInstant } from "@/core/time/instant";
import type { OpenRegister } from "./open-register";
import type { Services } from "../services";

/** What was made of the uses that were counted, for each register; made anew where others were counted. */
const known = new WeakMap<CompiledFacility, { readonly counted: ReadonlyMap<string, number>; readonly lastUseOf: LastUseOf }>();

/**
 * When each credential of the present register was last used, by its source or the events, whichever is later; of an earlier one by its source alone, as events
 * of later say nothing of it.
 */
export async function lastUsesIn(services: Pick<Services, "events" | "snapshots">, { snapshot, compiled }: OpenRegister): Promise<LastUseOf | undefined> {
  if ((await services.snapshots.latest())?.id !== snapshot.id) return undefined;
  const counted = await services.events.lastUses();
  const made = known.get(compiled);
  if (made?.counted === counted) return made.lastUseOf;
  const owners = ownersIn(compiled);
  const { credentials } = compiled.facility;
  const lastUseOf: LastUseOf = (position) => {
    const seen = Math.max(...owners.keysOf(position).map((key) => counted.get(key) ?? -Infinity));
    const stated = credentials[position]?.lastUse;
    if (!Number.isFinite(seen)) return stated;
    const statedSecond = stated === undefined ? undefined : parseInstant(stated)?.seconds;
    return statedSecond !== undefined && statedSecond >= seen ? stated : formatInstant({ seconds: seen, fraction: "" });
  };
  known.set(compiled, { counted, lastUseOf });
  return lastUseOf;
}
