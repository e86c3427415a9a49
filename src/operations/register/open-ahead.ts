import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import { suggest } from "./list-register";
import { openRegister } from "./open-register";

/** Opens the register and its lists ahead of the first question of somebody who just signed in. */
export async function openAhead(services: Services, account: Account): Promise<void> {
  const register = await openRegister(services);
  if (register) suggest(services, account, register, ["cardholder", "credential", "door", "area"], "", 0);
}
