import type { Bundle, Grant, Group, Level } from "@/core/facility/document";

const level = (id: string, name: string, ...rows: readonly (readonly [target: string, schedule: string])[]): Level => ({
  id,
  name,
  rows: rows.map(([target, schedule]) =>
    target.startsWith("a-") ? { area: target, schedule } : target.startsWith("dg-") ? { doorGroup: target, schedule } : { door: target, schedule },
  ),
});

export const levels: readonly Level[] = [
  level("l-gates", "Gates by day", ["dg-gates", "staff-day"]),
  level("l-gates-always", "Gates at all hours", ["dg-gates", "always"]),
  level("l-offices", "Offices", ["dg-offices", "staff-day"]),
  level("l-glass-day", "Glasshouses by day", ["dg-glass", "staff-day"]),
  level("l-glass-early", "Glasshouses, early shift", ["dg-glass", "early"], ["dg-gates", "early"]),
  level("l-glass-frost", "Glasshouses, frost watch", ["dg-glass", "nights"], ["dg-gates", "nights"]),
  level("l-propagation", "Propagation house", ["g-propagation", "laboratory"]),
  level("l-visitor", "Visitor centre", ["a-visitor", "staff-day"]),
  level("l-herbarium", "Herbarium", ["g-herb-main", "curators"], ["g-herb-side", "curators"]),
  level("l-types", "Type specimens", ["a-types", "curators"]),
  level("l-labs", "Laboratories", ["dg-labs", "laboratory"]),
  level("l-labs-clean", "Laboratories, cleaning", ["dg-labs", "cleaning"]),
  level("l-isotope", "Isotope room", ["g-isotope", "office"]),
  level("l-pesticide", "Pesticide store", ["g-pesticide", "early"]),
  level("l-data", "Data room", ["g-data", "office"]),
  level("l-data-always", "Data room at all hours", ["g-data", "always"]),
  level("l-lodgings", "Lodgings", ["g-lodge-main", "always"]),
  level("l-gatehouse", "Gatehouse", ["a-gatehouse", "always"], ["dg-gates", "always"]),
  level("l-workshops", "Workshops", ["a-workshops", "staff-day"], ["g-compost", "staff-day"]),
  level("l-tower", "Library tower", ["dg-tower", "curators"]),
  level("l-rounds", "Night rounds", ["dg-rounds", "nights"]),
  level("l-station", "Station", ["dg-station", "station"], ["a-fieldlab", "station"]),
  level("l-station-keeper", "Station keeper", ["a-station", "always"], ["dg-station", "always"], ["i-fuel", "station"]),
  level("l-fuel", "Fuel store", ["i-fuel", "station"]),
  level("l-vault-hall", "Vault entrance", ["v-gate", "staff-day"], ["v-hall", "staff-day"], ["v-office", "staff-day"]),
  level("l-vault-curators", "Seed bank curators", ["dg-vault", "curators"], ["v-gate", "curators"], ["v-hall", "curators"]),
  level("l-vault-nights", "Vault corridor, nights", ["dg-vault", "nights"], ["v-gate", "nights"], ["v-hall", "nights"]),
  level("l-cooling", "Cooling plant", ["v-plant", "always"], ["v-gate", "always"], ["v-hall", "always"]),
  level("l-volunteers", "Volunteers", ["g-turn-in", "volunteers"], ["g-turn-out", "volunteers"], ["g-palm", "volunteers"], ["g-shop", "volunteers"]),
  level(
    "l-everything",
    "Annual inspection",
    ...["a-garden", "a-herbarium", "a-labs", "a-data", "a-pesticide", "a-offices", "a-lodgings", "a-gatehouse", "a-workshops", "a-station", "a-hall"].map(
      (area) => [area, "office"] as const,
    ),
    ["dg-tower", "office"],
    ["dg-station", "office"],
  ),
  level("l-summer", "Summer school", ["dg-labs", "summer-school"], ["dg-gates", "summer-school"]),
];

export const bundles: readonly Bundle[] = [
  { id: "b-gardener", name: "Gardener", levels: ["l-glass-early", "l-propagation", "l-workshops"] },
  { id: "b-researcher", name: "Researcher", levels: ["l-gates", "l-labs", "l-offices", "l-herbarium"] },
  { id: "b-curator", name: "Curator", levels: ["l-gates", "l-herbarium", "l-tower", "l-offices"] },
];

/** Departments of the institute, with how large a share of the people each has. */
export const departments: readonly {
  readonly id: string;
  readonly name: string;
  readonly share: number;
  readonly parent?: string;
  readonly opens: readonly string[];
}[] = [
  { id: "d-direction", name: "Institute direction", share: 2, opens: ["l-gates-always", "l-offices", "l-tower"] },
  { id: "d-science", name: "Science", share: 2, opens: ["b-researcher"] },
  { id: "d-collections", name: "Collections", share: 2, parent: "d-science", opens: ["b-curator"] },
  { id: "d-seedbank", name: "Seed bank", share: 5, parent: "d-collections", opens: ["l-vault-curators"] },
  { id: "d-herbarium", name: "Herbarium", share: 7, parent: "d-collections", opens: ["l-types"] },
  { id: "d-genetics", name: "Genetics", share: 12, parent: "d-science", opens: ["l-isotope"] },
  { id: "d-ecology", name: "Ecology", share: 10, parent: "d-science", opens: [] },
  { id: "d-island", name: "Field station", share: 6, parent: "d-science", opens: ["l-station"] },
  { id: "d-horticulture", name: "Horticulture", share: 18, opens: ["b-gardener"] },
  { id: "d-plant-health", name: "Plant health", share: 4, parent: "d-horticulture", opens: ["l-pesticide"] },
  { id: "d-facilities", name: "Facilities", share: 8, opens: ["l-gates", "l-workshops", "l-offices"] },
  { id: "d-cleaning", name: "Cleaning", share: 6, parent: "d-facilities", opens: ["l-labs-clean"] },
  { id: "d-security", name: "Gatehouse", share: 4, parent: "d-facilities", opens: ["l-gatehouse"] },
  { id: "d-computing", name: "Computing", share: 4, opens: ["l-gates", "l-offices", "l-data"] },
  { id: "d-education", name: "Education and visitors", share: 8, opens: ["l-gates", "l-visitor", "l-glass-day"] },
  { id: "d-students", name: "Visiting students", share: 10, parent: "d-education", opens: ["l-labs"] },
];

/** Groups beside the departments. The rota stands below the watch, and so has by night what nobody gave to it on purpose. */
export const otherGroups: readonly (Group & { readonly opens: readonly string[] })[] = [
  { id: "t-frost", name: "Frost watch", opens: ["l-glass-frost", "l-vault-nights"] },
  { id: "t-rota", name: "Glasshouse rota", parent: "t-frost", opens: [] },
  { id: "t-rounds", name: "Night rounds", opens: ["l-rounds"] },
  { id: "t-wardens", name: "Fire wardens", opens: ["l-cooling"] },
  { id: "t-volunteers", name: "Volunteers", opens: ["l-volunteers"] },
  { id: "t-inspection", name: "Annual inspection", opens: ["l-everything"] },
  { id: "t-summer", name: "Summer school 2026", opens: ["l-summer"] },
  { id: "t-lodgers", name: "Lodgers", opens: ["l-lodgings"] },
];

const target = (id: string) => (id.startsWith("b-") ? { bundle: id } : { level: id });

/** The grants to departments and groups. */
export const groupGrants: readonly Grant[] = [...departments, ...otherGroups].flatMap(({ id, opens }) =>
  opens.map((opened) => ({
    id: `gr-${id}-${opened}`,
    to: { group: id },
    open: target(opened),
    authorised: { by: "Institute direction", at: "2024-01-15T09:00:00Z", reference: `AR-${opened.slice(2)}` },
    ...(id === "t-frost" && { inLockdown: true }),
  })),
);
