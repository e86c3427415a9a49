import type { Cardholder, Credential, Grant, Group, Membership } from "@/core/facility/document";
import { inventedNames } from "./names";
import type { Random } from "./random";
import { departments, groupGrants, otherGroups } from "./rights";
import { tellStories } from "./stories";
import { summerGrants } from "./summer-review";

export interface People {
  readonly groups: Group[];
  readonly cardholders: Cardholder[];
  readonly credentials: Credential[];
  readonly memberships: Membership[];
  readonly grants: Grant[];
}

/** What makes a card one of the institute's: the facility code of its boxes, and the number printed on it. */
const facilityCode = "87";
const firstNumber = 40100;
const date = (random: Random, firstYear: number, years: number): string =>
  `${firstYear + random.below(years)}-${String(1 + random.below(12)).padStart(2, "0")}-${String(1 + random.below(28)).padStart(2, "0")}`;

/** How many people a scaled-up institute puts into each further team of a department. */
const peopleATeam = 60;

function teamsOf(count: number): { id: string; name: string; parent: string }[] {
  const teams = Math.max(0, Math.floor((count - 420) / peopleATeam));
  return Array.from({ length: teams }, (_, i) => {
    const parent = departments[1 + (i % (departments.length - 1))] as (typeof departments)[number];
    return { id: `d-team-${String(i + 1).padStart(4, "0")}`, name: `${parent.name}, team ${i + 1}`, parent: parent.id };
  });
}

/** The people of the institute with their cards, memberships and own grants. */
export function makePeople(random: Random, count: number, extraLevels: readonly string[]): People {
  const nameOf = inventedNames(random);
  const cardholders: Cardholder[] = [];
  const credentials: Credential[] = [];
  const memberships: Membership[] = [];
  const grants: Grant[] = [...groupGrants];
  const managers = new Map<string, string>();
  let number = firstNumber;

  const card = (cardholder: string | undefined, more: Partial<Credential> = {}): Credential => {
    const n = number++;
    const credential: Credential = {
      id: `c-${n}`,
      ...(cardholder !== undefined && { cardholder }),
      kind: "card",
      status: "active",
      facilityCode,
      // The open 26-bit format holds 16 bits of number; larger institutes use a longer one.
      number: String(n),
      bitFormat: n < 65536 ? "26" : "37",
      printedNumber: `V${String(n * 7 + 31).padStart(7, "0")}`,
      issuedAt: `${date(random, 2019, 7)}T09:00:00Z`,
      ...more,
    };
    credentials.push(credential);
    return credential;
  };
  const person = (name: string, department: string | undefined, more: Partial<Cardholder> = {}): Cardholder => {
    const n = cardholders.length + 1;
    const cardholder: Cardholder = {
      id: `p-${String(n).padStart(5, "0")}`,
      name,
      status: "active",
      type: "employee",
      staffNumber: String(10000 + n),
      email: `${name.toLowerCase().replace(/[^a-z]+/g, ".")}@verrane.example`,
      ...(department !== undefined && { department }),
      ...more,
    };
    cardholders.push(cardholder);
    return cardholder;
  };
  const join = (group: string, cardholder: string, more: Partial<Membership> = {}) => memberships.push({ group, cardholder, ...more });
  const own = (cardholder: string, open: Grant["open"], more: Partial<Grant> = {}) =>
    grants.push({
      id: `gx-${String(grants.length).padStart(5, "0")}`,
      to: { cardholder },
      open,
      // A few were given without anybody writing down who had asked for them.
      ...(random.chance(0.94) && { authorised: { by: "Access office", reference: `AO-${grants.length}` } }),
      ...more,
    });

  // Every department has somebody who answers for it, and the direction answers for them.
  for (const { id } of departments) {
    const manager = person(nameOf(), id);
    managers.set(id, manager.id);
    card(manager.id, { hasPin: true });
  }
  const teams = teamsOf(count);
  for (const { id } of teams) {
    const manager = person(nameOf(), id);
    managers.set(id, manager.id);
    card(manager.id);
  }

  // The stories.
  const tamm = person("Orsolya Tamm", "d-seedbank");
  card(tamm.id, { hasPin: true });
  join("t-rota", tamm.id, { from: "2024-03-03" });
  const moved = person("Ilse Thornwold", "d-education");
  card(moved.id);
  for (const kept of ["l-herbarium", "l-types", "l-tower"]) own(moved.id, { level: kept }, { from: "2021-05-01", note: "Curator until June 2026" });
  const contractor = person("Mirte Oakenvik", "d-facilities", {
    type: "contractor",
    company: "Coldrun Cooling",
    sponsor: managers.get("d-facilities") as string,
    until: "2027-03-31",
  });
  card(contractor.id);
  own(contractor.id, { level: "l-cooling" }, { until: "2026-10-31", note: "Withdrawn after the review of October" });
  own(contractor.id, { door: "v-inner" }, { schedule: "always", note: "For the door works of 2025" });
  own(contractor.id, { door: "v-hall" }, { schedule: "always", note: "For the door works of 2025" });
  const director = person("Sefa Marchwald", "d-direction", { override: ["garden", "vault"], lockdownPass: true });
  card(director.id, { hasPin: true });
  const engineer = person("Tobiah Linddahl", "d-facilities", { lockdownPass: true });
  card(engineer.id, { hasPin: true });
  for (const all of ["l-cooling", "l-gates-always", "l-data-always"]) own(engineer.id, { level: all });
  own(engineer.id, { doorGroup: "dg-vault" }, { schedule: "always", note: "Sensors" });
  const keeper = person("Ruben Achterlund", "d-island");
  card(keeper.id);
  own(keeper.id, { level: "l-station-keeper" });
  const blocked = person("Casper Nettlerode", "d-plant-health", { type: "employee" });
  card(blocked.id, { hasPin: true });
  grants.push({
    id: "gb-pesticide",
    to: { cardholder: blocked.id },
    open: { area: "a-pesticide" },
    effect: "block",
    from: "2026-09-01",
    note: "Until the training is renewed",
  });

  tellStories({ person, card, own, join, grants, managers });

  const weights = departments.flatMap(({ id, share }) => Array.from({ length: share }, () => id));
  while (cardholders.length < count) {
    const i = cardholders.length;
    const team = teams.length > 0 && random.chance(0.7) ? random.pick(teams) : undefined;
    const department = team?.id ?? random.pick(weights);
    const base = team?.parent ?? department;
    const leaver = random.chance(0.05);
    const visiting = base === "d-students";
    const contracted = base === "d-cleaning" || (base === "d-facilities" && random.chance(0.25));
    const left = leaver ? `2026-${String(2 + random.below(9)).padStart(2, "0")}-${String(1 + random.below(28)).padStart(2, "0")}` : undefined;
    const member = person(nameOf(), random.chance(0.01) ? undefined : department, {
      type: visiting ? "visitor" : contracted ? "contractor" : "employee",
      ...(contracted && {
        company: "Bright & Dry",
        ...(random.chance(0.93) && { sponsor: managers.get("d-facilities") as string }),
        ...(random.chance(0.92) && { until: "2027-06-30" }),
      }),
      ...(visiting && { from: "2026-09-01", until: random.chance(0.3) ? "2027-01-31" : "2027-07-31", sponsor: managers.get("d-ecology") as string }),
      ...(left !== undefined && { status: "left", statusSince: `${left}T16:00:00Z` }),
    });
    const dead = leaver && !random.chance(0.1);
    const credential = card(member.id, {
      hasPin: base === "d-plant-health" || base === "d-genetics" || base === "d-computing",
      ...(dead && { status: "returned", statusSince: `${left}T16:30:00Z` }),
      ...(!leaver && random.chance(0.012) && { until: `2026-${String(3 + random.below(7)).padStart(2, "0")}-15` }),
      ...(!leaver && random.chance(0.015) && { status: "suspended", statusSince: "2026-08-20T10:00:00Z" }),
      ...(visiting && { expiry: { after: "last-use", days: 120 } as const }),
    });
    if (random.chance(0.08)) card(member.id, { kind: "fob", printedNumber: `F${i}` });
    if (random.chance(0.02) && !dead) card(member.id, { temporary: true, issuedAt: "2026-10-05T07:40:00Z" });
    if (base === "d-horticulture" && random.chance(0.07)) join("t-frost", member.id, { from: "2025-10-01" });
    if (base === "d-horticulture" && random.chance(0.05)) join("t-rota", member.id, { from: "2026-03-01" });
    if (base === "d-security" && random.chance(0.6)) join("t-rounds", member.id);
    if (base === "d-facilities" && random.chance(0.1)) join("t-wardens", member.id);
    if (base === "d-students" && random.chance(0.25)) join("t-summer", member.id, { from: "2026-07-01", until: "2026-08-31" });
    if (random.chance(0.05)) join("t-lodgers", member.id);
    if (random.chance(0.04)) join("t-volunteers", member.id);
    if (base === "d-ecology" && random.chance(0.3)) own(member.id, { level: "l-station" }, { from: "2026-01-01", until: "2026-12-31" });
    if (extraLevels.length > 0 && random.chance(0.15)) own(member.id, { level: random.pick(extraLevels) });
    if (credential.status === "active" && random.chance(0.01)) own(member.id, { door: "g-data" }, { schedule: "office", note: "Exception" });
  }

  // A box of cards that the installer left active, one of which was given rights for a demonstration.
  const box = Array.from({ length: 24 }, () => card(undefined, { issuedAt: "2025-02-03T08:00:00Z" }));
  grants.push({
    id: "gs-demonstration",
    to: { credential: (box[7] as Credential).id },
    open: { doorGroup: "dg-vault" },
    schedule: "laboratory",
    note: "Demonstration of the new reader",
  });
  grants.push({ id: "gs-demonstration-hall", to: { credential: (box[7] as Credential).id }, open: { door: "v-hall" }, schedule: "laboratory" });
  for (let i = 0; i < 30; i++) card(undefined, { status: "stock" });

  const managed: Group[] = [
    ...departments.map(({ id, name, parent }) => ({
      id,
      name,
      kind: "department" as const,
      ...(parent !== undefined && { parent }),
      manager: managers.get(id) as string,
    })),
    ...teams.map(({ id, name, parent }) => ({ id, name, kind: "department" as const, parent, manager: managers.get(id) as string })),
    ...otherGroups.map(({ id, name, parent }) => ({ id, name, ...(parent !== undefined && { parent }) })),
  ];
  const direction = director.id;
  const heads = new Set(managers.values());
  return {
    groups: managed,
    // Heads answer to the head of the department above, or to the director.
    cardholders: cardholders.map((cardholder) => {
      if (!heads.has(cardholder.id)) return cardholder;
      const group = managed.find(({ id }) => id === cardholder.department);
      return { ...cardholder, manager: (group?.parent === undefined ? undefined : managers.get(group.parent)) ?? direction };
    }),
    credentials,
    memberships,
    grants: [...grants, ...summerGrants({ cardholders }, 2)],
  };
}
