import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Facility } from "@/core/facility/facility";
import { horizonOf } from "@/core/table/horizon";
import { layOutUnit } from "@/core/units/lay-out-unit";
import { memoryText } from "@/core/units/memory-changes";
import type { UnitLimits, UnitMemory } from "@/core/units/unit-memory";
import { doorsByUnit, UnitSources } from "@/core/units/unit-sources";
import { withinLimits } from "@/core/units/within-limits";
import { system } from "../ports/record";
import type { Services } from "../services";
import { openRegister } from "../register/open-register";
import { minuteNow } from "../units/visit-units";
import { demoSignOns } from "./demo-accounts";

/** A stand-in controller as the demo wants it at its first start. */
export interface DemoUnit {
  readonly id: string;
  readonly limits: UnitLimits;
  readonly memory: UnitMemory;
  readonly isOffline?: boolean;
  /** Seconds by which its clock is wrong, and goes wrong each day. */
  readonly clockOff?: number;
  readonly drift?: number;
}

const [silentUnit, fullUnit, wrongClockUnit] = ["U-05", "U-06", "U-10"];
const silentDays = 9;
/** What small units have room for. */
const usualLimits: UnitLimits = { cards: 600, sets: 64, rangesPerRow: 4, kinds: 8, dates: 200, rightsPerCard: 40, windows: "minute" };
/** So many cards the full one has too little room for. */
const tooMany = 14;

/** Whose access to the data room was withdrawn in summer, and whose card was given back since: what the silent unit never heard. */
const withdrawnFrom = "Wendel Ashgrove";
const room = "g-data";

/** The register as it was before two withdrawals that one unit never heard of. */
function beforeWithdrawals(facility: Facility): Facility {
  const holder = facility.cardholders.find(({ name }) => name === withdrawnFrom);
  const grant = holder && { id: "withdrawn-since", to: { cardholder: holder.id }, open: { door: room }, schedule: "office" };
  const left = facility.cardholders.find(({ status, department }) => status === "left" && department === "d-computing");
  const withheld = new Set(left ? facility.credentials.filter(({ cardholder }) => cardholder === left.id).map(({ id }) => id) : []);
  return {
    ...facility,
    grants: [
      ...facility.grants,
      ...(grant ? [grant] : []),
      ...(left ? [{ id: "withdrawn-too", to: { cardholder: left.id }, open: { door: room }, schedule: "office" }] : []),
    ],
    cardholders: facility.cardholders.map((cardholder) => {
      if (cardholder !== left) return cardholder;
      const { statusSince: _, until: __, ...rest } = cardholder;
      return { ...rest, status: "active" as const };
    }),
    credentials: facility.credentials.map((credential) => {
      if (!withheld.has(credential.id)) return credential;
      const { statusSince: _, until: __, expiry: ___, ...rest } = credential;
      return { ...rest, status: "active" as const };
    }),
  };
}

const memoryOf = (compiled: CompiledFacility, unit: string): UnitMemory => layOutUnit(new UnitSources(horizonOf(compiled)), unit);

/** The units of the demo as they stand at its first start; none where the demo is not there. */
export async function demoUnits(services: Services): Promise<readonly DemoUnit[]> {
  if ((await demoSignOns(services)).length === 0) return [];
  const register = await openRegister(services);
  if (!register) return [];
  const { compiled } = register;
  const sources = new UnitSources(horizonOf(compiled));
  return [...doorsByUnit(compiled).keys()].map((id): DemoUnit => {
    const whole = layOutUnit(sources, id);
    const limits = id === fullUnit ? { ...usualLimits, cards: Math.max(0, whole.cards.length - tooMany) } : usualLimits;
    const memory = id === silentUnit ? memoryOf(compileFacility(beforeWithdrawals(compiled.facility)), id) : whole;
    return {
      id,
      limits,
      memory: withinLimits(memory, limits, "less", minuteNow(services.now())).memory,
      ...(id === silentUnit && { isOffline: true }),
      ...(id === wrongClockUnit && { clockOff: 67 * 60, drift: 40 }),
    };
  });
}

/** Makes the demo's units known where they answer, each once; the silent one was heard last nine days ago. */
export async function addDemoUnits(
  services: Services,
  units: readonly DemoUnit[],
  standIns: { readonly address: string; readonly token: string },
): Promise<void> {
  const known = new Map((await services.units.all()).map((unit) => [unit.id, unit]));
  for (const { id, limits, memory, isOffline } of units) {
    const address = `${standIns.address}/units/${encodeURIComponent(id)}`;
    const before = known.get(id);
    if (before && before.address !== address && before.address.startsWith("http://127.0.0.1:"))
      await services.units.keep({ ...before, address }, standIns.token, system, services.now());
    if (before) continue;
    await services.units.keep({ id, address, isSentFromHere: id !== wrongClockUnit, erring: "less" }, standIns.token, system, services.now());
    if (!isOffline) continue;
    const heardAt = new Date(Date.parse(services.now()) - silentDays * 86_400_000).toISOString();
    const sum = services.digest(memoryText(memory));
    await services.units.read(id, memory, sum, heardAt);
    const status = { format: "nomade.unit/1", id, clock: `${heardAt.slice(0, 19)}Z`, limits, sum, lockdown: false, run: "before", last: 0, acknowledged: 0 };
    await services.units.tell(id, { status, answeredAt: heardAt, clockOff: 0, failing: { since: heardAt, triedAt: heardAt, words: "It does not answer." } });
  }
}
