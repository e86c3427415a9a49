import { firstFew, groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import { ordinary } from "@/core/paths/paths";
import type { HolderNumber } from "@/core/questions/asked-people";
import { askedPeople, bearerOf } from "@/core/questions/asked-people";
import { Openings } from "@/core/questions/openings";
import type { ReachOfRow } from "@/core/questions/weekly-reach";
import { countsByHour, weeklyReach } from "@/core/questions/weekly-reach";
import { horizonOf } from "@/core/table/horizon";
import { minutesADay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { totalMinutes } from "@/core/time/intervals";
import { usersOfDoors } from "../findings/use-of";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { compareNames } from "./compare-names";
import type { Inquiry, NamedDoor, QuestionNames } from "./inquiry";
import { contextOf } from "./inquiry-context";
import { namedDoor, namesOfQuestion } from "./inquiry-names";

/** Days that use is looked for in: PCI DSS asks for unused accounts after 90 (from memory). */
const daysOfUse = 90;
const doorsCharted = 12;
const departmentsListed = 200;

/** Of the people of one department who are asked about: how many open something, how many of these out of hours, and their hours in an ordinary week. */
export interface DepartmentHours {
  /** Undefined for those of no department. */
  readonly id: string | undefined;
  readonly name: string;
  readonly people: number;
  readonly opening: number;
  readonly outOfHours: number;
  /** Minutes of an ordinary week of all of them together, and those outside business hours. */
  readonly minutes: number;
  readonly outsideMinutes: number;
}

/** A door with how many open it, and how many of these were seen opening it. */
export interface UseOfDoor {
  readonly door: NamedDoor;
  readonly open: number;
  readonly used: number;
  /** Whether events of its site are there to tell. */
  readonly isTold: boolean;
}

export interface InquiryCharts {
  readonly names: QuestionNames;
  readonly askedHolders: number;
  /** For each hour of an ordinary week, from Monday 00:00 on, how many open something of what is asked, each door on its own site's clock. */
  readonly byHour: readonly number[];
  /** Those with most hours out of hours first. */
  readonly departments: readonly DepartmentHours[];
  readonly moreDepartments: number;
  /** The doors that most open, the most first. */
  readonly use: readonly UseOfDoor[];
  /** How many days use is looked for in. */
  readonly daysOfUse: number;
  readonly moreDoors: number;
}

const departmentOf = (compiled: CompiledFacility, holder: HolderNumber): Position => {
  const bearer = bearerOf(holder);
  return "card" in bearer ? -1 : (compiled.objects.holders.department[bearer.cardholder] ?? -1);
};

/** The doors that most of some holders open at the asked time, the most first, and how many open for anybody. Cost: the entries of the distinct rows. */
function mostOpened(openings: Openings, holders: readonly HolderNumber[]): { readonly most: readonly Position[]; readonly count: number } {
  const counts = new Map<Position, number>();
  for (const [row, own] of groupBy(holders, (holder) => openings.rowOf(holder)))
    for (const door of openings.doorsOf(row)) counts.set(door, (counts.get(door) ?? 0) + own.length);
  const most = firstFew([...counts], doorsCharted, ([a, of], [b, than]) => than - of || a - b).map(([door]) => door);
  return { most, count: counts.size };
}

function hoursOfDepartments(compiled: CompiledFacility, holders: readonly HolderNumber[], reachOf: (holder: HolderNumber) => ReachOfRow): DepartmentHours[] {
  const found = [...groupBy(holders, (holder) => departmentOf(compiled, holder))].map(([position, own]): DepartmentHours => {
    let [opening, outOfHours, minutes, outsideMinutes] = [0, 0, 0, 0];
    for (const holder of own) {
      const { open, outside } = reachOf(holder);
      if (open.length === 0) continue;
      opening++;
      if (outside.length > 0) outOfHours++;
      minutes += totalMinutes(open);
      outsideMinutes += totalMinutes(outside);
    }
    const group = compiled.facility.groups[position];
    return { id: group?.id, name: group?.name ?? "No department", people: own.length, opening, outOfHours, minutes, outsideMinutes };
  });
  return found.sort((a, b) => b.outsideMinutes - a.outsideMinutes || compareNames(a.name, b.name));
}

/** What a question about several people comes to at a glance: by hour of the week, by department, and use beside what is granted. */
export async function chartInquiry(services: Services, account: Account, register: OpenRegister, inquiry: Inquiry): Promise<InquiryCharts> {
  demand(account, "ask");
  const { compiled } = register;
  const context = await contextOf(services, compiled, inquiry);
  const holders = askedPeople(compiled, inquiry.who, context.since);
  const asIfLive = inquiry.asIfLive === true;
  const weeks = context.weekReading(asIfLive);
  const reachOfRow = weeklyReach(weeks.table, context.doors, context.businessWeeks.ofSite);
  const reachOf = (holder: HolderNumber): ReachOfRow => reachOfRow(weeks.rowOf(holder));
  const rows = groupBy(holders, (holder) => weeks.rowOf(holder));
  const departments = hoursOfDepartments(compiled, holders, reachOf);
  const openings = context.openings(asIfLive);
  const { most, count } = mostOpened(openings, holders);
  const users = await usersOfDoors(
    services,
    compiled,
    most.map((door) => required(compiled.facility.doors[door], "positions are valid").id),
    (context.now - daysOfUse * minutesADay) as EpochMinute,
  );
  const dates = await services.events.dates();
  return {
    names: namesOfQuestion(compiled, inquiry),
    askedHolders: holders.length,
    byHour: countsByHour([...rows].map(([row, own]) => [reachOfRow(row).open, own.length] as const)),
    departments: departments.slice(0, departmentsListed),
    moreDepartments: Math.max(0, departments.length - departmentsListed),
    use: most.map((position): UseOfDoor => {
      const { id, site } = required(compiled.facility.doors[position], "positions are valid");
      const opening = holders.filter((holder) => openings.opensAt(openings.rowOf(holder), position));
      const seen = users.get(id);
      return {
        door: namedDoor(compiled, position),
        open: opening.length,
        used: opening.filter((holder) => seen?.has(holder)).length,
        isTold: (dates.get(site)?.length ?? 0) > 0,
      };
    }),
    daysOfUse,
    moreDoors: count - most.length,
  };
}

/** How many reach areas of each sensitivity, from 0 to 3, in the 13 months from the export of a snapshot. */
export interface SensitivityOfReach {
  readonly snapshot: number;
  readonly asOf: string;
  /** Index s: how many people and cards without a holder open a door of just that sensitivity. */
  readonly holders: readonly number[];
}

const worked = new WeakMap<CompiledFacility, readonly number[]>();

/** How many in a register open doors of each sensitivity. Cost: the entries of the distinct rows, once. */
export function sensitivityOfReach(_services: Services, account: Account, { snapshot, compiled }: OpenRegister): SensitivityOfReach {
  demand(account, "ask");
  let holders = worked.get(compiled);
  if (!holders) {
    const openings = new Openings(horizonOf(compiled).table(ordinary), undefined, () => undefined);
    const counts = [0, 0, 0, 0];
    for (const [row, own] of groupBy(askedPeople(compiled, undefined, horizonOf(compiled).asOf), (holder) => openings.rowOf(holder))) {
      const found = new Set(openings.doorsOf(row).map((door) => doorSensitivity(compiled, door)));
      for (const sensitivity of found) counts[sensitivity] = (counts[sensitivity] ?? 0) + own.length;
    }
    worked.set(compiled, (holders = counts));
  }
  return { snapshot: snapshot.id, asOf: snapshot.asOf, holders };
}
