import { compareEntry } from "@/core/units/compare-entry";
import { compareUnit } from "@/core/units/compare-unit";
import type { UnitDifference } from "@/core/units/compare-unit";
import { layOutUnit } from "@/core/units/lay-out-unit";
import { changesBetween, memoryText } from "@/core/units/memory-changes";
import type { UnitMemory } from "@/core/units/unit-memory";
import { UnitSources } from "@/core/units/unit-sources";
import { withinLimits } from "@/core/units/within-limits";
import type { MemoryWithinLimits } from "@/core/units/within-limits";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { horizonOf } from "@/core/table/horizon";
import type { EpochMinute } from "@/core/time/instant";
import type { Report } from "../ports/progress";
import type { UnitOfRegister } from "../ports/units";
import { openRegister } from "../register/open-register";
import type { OpenRegister } from "../register/open-register";
import type { Services } from "../services";
import { readUnit } from "./read-unit";
import { accessTo, minuteNow, waitsToTryAgain } from "./visit-units";

const sources = new WeakMap<CompiledFacility, UnitSources>();

/** A register made ready for what its units are to hold; once for each. */
export function unitSourcesOf(compiled: CompiledFacility): UnitSources {
  let known = sources.get(compiled);
  if (!known) sources.set(compiled, (known = new UnitSources(horizonOf(compiled))));
  return known;
}

/** What a unit is to hold by a register, as far as it can, with the numbers that it has already. */
export function wantedMemory(compiled: CompiledFacility, { id, erring, state }: UnitOfRegister, held: UnitMemory, now: EpochMinute): MemoryWithinLimits {
  return withinLimits(layOutUnit(unitSourcesOf(compiled), id, held), state.status?.limits ?? {}, erring, now);
}

const stepsAtOnce = 200;
/** Steps are done a few at a time; a unit that never does any is given up until the next visit. */
const mostRequests = 100_000;

/** Sends a unit the steps that it lacks; what has come of it is kept after each request, so that it goes on where it was cut off. */
async function send(services: Services, unit: UnitOfRegister, held: UnitMemory, wanted: UnitMemory): Promise<void> {
  const { units, unitDriver, digest, now } = services;
  const { id, state } = unit;
  const changes = changesBetween(held, wanted);
  const update = { sum: digest(memoryText(wanted)), of: changes.length };
  const before = state.sending;
  const sending = { since: before?.since ?? now(), ...update, tries: (before?.tries ?? 0) + 1, triedAt: now() };
  let done = 0;
  await units.tell(id, { sending: { ...sending, done } });
  try {
    const access = await accessTo(services, unit);
    for (let request = 0; done < changes.length && request < mostRequests; request++) {
      const outcome = await unitDriver.change(access, { update, from: done, changes: changes.slice(done, done + stepsAtOnce) });
      if ("refused" in outcome) throw new Error(outcome.refused);
      if (outcome.done <= done) throw new Error(`It did none of the steps from ${done} on.`);
      done = outcome.done;
      await units.tell(id, { sending: { ...sending, done } });
    }
    const read = await readUnit(services, access);
    await units.read(id, read.memory, read.sum, now());
    if (read.sum !== update.sum) throw new Error("When it was read again it held something else than it was sent.");
    await units.tell(id, { sending: null });
  } catch (error) {
    await units.tell(id, { sending: { ...sending, done, problem: error instanceof Error ? error.message : "It does not answer." } });
  }
}

/** Holds what a unit holds against a register, by access, and keeps what came of it. */
async function check(services: Services, unit: UnitOfRegister, { snapshot, compiled }: OpenRegister): Promise<void> {
  const memory = await services.units.memoryOf(unit.id);
  const held = (await services.units.byId(unit.id))?.state.held;
  if (!memory || !held) return;
  const wanted = wantedMemory(compiled, unit, memory, minuteNow(services.now()));
  const differences = compareUnit(unitSourcesOf(compiled), unit.id, memory);
  await services.units.tell(unit.id, {
    checked: {
      snapshot: snapshot.id,
      sum: held.sum,
      ...cardsConcerned(differences),
      lacks: changesBetween(memory, wanted.memory).length,
      entry: compareEntry(unitSourcesOf(compiled), unit.id, memory).length,
      shortfalls: wanted.shortfalls.map((one) => ({ ...one, without: one.without.slice(0, shortfallsKept) })),
    },
  });
}

/** For how many cards a unit opens more and less, and at how many doors it is so for anybody. */
export function cardsConcerned(differences: readonly UnitDifference[]): { readonly more: number; readonly less: number; readonly free: number } {
  const [more, less] = [new Set<string>(), new Set<string>()];
  let free = 0;
  for (const { credential, minutesMore, minutesLess } of differences) {
    if (credential === undefined) free++;
    else {
      if (minutesMore > 0) more.add(credential);
      if (minutesLess > 0) less.add(credential);
    }
  }
  return { more: more.size, less: less.size, free };
}

/** Of what a unit has no room for so many are kept by name; how many there are is kept besides. */
const shortfallsKept = 200;

/**
 * Sends every unit that is sent from here, and answers, what it lacks of the present register, and holds what all of them hold against it. What was held
 * against it before, and is still held, is not looked at again.
 */
export async function checkUnits(services: Services, report: Report): Promise<number> {
  const register = await openRegister(services);
  if (!register) return 0;
  const units = await services.units.all();
  let done = 0;
  for (const unit of units) {
    report({ step: "access", done, of: units.length });
    done++;
    const { held, checked, failing } = unit.state;
    const isKnown = held !== undefined && checked?.snapshot === register.snapshot.id && checked.sum === held.sum;
    if (!held || (isKnown && (checked.lacks === 0 || failing || !unit.isSentFromHere || waitsToTryAgain(unit.state, services.now())))) continue;
    if (unit.isSentFromHere && !failing) {
      const memory = await services.units.memoryOf(unit.id);
      if (memory) {
        const wanted = wantedMemory(register.compiled, unit, memory, minuteNow(services.now()));
        if (services.digest(memoryText(wanted.memory)) === held.sum) await services.units.tell(unit.id, { sending: null });
        else await send(services, unit, memory, wanted.memory);
      }
    }
    await check(services, unit, register);
  }
  return done;
}
