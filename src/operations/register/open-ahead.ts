import type { Services } from "../services";
import { listIndexOf } from "./list-register";
import { openRegister } from "./open-register";

/** Opens the present register and lays it out ahead of the first question. */
export async function layOutAhead(services: Services): Promise<void> {
  const register = await openRegister(services);
  if (register) await services.layOut(register.snapshot, register.compiled);
}

/** What the question line searches. */
const searched = ["cardholder", "credential", "door", "area"] as const;

/** Opens the present register and its lists ahead of the first look-up. */
export async function listAhead(services: Services): Promise<void> {
  const register = await openRegister(services);
  if (register) for (const kind of searched) listIndexOf(register.compiled, kind).find({ text: "", filters: {}, sort: "name", group: undefined });
}
