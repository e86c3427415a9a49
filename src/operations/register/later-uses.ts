import type { WithLaterUses } from "@/core/events/later-uses";
import { withLaterUses } from "@/core/events/later-uses";
import type { LastUseOf } from "@/core/register/columns";
import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import { lastUsesIn } from "./last-uses";
import { onHorizon } from "./on-register";
import type { OpenRegister } from "./open-register";

/** What the uses that were counted make of each register. */
const known = new WeakMap<LastUseOf, WithLaterUses>();

/** A register as the uses since its export leave it: the present one with what the events tell; an earlier one as it was. */
export async function withUses(services: Services, register: OpenRegister): Promise<OpenRegister> {
  // Hardly any register has cards that end by not being used.
  if (!register.compiled.facility.credentials.some(({ expiry }) => expiry?.after === "last-use")) return register;
  const lastUseOf = await lastUsesIn(services, register);
  if (!lastUseOf) return register;
  let laidOver = known.get(lastUseOf);
  if (!laidOver) known.set(lastUseOf, (laidOver = withLaterUses(register.compiled, lastUseOf)));
  return { ...register, ...laidOver };
}

/** An operation that asks who opens what, of the register as the uses since its export leave it. */
export const onUsedHorizon = <A extends unknown[], R>(operation: (services: Services, account: Account, register: OpenRegister, ...asked: A) => R) =>
  onHorizon(
    async (services, account, register, ...asked: A): Promise<Awaited<R>> => await operation(services, account, await withUses(services, register), ...asked),
  );
