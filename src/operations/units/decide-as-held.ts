import { ReadyMemory, decideAtUnit } from "@/core/units/decide-at-unit";
import type { UnitReason } from "@/core/units/decide-at-unit";
import type { CompiledCredential, CompiledDoor } from "@/core/compile/compiled-facility";
import type { AskingMode } from "@/core/paths/paths";
import type { EpochMinute } from "@/core/time/instant";
import type { OpenRegister } from "../register/open-register";
import type { Services } from "../services";

/** What the unit at a door would decide of somebody's cards, by what it told that it holds. */
export interface HeldVerdict {
  readonly unit: string;
  readonly opens: boolean;
  readonly reason: UnitReason;
  /** When it was last heard, and since when it is not, if it is not. */
  readonly answeredAt: string | undefined;
  readonly silentSince: string | undefined;
}

/** As the unit at a door holds it: the first of somebody's cards that it lets in, or why it lets in none. Undefined where no unit told what it holds. */
export async function decideAsHeld(
  { units, snapshots }: Services,
  { snapshot, isDraft }: OpenRegister,
  { door }: CompiledDoor,
  credentials: readonly CompiledCredential[],
  at: EpochMinute,
  { lockdown, asIfLive }: AskingMode,
): Promise<HeldVerdict | undefined> {
  // It knows no other life of a card than the one that it was sent, and nothing of an earlier register or of a draft.
  if (asIfLive || isDraft || door.controller === undefined || door.controller === "") return undefined;
  if ((await snapshots.latest())?.id !== snapshot.id) return undefined;
  const unit = await units.byId(door.controller);
  const memory = unit && (await units.memoryOf(unit.id));
  if (!memory) return undefined;
  const ready = new ReadyMemory(memory);
  const decisions = credentials.map(({ credential, hasPin }) => ({
    decision: decideAtUnit(ready, { door: door.id, card: credential.id, ...(hasPin && { pin: "right" as const }) }, at, lockdown),
  }));
  const told = decisions.find(({ decision }) => decision.granted) ?? decisions[0];
  if (!told) return undefined;
  const { answeredAt, failing } = unit.state;
  return {
    unit: unit.id,
    opens: told.decision.granted,
    reason: told.decision.reason,
    answeredAt,
    silentSince: failing ? (answeredAt ?? failing.since) : undefined,
  };
}
