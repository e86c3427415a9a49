import type { UnitErring } from "@/core/units/unit-memory";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { accessTo } from "./visit-units";

/** A unit as somebody makes it known; without a token the one that is kept stays. */
export interface WrittenUnit {
  readonly id: string;
  readonly address: string;
  readonly token?: string;
  readonly isSentFromHere: boolean;
  readonly erring: UnitErring;
}

export type KeptUnit = "kept" | "no-such-address" | "token-missing";

/** Makes a unit known, or changes what is known of it. Its address is where it answers; nothing is sent before it has. */
export async function keepUnit(services: Services, account: Account, { id, address, token, isSentFromHere, erring }: WrittenUnit): Promise<KeptUnit> {
  demand(account, "keep-units");
  const usable = usableUnitAddress(address);
  if (usable === undefined) return "no-such-address";
  const known = await services.units.byId(id);
  if (!known && (token === undefined || token === "")) return "token-missing";
  await services.units.keep({ id, address: usable, isSentFromHere, erring }, token === "" ? undefined : token, { signIn: account.signIn }, services.now());
  return "kept";
}

/** An address of the web without a name, a password, a question or a part behind a sign; ends on no stroke. */
function usableUnitAddress(text: string): string | undefined {
  if (!URL.canParse(text)) return undefined;
  const url = new URL(text);
  const isPlain = url.username === "" && url.password === "" && url.search === "" && url.hash === "";
  return isPlain && (url.protocol === "http:" || url.protocol === "https:") ? url.href.replace(/\/+$/, "") : undefined;
}

export async function dropUnit(services: Services, account: Account, id: string): Promise<boolean> {
  demand(account, "keep-units");
  return services.units.drop(id, { signIn: account.signIn }, services.now());
}

export type SentToUnit = "done" | "no-such-unit" | { readonly failed: string };

/** Raises or lifts a lockdown at a unit, whoever sends it otherwise. */
export async function setUnitLockdown(services: Services, account: Account, id: string, raised: boolean): Promise<SentToUnit> {
  demand(account, "tend-units");
  const { units, unitDriver, record, now } = services;
  const unit = await units.byId(id);
  if (!unit) return "no-such-unit";
  try {
    const status = await unitDriver.setLockdown(await accessTo(services, unit), raised);
    await units.tell(id, { status, answeredAt: now(), failing: null });
  } catch (error) {
    return { failed: error instanceof Error ? error.message : "It does not answer." };
  }
  await record.append({ signIn: account.signIn }, now(), { what: raised ? "unit.lockdown-raised" : "unit.lockdown-lifted", on: `unit ${id}` });
  return "done";
}

/** Has a unit be read and sent anew at the next visit, although nothing speaks for its being otherwise. */
export async function sendAgain(services: Services, account: Account, id: string): Promise<boolean> {
  demand(account, "tend-units");
  const { units } = services;
  if (!(await units.byId(id))) return false;
  await units.tell(id, { held: null, checked: null, sending: null });
  return true;
}
