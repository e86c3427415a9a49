import { createHash } from "node:crypto";
import { instantOf } from "@/core/facility/time-rules";
import { minuteDown } from "@/core/time/instant";
import type { ToldEvent } from "@/core/events/event-book";
import type { UnitEvent, UnitStatus } from "@/core/units/unit-protocol";
import { placesOf } from "../findings/judging";
import { unwatched } from "../ports/progress";
import { system } from "../ports/record";
import type { UnitAccess, UnitOfRegister } from "../ports/units";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";
import { readUnit } from "./read-unit";

/** The source of what units tell of their doors. */
export const unitEventSource = "the units at the doors";
/** So many units are spoken to at once. */
const atOnce = 12;
/** Events of one unit that are taken at one visit; the rest at the next. */
const mostEvents = 20_000;
/** One that did not answer is not asked, and one that did not take what it was sent is not sent the same, before so many seconds. */
const secondsToTryAgain = 60;
/** A clock that is further off than this is set, where the unit is sent from here. */
export const clockToleranceSeconds = 30;

interface Visit {
  readonly unit: UnitOfRegister;
  readonly access: UnitAccess;
  readonly run: string;
  readonly events: readonly UnitEvent[];
}

const secondOf = (text: string): number => instantOf(text).seconds;

const asTold = (unit: string, run: string, event: UnitEvent): ToldEvent => ({
  second: secondOf(event.at),
  door: event.door,
  ...(event.card !== undefined ? { credential: event.card } : event.cardNumber !== undefined && { number: event.cardNumber }),
  ...(event.facilityCode !== undefined && { facilityCode: event.facilityCode }),
  granted: event.granted,
  reason: event.reason,
  id: `${unit} ${run} ${event.number}`,
});

async function* oneByOne(events: readonly ToldEvent[]): AsyncGenerator<ToldEvent> {
  await Promise.resolve();
  yield* events;
}

/** Where a unit is and its token; undefined where there is none, which is told. */
export async function accessTo({ units }: Services, { id, address }: Pick<UnitOfRegister, "id" | "address">): Promise<UnitAccess> {
  const token = await units.tokenOf(id);
  if (token === undefined) throw new Error("Its token is not known here, or was sealed with another key: enter it again.");
  return { address, token };
}

/** Does something for each of many, a few at a time. */
async function forEachOf<T>(items: readonly T[], work: (item: T) => Promise<void>): Promise<void> {
  let next = 0;
  await Promise.all(
    Array.from({ length: Math.min(atOnce, items.length) }, async () => {
      while (next < items.length) await work(items[next++] as T);
    }),
  );
}

/** Asks a unit how it is, and collects what happened at its doors; what it holds is read where it says that this has changed. */
async function visit(services: Services, unit: UnitOfRegister): Promise<Visit | undefined> {
  const { units, unitDriver, now } = services;
  const { id, state } = unit;
  try {
    const access = await accessTo(services, unit);
    let status: UnitStatus = await unitDriver.status(access);
    if (status.id !== id) throw new Error(`At its address answers “${status.id}”.`);
    const clockOff = secondOf(status.clock) - Math.floor(secondOf(now()));
    const events: UnitEvent[] = [];
    for (let after = status.acknowledged; events.length < mostEvents;) {
      const page = await unitDriver.events(access, after);
      const fresh = page.run === status.run ? page.events.filter(({ number }) => number > after) : [];
      events.push(...fresh);
      after = fresh[fresh.length - 1]?.number ?? after;
      if (!page.more || fresh.length === 0) break;
    }
    if (state.held?.sum !== status.sum) {
      const { memory, sum } = await readUnit(services, access);
      await units.read(id, memory, sum, now());
    }
    if (unit.isSentFromHere && Math.abs(clockOff) > clockToleranceSeconds) status = await unitDriver.setClock(access, `${now().slice(0, 19)}Z`);
    await units.tell(id, { status, answeredAt: now(), clockOff, failing: null });
    return { unit, access, run: status.run, events };
  } catch (error) {
    const words = error instanceof Error ? error.message : "It does not answer.";
    await units.tell(id, { failing: { since: state.failing?.since ?? now(), triedAt: now(), words } });
    return undefined;
  }
}

/** Visits some units, stores what happened at their doors, and lets them know that it is. */
async function visitSome(services: Services, units: readonly UnitOfRegister[]): Promise<Visited> {
  const visits: Visit[] = [];
  await forEachOf(units, async (unit) => {
    const visited = await visit(services, unit);
    if (visited) visits.push(visited);
  });
  const told = visits.flatMap(({ unit, run, events }) => events.map((event) => asTold(unit.id, run, event)));
  if (told.length === 0) return { answered: visits.length, events: 0 };
  const register = await openRegister(services);
  const placeOf = register ? await placesOf(services, register.compiled) : () => undefined;
  const hash = createHash("sha256").update(JSON.stringify(told)).digest("hex");
  const [only, ...others] = visits.filter(({ events }) => events.length > 0);
  const name = `${only && others.length === 0 ? only.unit.id : "Units"}, ${services.now().slice(0, 16).replace("T", " ")}`;
  await services.events.store({ name, hash, source: unitEventSource }, oneByOne(told), placeOf, system, services.now(), unwatched);
  await forEachOf(visits, async ({ unit, access, run, events }) => {
    const last = events[events.length - 1];
    if (!last) return;
    // One that cannot be told now tells the same again, and they are known then.
    await services.unitDriver.acknowledge(access, run, last.number).catch((error: unknown) => {
      const words = error instanceof Error ? error.message : "It does not answer.";
      return services.units.tell(unit.id, { failing: { since: services.now(), triedAt: services.now(), words } });
    });
  });
  return { answered: visits.length, events: told.length };
}

/** How many units answered, and how many new events there were. */
export interface Visited {
  readonly answered: number;
  readonly events: number;
}

/**
 * Goes round all units: how each is, what happened at its doors since, and what it holds if that has changed. Events are stored first and acknowledged then, so
 * that none is lost and none counts twice, whoever falls in between. Those that did not answer are asked after the others, so that nobody waits for them, and
 * not at every visit unless `all` are asked for.
 */
export async function visitUnits(services: Services, all = false): Promise<Visited> {
  const units = await services.units.all();
  const answering = await visitSome(
    services,
    units.filter(({ state }) => !state.failing),
  );
  const now = services.now();
  const due = ({ state: { failing } }: UnitOfRegister): boolean =>
    failing !== undefined && (all || secondOf(now) - secondOf(failing.triedAt) >= secondsToTryAgain);
  const others = await visitSome(services, units.filter(due));
  return { answered: answering.answered + others.answered, events: answering.events + others.events };
}

export const waitsToTryAgain = ({ sending }: UnitOfRegister["state"], now: string): boolean =>
  sending?.problem !== undefined && secondOf(now) - secondOf(sending.triedAt) < secondsToTryAgain;

/** Whether a unit holds something that was not held against the present register yet, or is still to be sent something and answers. */
export async function awaitsChecking({ units, snapshots, now }: Services): Promise<boolean> {
  const latest = await snapshots.latest();
  if (!latest) return false;
  return (await units.all()).some(
    ({ isSentFromHere, state }) =>
      state.held !== undefined &&
      (state.checked?.snapshot !== latest.id ||
        state.checked.sum !== state.held.sum ||
        (isSentFromHere && state.checked.lacks > 0 && !state.failing && !waitsToTryAgain(state, now()))),
  );
}

export const minuteNow = (now: string) => minuteDown(instantOf(now));
