import type { Position } from "@/core/compile/position-index";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { firstFew, groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import type { HolderNumber } from "@/core/questions/asked-people";
import { askedPeople } from "@/core/questions/asked-people";
import { areaOfPlace, outside } from "@/core/routes/places";
import type { Place } from "@/core/routes/places";
import type { Arrival } from "@/core/routes/routes";
import { Routes } from "@/core/routes/routes";
import type { RowNumber } from "@/core/table/access-rows";
import type { TimelineNumber } from "@/core/table/timelines";
import { never } from "@/core/table/timelines";
import type { EpochMinute } from "@/core/time/instant";
import { totalMinutes } from "@/core/time/intervals";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { compareNames } from "./compare-names";
import { drawnPlan } from "./drawn-plan";
import type { Inquiry, NamedDoor, NamedHolder } from "./inquiry";
import type { InquiryContext } from "./inquiry-context";
import { contextOf, credentialsOf } from "./inquiry-context";
import { namedDoor, namedHolder, namesOfQuestion } from "./inquiry-names";
import type { CutOff, RoutesAnswer, RoutesOfOne, RoutesOfSeveral, ToldPlace, ToldShutIn } from "./routes-answer";

/** So many ways are told of one person; parallel doors multiply them. */
const waysTold = 12;
/** So many rows of people and places are told, unless more are asked for. */
const usuallyTold = 200;

/** Puts what routes say into names and words. */
class Teller {
  private readonly zoneOfArea: (area: Position) => string;

  constructor(
    private readonly context: InquiryContext,
    private readonly routes: Routes,
    readonly rowOf: (holder: HolderNumber) => RowNumber,
    private readonly setOf: (timeline: TimelineNumber) => readonly number[],
    /** So many rows of people and places are told. */
    readonly told: number,
  ) {
    const { facility } = context.compiled;
    const zones = new Map(facility.sites.map(({ id, timeZone }) => [id, timeZone]));
    this.zoneOfArea = (area) => zones.get(facility.areas[area]?.site ?? "") ?? facility.timeZone;
  }

  get compiled(): CompiledFacility {
    return this.context.compiled;
  }

  door = (position: Position): NamedDoor => namedDoor(this.compiled, position);
  holder = (number: HolderNumber): NamedHolder => namedHolder(this.compiled, number);

  place(place: Place): ToldPlace {
    const area = this.compiled.facility.areas[areaOfPlace(place) ?? -1];
    return { area: area?.id, name: area?.name ?? "Outside" };
  }

  zone(place: Place): string {
    return this.zoneOfArea(areaOfPlace(place) ?? -1);
  }

  /** When, in words on the clock of a door; only where no time is asked. */
  words(timeline: TimelineNumber, door: Position, holder?: HolderNumber): string | undefined {
    if (this.context.inquiry.when.kind !== "any") return undefined;
    return this.context.describe(this.setOf(timeline), holder === undefined ? undefined : credentialsOf(this.compiled, holder)[0], door);
  }

  minutes = (timeline: TimelineNumber): number => totalMinutes(this.setOf(timeline));

  holders(numbers: readonly HolderNumber[], most: number): readonly NamedHolder[] {
    return firstFew(numbers.map(this.holder), most, (a, b) => compareNames(a.name, b.name));
  }

  /** A door into a place, by whose calendar its hours are told. */
  doorInto(place: Place): Position | undefined {
    return this.routes.passages.find(({ to }) => to === place)?.door;
  }
}

/** What is told of one person, and the doors of the ways that are told. */
function ofOne(
  teller: Teller,
  routes: Routes,
  anywhere: Routes,
  holder: HolderNumber,
  hasEnd: boolean,
): { readonly of: RoutesOfOne; readonly drawnWays: readonly (readonly Position[])[] } {
  const row = teller.rowOf(holder);
  const arrival = hasEnd ? routes.arrival(row) : undefined;
  const found = hasEnd ? routes.ways(row, waysTold) : { ways: [], areAll: true };
  const shut = hasEnd && !arrival ? routes.leastShut(row) : undefined;
  const { times, steps } = routes.reached(row);
  const places = hasEnd ? [] : Array.from(times.keys()).filter((place) => place !== outside && times[place] !== never);
  const lastDoor = arrival?.last[0];
  const of: RoutesOfOne = {
    kind: "one",
    holder: teller.holder(holder),
    end: hasEnd
      ? {
          steps: arrival?.steps,
          words: arrival && lastDoor !== undefined ? teller.words(arrival.times, lastDoor, holder) : undefined,
          minutes: arrival ? teller.minutes(arrival.times) : 0,
          ways: found.ways.map(({ doors, times: open }) => ({
            doors: doors.map(teller.door),
            words: teller.words(open, required(doors.at(-1), "a way has a door"), holder),
          })),
          areAll: found.areAll,
          shutWay: shut?.doors.map((door) => ({ door: teller.door(door), isShut: shut.shut.includes(door) })),
        }
      : undefined,
    places: firstFew(
      places.map((place) => {
        const door = teller.doorInto(place);
        return {
          ...teller.place(place),
          steps: steps[place] as number,
          words: door === undefined ? undefined : teller.words(times[place] as TimelineNumber, door, holder),
        };
      }),
      teller.told,
      (a, b) => a.steps - b.steps || compareNames(a.name, b.name),
    ),
    morePlaces: Math.max(0, places.length - teller.told),
    stranded: anywhere.stranded(row).map(teller.door),
  };
  return { of, drawnWays: shut ? [shut.doors] : found.ways.map(({ doors }) => doors) };
}

type ByRow = ReadonlyMap<RowNumber, readonly HolderNumber[]>;

/** Which places are got to, by how many people and by how many doors at least. */
function placesOf(routes: Routes, byRow: ByRow): Map<Place, { readonly holders: number; readonly steps: number }> {
  // Index p: how many get to place p, and by how many doors at least.
  const holders = new Int32Array(routes.places);
  const fewest = new Int32Array(routes.places).fill(-1);
  // Where an end is asked about, one goes only where ways to it lead.
  const walked = routes.asked.through ? [...routes.placesLeadingTo(), ...routes.endPlaces()] : Array.from(holders.keys());
  const places = [...new Set(walked)].filter((place) => place !== outside);
  for (const [row, own] of byRow) {
    const { steps } = routes.reached(row);
    for (const place of places) {
      const count = steps[place] as number;
      if (count < 0) continue;
      holders[place] = (holders[place] as number) + own.length;
      if (fewest[place] === -1 || count < (fewest[place] as number)) fewest[place] = count;
    }
  }
  return new Map(places.flatMap((place) => (holders[place] === 0 ? [] : [[place, { holders: holders[place] as number, steps: fewest[place] as number }]])));
}

function ofSeveral(
  teller: Teller,
  routes: Routes,
  byRow: ByRow,
  gotTo: ReadonlyMap<Place, { readonly holders: number; readonly steps: number }>,
  asked: readonly Position[] | undefined,
  opens: (row: RowNumber) => boolean,
): RoutesOfSeveral {
  const arriving: { readonly holder: HolderNumber; readonly arrival: Arrival }[] = [];
  const lost: HolderNumber[] = [];
  const byLast = new Map<Position, number>();
  const bySteps = new Map<number, number>();
  if (asked)
    for (const [row, own] of byRow) {
      const arrival = routes.arrival(row);
      if (!arrival) {
        if (opens(row)) lost.push(...own);
        continue;
      }
      for (const door of arrival.last) byLast.set(door, (byLast.get(door) ?? 0) + own.length);
      bySteps.set(arrival.steps, (bySteps.get(arrival.steps) ?? 0) + own.length);
      for (const holder of own) arriving.push({ holder, arrival });
    }
  const places = asked ? [] : [...gotTo];
  return {
    kind: "several",
    end: asked && {
      arriving: arriving.length,
      rows: firstFew(
        arriving.map((one) => ({ ...one, named: teller.holder(one.holder) })),
        teller.told,
        (a, b) => a.arrival.steps - b.arrival.steps || compareNames(a.named.name, b.named.name),
      ).map(({ named, arrival }) => ({
        holder: named,
        steps: arrival.steps,
        last: arrival.last.slice(0, 4).map(teller.door),
        minutes: teller.minutes(arrival.times),
      })),
      bySteps: [...bySteps].sort(([a], [b]) => a - b).map(([steps, holders]) => ({ steps, holders })),
      byLast: [...byLast]
        .sort(([a, of], [b, than]) => than - of || a - b)
        .slice(0, 20)
        .map(([door, holders]) => ({ door: teller.door(door), holders })),
      never: teller.holders(lost, 20),
      neverCount: lost.length,
    },
    places: firstFew(
      places.map(([place, counts]) => ({ ...teller.place(place), ...counts })),
      teller.told,
      (a, b) => a.steps - b.steps || b.holders - a.holders || compareNames(a.name, b.name),
    ),
    morePlaces: Math.max(0, places.length - teller.told),
  };
}

function cutOffBy(teller: Teller, routes: Routes, without: Routes, byRow: ByRow, asked: readonly Position[] | undefined, door: Position): CutOff {
  const lost: HolderNumber[] = [];
  const places = new Map<Place, number>();
  for (const [row, own] of byRow) {
    if (asked) {
      if (routes.arrival(row) && !without.arrival(row)) lost.push(...own);
      continue;
    }
    const before = Int32Array.from(routes.reached(row).steps);
    const { steps } = without.reached(row);
    let loses = false;
    before.forEach((count, place) => {
      if (count < 0 || (steps[place] as number) >= 0) return;
      loses = true;
      places.set(place, (places.get(place) ?? 0) + own.length);
    });
    if (loses) lost.push(...own);
  }
  return {
    door: teller.door(door),
    holders: teller.holders(lost, 40),
    holderCount: lost.length,
    places: firstFew(
      [...places].map(([place, holders]) => ({ ...teller.place(place), holders })),
      40,
      (a, b) => b.holders - a.holders || compareNames(a.name, b.name),
    ),
    placeCount: places.size,
  };
}

function shutInOf(teller: Teller, routes: Routes, byRow: ByRow): ToldShutIn[] {
  const found = new Map<Place, { holders: HolderNumber[]; first: EpochMinute }>();
  for (const [row, own] of byRow)
    for (const { place, at } of routes.shutIn(row)) {
      const first = required(at[0], "somebody is shut in at some minute") as EpochMinute;
      const before = found.get(place);
      if (before) {
        before.holders.push(...own);
        before.first = Math.min(before.first, first) as EpochMinute;
      } else found.set(place, { holders: [...own], first });
    }
  return [...found]
    .sort(([a, of], [b, than]) => than.holders.length - of.holders.length || a - b)
    .map(([place, { holders, first }]) => ({
      place: teller.place(place),
      holders: teller.holders(holders, 12),
      holderCount: holders.length,
      first,
      zone: teller.zone(place),
    }));
}

/**
 * Routes on foot of those who are asked about: through the doors of where is asked, at the asked time (without one, in the 13 months from the export on).
 * `outOfUse` is a door whose loss is told; so many people and places are told as `told` says. Gives undefined for a door that the register does not hold. Cost:
 * each distinct row once.
 */
export async function findRoutes(
  services: Services,
  account: Account,
  register: OpenRegister,
  inquiry: Inquiry,
  outOfUse?: string,
  told = usuallyTold,
): Promise<RoutesAnswer | undefined> {
  demand(account, "ask");
  const { compiled } = register;
  const context = await contextOf(services, compiled, inquiry);
  const openings = context.openings(inquiry.asIfLive === true);
  const { table, rowOf } = openings;
  const asked = inquiry.where && inquiry.where.kind !== "anywhere" ? (context.doors ?? []) : undefined;
  const out = outOfUse === undefined ? undefined : compiled.doorById.get(outOfUse);
  if (outOfUse !== undefined && out === undefined) return undefined;
  const meantAt = (door: Position) => context.minutesAt(door);
  const routes = new Routes(table, { through: asked, meantAt });
  const teller = new Teller(context, routes, rowOf, (timeline) => table.timelines.set(timeline), told);
  const holders = askedPeople(compiled, inquiry.who, context.since);
  const byRow = groupBy(holders, rowOf);
  const [only, ...others] = holders;
  const isOne = only !== undefined && others.length === 0 && inquiry.who !== undefined && inquiry.who.kind !== "group";
  const opens = (row: RowNumber): boolean => openings.doorsOf(row).length > 0;
  const gotTo = placesOf(routes, byRow);
  const hasEnd = asked !== undefined;
  const { of, drawnWays } = isOne
    ? ofOne(teller, routes, hasEnd ? new Routes(table, { through: undefined, meantAt }) : routes, only, hasEnd)
    : { of: ofSeveral(teller, routes, byRow, gotTo, asked, opens), drawnWays: [] };
  const atAllTimes = inquiry.when.kind === "any" ? routes : new Routes(table, { through: asked, meantAt: () => undefined });
  const planNames = { place: (place: Place) => teller.place(place), doorName: (door: Position) => teller.door(door).name };
  return {
    names: namesOfQuestion(compiled, inquiry),
    askedHolders: holders.length,
    isLimited: register.sites !== undefined,
    askedDoors: asked?.length,
    isLedTo: asked === undefined || routes.isLedTo,
    of,
    shutIn: shutInOf(teller, atAllTimes, byRow),
    hasWaysOut: routes.hasWaysOut,
    cutOff: out === undefined ? undefined : cutOffBy(teller, routes, new Routes(table, { through: asked, meantAt, outOfUse: out }), byRow, asked, out),
    drawing: drawnPlan(planNames, routes, byRow.keys(), new Set(gotTo.keys()), drawnWays, asked),
    asOf: context.asOf,
  };
}
