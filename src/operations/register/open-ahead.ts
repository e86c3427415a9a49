import { ordinary } from "@/core/paths/paths";
import { askedPeople } from "@/core/questions/asked-people";
import { Openings } from "@/core/questions/openings";
import { horizonOf } from "@/core/table/horizon";
import type { Services } from "../services";
import { listIndexOf } from "./list-register";
import { openRegister } from "./open-register";

/** Opens the present register and lays it out ahead of the first question. */
export async function layOutAhead(services: Services): Promise<void> {
  const register = await openRegister(services);
  if (register) await services.layOut(register.snapshot, register.compiled);
}

/** Lays out everybody's ordinary week, and who has which row, ahead of the first answer about many that draws weeks. */
export async function layOutWeekAhead(services: Services): Promise<void> {
  const register = await openRegister(services);
  if (!register) return;
  const horizon = horizonOf(register.compiled);
  const everybody = askedPeople(register.compiled, undefined, horizon.asOf);
  for (const table of [horizon.table(ordinary), horizon.week(ordinary)]) {
    const openings = new Openings(table, [], () => undefined);
    for (const holder of everybody) openings.rowOf(holder);
  }
}

/** What the question line searches. */
const searched = ["cardholder", "credential", "door", "area"] as const;

/** Opens the present register and its lists ahead of the first look-up. */
export async function listAhead(services: Services): Promise<void> {
  const register = await openRegister(services);
  if (register) for (const kind of searched) listIndexOf(register.compiled, kind).find({ text: "", filters: {}, sort: "name", group: undefined });
}
