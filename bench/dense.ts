import type {
  Area,
  Cardholder,
  Credential,
  Door,
  DocumentCalendar,
  DocumentSchedule,
  DoorGroup,
  FacilityDocument,
  Grant,
  DoorTarget,
  GrantTarget,
  Group,
  Level,
  Membership,
} from "@/core/facility/document";
import { seeded } from "~/demo/random";
import type { Random } from "~/demo/random";

/**
 * A register as dense as real ones grow: deep areas, many door groups and levels, people with several memberships, grants of their own and more than one
 * card. Everything scales with the number of people; at 100,000 people and 5,000 doors it comes to the counts of `docs/performance.md`. The same
 * seed gives the same document.
 */
export interface DenseSize {
  readonly cardholders: number;
  readonly doors: number;
  readonly seed: number;
}

const asOf = "2026-03-02T06:00:00Z";
const zones = [
  "Europe/Paris",
  "Europe/Helsinki",
  "America/Toronto",
  "Asia/Singapore",
  "Europe/Lisbon",
  "America/Sao_Paulo",
  "Asia/Kolkata",
  "Australia/Adelaide",
];
const weekdays = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;

const clock = (minutes: number): string => `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
const numbered = <T>(count: number, make: (i: number) => T): T[] => Array.from({ length: Math.max(1, Math.round(count)) }, (_, i) => make(i));

function calendars(random: Random): DocumentCalendar[] {
  return numbered(4, (k) => ({
    id: `k${k}`,
    name: `Calendar ${k}`,
    days: [
      { name: "New Year", dayType: "public", yearly: "01-01" },
      { name: "Easter Monday", dayType: "public", easter: 1 },
      { name: "Ascension", dayType: "public", easter: 39 },
      { name: "Winter rest", dayType: "company", yearlyFrom: "12-24", yearlyTo: "01-02" },
      ...numbered(6, (n) => ({
        name: `Holiday ${n}`,
        dayType: n % 3 === 0 ? "company" : "public",
        yearly: `${String(2 + random.below(10)).padStart(2, "0")}-${String(1 + random.below(28)).padStart(2, "0")}`,
      })),
    ],
  }));
}

function schedules(random: Random): DocumentSchedule[] {
  return numbered(60, (s): DocumentSchedule => {
    if (s === 0) return { id: "s0", name: "Always", always: true };
    const begins = 300 + random.below(20) * 15;
    const ends = begins + 360 + random.below(24) * 15;
    const overnight = random.chance(0.15);
    const row: readonly (readonly [string, string])[] = overnight
      ? [["20:00", "05:30"]]
      : random.chance(0.2)
        ? [
            [clock(begins), "12:00"],
            ["13:00", clock(Math.max(ends, 800))],
          ]
        : [[clock(begins), clock(ends)]];
    const days = weekdays.slice(0, random.chance(0.3) ? 7 : 5);
    return {
      id: `s${s}`,
      name: `Schedule ${s}`,
      week: Object.fromEntries(days.map((day) => [day, row])),
      ...(random.chance(0.4) && { holidays: { public: random.chance(0.5) ? [] : [["10:00", "14:00"]] } }),
      ...(random.chance(0.3) && { onHoliday: "weekday" as const }),
      ...(random.chance(0.1) && { from: "2026-04-01", until: "2026-10-31" }),
    };
  });
}

/** Areas in trees of up to four levels, each site its own. */
function areas(random: Random, count: number, sites: number): Area[] {
  const made: Area[] = [];
  const ofSite: string[][] = Array.from({ length: sites }, () => []);
  for (let a = 0; a < count; a++) {
    const site = a % sites;
    const known = ofSite[site] ?? [];
    const parent = known.length > 4 && random.chance(0.8) ? known[random.below(known.length)] : undefined;
    const sensitivity = random.chance(0.05) ? 3 : random.chance(0.1) ? 2 : random.chance(0.3) ? 1 : 0;
    made.push({ id: `a${a}`, name: `Area ${a}`, site: `site${site}`, ...(parent !== undefined && { parent }), ...(sensitivity > 0 && { sensitivity }) });
    known.push(`a${a}`);
  }
  return made;
}

function doors(random: Random, count: number, inAreas: readonly Area[]): Door[] {
  const made: Door[] = [];
  for (let d = 0; d < count; d++) {
    const area = random.pick(inAreas);
    const before = made[d - 1];
    const isFloor = before?.site === area.site && before.via === undefined && random.chance(0.05);
    made.push({
      id: `d${d}`,
      name: `Door ${d} of ${area.name}`,
      site: area.site,
      area: area.id,
      ...(area.parent !== undefined && { from: area.parent }),
      ...(isFloor && { kind: "floor" as const, via: before.id }),
      ...(random.chance(0.05) && { entry: "card+pin" as const }),
      ...(random.chance(0.03) && { entryRows: [{ schedule: `s${1 + random.below(59)}`, entry: "card" as const }] }),
      ...(random.chance(0.05) && { unlock: `s${1 + random.below(59)}` }),
    });
  }
  return made;
}

const inGroups = (random: Random, count: number, all: readonly Door[]): DoorGroup[] =>
  numbered(count, (g) => {
    // Doors that are used together lie near each other.
    const start = random.below(all.length);
    return {
      id: `dg${g}`,
      name: `Door group ${g}`,
      doors: numbered(3 + random.below(14), (i) => all[(start + i * (1 + random.below(3))) % all.length]?.id ?? "d0"),
      ...(g > 20 && random.chance(0.2) && { groups: [`dg${random.below(20)}`] }),
    };
  });

function target(random: Random, counts: { readonly doors: number; readonly doorGroups: number; readonly areas: number }): DoorTarget {
  const kind = random.below(20);
  if (kind < 11) return { door: `d${random.below(counts.doors)}` };
  return kind < 19 ? { doorGroup: `dg${random.below(counts.doorGroups)}` } : { area: `a${random.below(counts.areas)}` };
}

/** A register of so many people and doors. */
export function denseFacility({ cardholders: people, doors: doorCount, seed }: DenseSize): FacilityDocument {
  const random = seeded(seed);
  const share = people / 100_000;
  const perDoor = doorCount / 5000;
  const sites = numbered(8, (i) => ({ id: `site${i}`, name: `Site ${i}`, timeZone: zones[i] ?? "UTC", calendar: `k${i % 4}` }));
  const allAreas = areas(random, Math.max(16, Math.round(1200 * perDoor)), sites.length);
  const allDoors = doors(random, doorCount, allAreas);
  const doorGroups = inGroups(random, 1400 * perDoor, allDoors);
  const counts = { doors: doorCount, doorGroups: doorGroups.length, areas: allAreas.length };
  const schedule = (): string => (random.chance(0.01) ? "s0" : `s${1 + Math.floor(random.below(59) * (random.below(100) / 100))}`);
  const levels = numbered(800 * perDoor, (l): Level => ({
    id: `l${l}`,
    name: `Level ${l}`,
    rows: numbered(2 + random.below(3), () => ({ ...target(random, counts), schedule: schedule() })),
  }));
  const bundles = numbered(25, (b) => ({ id: `b${b}`, name: `Bundle ${b}`, levels: numbered(4 + random.below(6), () => random.pick(levels).id) }));
  const level = (): GrantTarget => (random.chance(0.03) ? { bundle: random.pick(bundles).id } : { level: random.pick(levels).id });

  const departments = Math.max(12, Math.round(300 * share));
  const roles = Math.max(40, Math.round(1400 * share));
  const groups: Group[] = [
    ...numbered(departments, (g): Group => ({
      id: `dep${g}`,
      name: `Department ${g}`,
      kind: "department",
      ...(g > 8 && { parent: `dep${random.below(9)}` }),
      manager: `h${random.below(people)}`,
    })),
    ...numbered(roles, (g): Group => ({ id: `g${g}`, name: `Group ${g}`, ...(g > 50 && random.chance(0.4) && { parent: `g${random.below(50)}` }) })),
  ];
  // Each department draws its roles from a few sets, so that people share what they have, as they do.
  const setsOf = numbered(departments, () => numbered(8, () => Array.from({ length: random.below(3) }, () => `g${random.below(roles)}`)));

  const cardholders: Cardholder[] = [];
  const memberships: Membership[] = [];
  const credentials: Credential[] = [];
  const grants: Grant[] = [];
  for (let h = 0; h < people; h++) {
    const department = random.below(departments);
    const id = `h${h}`;
    const isContractor = random.chance(0.12);
    cardholders.push({
      id,
      name: `Person ${h}`,
      status: random.chance(0.03) ? "left" : random.chance(0.01) ? "suspended" : "active",
      type: isContractor ? "contractor" : "employee",
      staffNumber: String(100_000 + h),
      ...(random.chance(0.97) && { department: `dep${department}` }),
      ...(isContractor && { until: `2026-${String(1 + random.below(12)).padStart(2, "0")}-28` }),
      ...(random.chance(0.01) && { calendar: `k${random.below(4)}` }),
      ...(random.chance(0.01) && { hours: `s${1 + random.below(59)}` }),
      ...(random.chance(0.001) && { override: [`site${random.below(8)}`] }),
    });
    const roleSet = random.pick(random.pick(setsOf.slice(department, department + 1)) ?? []);
    for (const group of new Set(roleSet)) memberships.push({ group, cardholder: id, ...(random.chance(0.02) && { until: "2026-11-30" }) });
    if (random.chance(0.06)) memberships.push({ group: `g${random.below(roles)}`, cardholder: id });
    if (random.chance(0.04)) {
      const own = 10 + random.below(12);
      for (let n = 0; n < own; n++)
        grants.push({
          id: `p${h}-${n}`,
          to: { cardholder: id },
          ...(random.chance(0.6) ? { open: level() } : { open: target(random, counts), schedule: schedule() }),
          ...(random.chance(0.1) && { until: "2026-12-31" }),
        });
    }
    const cards = random.chance(0.3) ? 2 : random.chance(0.04) ? 3 : 1;
    for (let c = 0; c < cards; c++)
      credentials.push({
        id: `c${h}-${c}`,
        cardholder: id,
        kind: c === 0 ? "card" : c === 1 ? "fob" : "mobile",
        status: random.chance(0.95) ? "active" : random.chance(0.5) ? "lost" : "suspended",
        number: String(10_000 + credentials.length),
        facilityCode: "17",
        ...(random.chance(0.3) && { hasPin: true }),
        ...(random.chance(0.05) && { until: "2027-06-30" }),
      });
  }
  for (let c = 0; c < Math.round(1000 * share); c++)
    credentials.push({ id: `stock${c}`, kind: "card", status: random.chance(0.2) ? "active" : "stock", number: String(900_000 + c), facilityCode: "17" });
  for (const { id, kind } of groups) {
    const own = kind === "department" ? 3 + random.below(3) : 1 + random.below(2);
    for (let n = 0; n < own; n++) grants.push({ id: `${id}-${n}`, to: { group: id }, open: level() });
    if (random.chance(0.03)) grants.push({ id: `${id}-block`, to: { group: id }, open: target(random, counts), effect: "block" });
  }
  return {
    format: "nomade.facility/1",
    name: `A dense register of ${people} people`,
    timeZone: "Europe/Paris",
    asOf,
    sites,
    areas: allAreas.map((area, a) => (a % 3 === 0 ? { ...area, owner: `h${random.below(people)}` } : area)),
    calendars: calendars(random),
    schedules: schedules(random),
    doors: allDoors,
    doorGroups,
    levels,
    bundles,
    groups,
    memberships,
    cardholders,
    credentials,
    grants,
  };
}
