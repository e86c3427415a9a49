import type { Account } from "../ports/accounts";
import type { LookedAt, LookUp } from "../ports/look-ups";
import { demand } from "../rights";
import type { Services } from "../services";

/** Notes that somebody looked at what a person or a card opens, their page, or their events. */
export async function noteLookUp(
  services: Services,
  account: Account,
  what: LookedAt,
  of: { readonly kind: string; readonly id: string; readonly name?: string | undefined },
): Promise<void> {
  const { kind, id, name = "" } = of;
  if (kind !== "cardholder" && kind !== "credential") return;
  await services.lookUps.note({ account: account.id, what, kind, id, name }, services.now());
}

const shown = 200;

/** Who looked up whom, the latest first, from before a number on. */
export async function listLookUps(services: Services, account: Account, text: string, before: number | undefined): Promise<readonly LookUp[]> {
  demand(account, "keep-accounts");
  return services.lookUps.page({ text, before }, shown);
}
