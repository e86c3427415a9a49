import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import { credentialLabel } from "@/core/facility/labels";
import type { DateChange } from "@/core/findings/forecast/compare-dates";
import type { Forecast } from "@/core/findings/forecast/forecast";
import { forecastOf, longestForecastDays } from "@/core/findings/forecast/forecast";
import type { ReachOfDay } from "@/core/findings/forecast/reach-by-day";
import type { Coming } from "@/core/findings/forecast/what-comes";
import { localDate, writtenDate } from "@/core/findings/written";
import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { horizonOf } from "@/core/table/horizon";
import { addDays } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { zoneOf } from "@/core/time/zone";
import { judgedAlone } from "../findings/judging";
import { endsUnused } from "./inquiry-context";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** So many of what begins or ends on a date are named. */
const usuallyNamed = 8;
const doorsNamed = 4;

export const usualForecastDays = 90;
export { longestForecastDays };

/** Something that begins or ends, by name; a membership is told by its group and whom it concerns. */
export interface ToldComing {
  readonly list: Coming["list"];
  readonly id: string;
  readonly name: string;
  readonly of: string | undefined;
  readonly by: Coming["by"];
  readonly isBlock: boolean;
}

export interface ToldReach {
  readonly pairs: number;
  readonly holders: number;
  readonly doors: number;
  readonly names: readonly string[];
}

/** One date or several in a row at a site, and what they do: the most on any of them. */
export interface ToldDates {
  readonly site: string;
  readonly name: string;
  readonly dayType: string;
  /** Local dates, `YYYY-MM-DD`, both included. */
  readonly from: string;
  readonly to: string;
  readonly dates: number;
  readonly holdersLess: number;
  readonly holdersMore: number;
  readonly doorsLess: readonly string[];
  readonly doorsLessCount: number;
  readonly doorsMore: readonly string[];
  readonly doorsMoreCount: number;
  readonly freeLess: readonly string[];
  readonly freeMore: readonly string[];
}

export interface ToldMissing extends ToldDates {
  readonly calendar: string;
  readonly calendarName: string;
}

/** What comes on a date of the facility's clock. */
export interface ToldDay {
  readonly date: string;
  readonly comes: readonly {
    readonly change: Coming["change"];
    readonly list: Coming["list"];
    readonly count: number;
    readonly items: readonly ToldComing[];
  }[];
  readonly lost: ToldReach | undefined;
  readonly gained: ToldReach | undefined;
}

export interface ToldForecast {
  readonly days: number;
  readonly from: string;
  readonly to: string;
  readonly asOf: string;
  readonly timeZone: string;
  readonly byDate: readonly ToldDay[];
  /** Whether a card ends by not being used: what is said of later holds if it is not used again. */
  readonly endsUnused: boolean;
  readonly dates: readonly ToldDates[];
  readonly missing: readonly ToldMissing[];
  readonly typedUntil: readonly { readonly calendar: string; readonly name: string; readonly last: string }[];
}

/** Of each register the last forecast that was asked for. */
const known = new WeakMap<CompiledFacility, { readonly days: number; readonly forecast: Forecast }>();

/** The forecast of a register; asked for once more for as many days, it is at hand. */
async function forecastIn(services: Services, { compiled }: OpenRegister, days: number): Promise<Forecast> {
  const before = known.get(compiled);
  if (before?.days === days) return before.forecast;
  const forecast = forecastOf(await judgedAlone(services, compiled), horizonOf(compiled), days);
  known.set(compiled, { days, forecast });
  return forecast;
}

function toldComing({ facility, indexes, cardholderById }: CompiledFacility, { list, id, holder, by, isBlock }: Coming): ToldComing {
  const personName = holder?.kind === "cardholder" ? facility.cardholders[holder.position]?.name : undefined;
  const nameIn = (position: Position): string => {
    if (list === "credentials") {
      const credential = facility.credentials[position];
      return credential ? credentialLabel(credential) : id;
    }
    if (list === "schedules") return facility.schedules[position]?.name ?? id;
    return id;
  };
  const position = list === "memberships" ? (indexes.of("groups").get(id) ?? -1) : (indexes.of(list).get(id) ?? -1);
  const name =
    list === "cardholders"
      ? (facility.cardholders[cardholderById.get(id) ?? -1]?.name ?? id)
      : list === "memberships"
        ? (facility.groups[position]?.name ?? id)
        : nameIn(position);
  return { list, id, name, of: list === "cardholders" ? undefined : personName, by, isBlock: isBlock === true };
}

function toldReach({ facility }: CompiledFacility, { pairs, holders, doors, named: some }: ReachOfDay, named: number): ToldReach | undefined {
  if (pairs === 0) return undefined;
  const nameOf = ({ cardholder, credentials }: ReachOfDay["named"][number]): string => {
    if (cardholder !== undefined) return facility.cardholders[cardholder]?.name ?? "";
    const credential = facility.credentials[credentials[0] ?? -1];
    return credential ? credentialLabel(credential) : "";
  };
  return { pairs, holders, doors: doors.size, names: some.slice(0, named).map(nameOf) };
}

/** Dates in a row of one name at one site, taken together. */
function inARow<One extends DateChange & { readonly name: string; readonly dayType: string }>(changes: readonly One[]): (readonly [One, ...One[]])[] {
  const runs: [One, ...One[]][] = [];
  for (const own of groupBy(changes, ({ site, name, dayType }) => JSON.stringify([site, name, dayType])).values()) {
    let run: [One, ...One[]] | undefined;
    for (const one of [...own].sort((a, b) => a.date - b.date)) {
      const last: One | undefined = run?.at(-1);
      if (run && last && one.date === addDays(last.date, 1)) run.push(one);
      else runs.push((run = [one]));
    }
  }
  return runs.sort(([a], [b]) => a.date - b.date);
}

function toldDates(
  { facility }: CompiledFacility,
  run: readonly [DateChange & { readonly name: string; readonly dayType: string }, ...DateChange[]],
): ToldDates {
  const [first] = run;
  const names = (positions: Iterable<Position>): string[] => [...positions].map((position) => facility.doors[position]?.name ?? "");
  const most = (of: (one: DateChange) => number): number => Math.max(...run.map(of));
  const all = (of: (one: DateChange) => Iterable<Position>): string[] => names(new Set(run.flatMap((one) => [...of(one)])));
  const [doorsLess, doorsMore] = [all((one) => one.doorsLess), all((one) => one.doorsMore)];
  return {
    site: facility.sites.find(({ id }) => id === first.site)?.name ?? first.site,
    name: first.name,
    dayType: first.dayType,
    from: writtenDate(first.date),
    to: writtenDate(run.at(-1)?.date ?? first.date),
    dates: run.length,
    holdersLess: most((one) => one.holdersLess),
    holdersMore: most((one) => one.holdersMore),
    doorsLess: doorsLess.slice(0, doorsNamed),
    doorsLessCount: doorsLess.length,
    doorsMore: doorsMore.slice(0, doorsNamed),
    doorsMoreCount: doorsMore.length,
    freeLess: all((one) => one.freeLess),
    freeMore: all((one) => one.freeMore),
  };
}

/** What comes by itself in so many days from a register's export on, by date; of what begins or ends on a date so many are named. */
export async function showForecast(
  services: Services,
  account: Account,
  register: OpenRegister,
  days = usualForecastDays,
  named = usuallyNamed,
): Promise<ToldForecast> {
  demand(account, "ask");
  const { compiled, snapshot } = register;
  const { facility } = compiled;
  const zone = zoneOf(facility.timeZone);
  const forecast = await forecastIn(services, register, Math.min(Math.max(1, days), longestForecastDays));
  // What ends at midnight ends on the date before: that is its last.
  const comesByDate = groupBy(forecast.comes, ({ at, change }) => localDate(zone, (at - (change === "ends" ? 1 : 0)) as EpochMinute));
  const reachByDate = new Map(forecast.days.map((one) => [one.date, one]));
  const dates = [...new Set<CivilDay>([...comesByDate.keys(), ...reachByDate.keys()])].sort((a, b) => a - b);
  return {
    days: Math.round((forecast.to - forecast.from) / 1440),
    from: writtenDate(localDate(zone, forecast.from)),
    to: writtenDate(localDate(zone, forecast.to)),
    asOf: snapshot.asOf,
    timeZone: facility.timeZone,
    byDate: dates.map((date): ToldDay => {
      const own = groupBy(comesByDate.get(date) ?? [], ({ change, list }) => `${change} ${list}`);
      const reach = reachByDate.get(date);
      return {
        date: writtenDate(date),
        comes: [...own.values()].flatMap((some) => {
          const [first] = some;
          return first
            ? [{ change: first.change, list: first.list, count: some.length, items: some.slice(0, named).map((one) => toldComing(compiled, one)) }]
            : [];
        }),
        lost: reach && toldReach(compiled, reach.lost, named),
        gained: reach && toldReach(compiled, reach.gained, named),
      };
    }),
    endsUnused: facility.credentials.some(
      ({ expiry }, position) => expiry?.after === "last-use" && endsUnused(compiled, required(compiled.credentials.at(position), "positions are valid")),
    ),
    dates: inARow(forecast.dates).map((run) => toldDates(compiled, run)),
    typedUntil: forecast.typedUntil.map(({ calendar, last }) => ({
      calendar,
      name: facility.calendars.find(({ id }) => id === calendar)?.name ?? calendar,
      last: writtenDate(last),
    })),
    missing: inARow(forecast.missing).map((run) => ({
      ...toldDates(compiled, run),
      calendar: run[0].calendar,
      calendarName: facility.calendars.find(({ id }) => id === run[0].calendar)?.name ?? run[0].calendar,
    })),
  };
}
