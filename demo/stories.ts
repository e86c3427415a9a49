import type { Cardholder, Credential, Grant, Membership } from "@/core/facility/document";

import { summerPeople } from "./summer-review";

/** How people, their cards and what they are given come into the institute. */
export interface Making {
  readonly person: (name: string, department: string | undefined, more?: Partial<Cardholder>) => Cardholder;
  readonly card: (cardholder: string | undefined, more?: Partial<Credential>) => Credential;
  readonly own: (cardholder: string, open: Grant["open"], more?: Partial<Grant>) => void;
  readonly join: (group: string, cardholder: string, more?: Partial<Membership>) => void;
  readonly grants: Grant[];
  readonly managers: ReadonlyMap<string, string>;
}

/** Never seen at any door. */
export const neverSeen = "Tove Quietmark";

/** Eight levels given one by one, as happens where nobody makes a bundle. */
const manyLevels = ["l-gates", "l-offices", "l-workshops", "l-tower", "l-visitor", "l-glass-day", "l-herbarium", "l-labs"];

/** People with whom something is not as it should be: a believable case of each rule that would otherwise have none. */
export function tellStories({ person, card, own, join, grants, managers }: Making): void {
  const sponsor = (department: string): string => managers.get(department) ?? "";
  // Her training for the pesticide store ended, and nobody took the store away.
  const handler = person("Brita Larchgaard", "d-plant-health", { requirements: [{ name: "Pesticide handling", until: "2026-10-31" }] });
  card(handler.id, { hasPin: true });
  // Comes every day, and will stand before the door in December.
  const guest = person("Emeric Saltwillow", "d-genetics", {
    type: "contractor",
    company: "Helix Loan Staff",
    sponsor: sponsor("d-genetics"),
    until: "2026-11-30",
  });
  card(guest.id, { hasPin: true });
  const intern = person("Nele Hawkmoor", "d-ecology", { until: "2027-02-28" });
  card(intern.id, { until: "2027-12-31" });
  const joiner = person("Tilda Rowanstrand", "d-seedbank", { from: "2026-12-01" });
  card(joiner.id, { hasPin: true });
  // Given the station, and the garden as the only site that knows her.
  const nowhere = person("Odile Marrowby", undefined, { sites: ["garden"], manager: sponsor("d-island") });
  card(nowhere.id);
  own(nowhere.id, { level: "l-station" });
  // A card that was made again with the number of the lost one, while that is marked active.
  const twin = person("Severin Copperwood", "d-ecology");
  const original = card(twin.id);
  card(twin.id, { number: original.number as string, issuedAt: "2026-09-08T08:20:00Z" });
  const foreign = person("Yvaine Hollinmark", "d-science");
  card(foreign.id, { number: "70012", printedNumber: "70012" });
  const [first, second] = [person("Aurel Winterkvist", "d-herbarium"), person("Bjarne Winterkvist", "d-herbarium")];
  const misprinted = card(first.id);
  card(second.id, { printedNumber: misprinted.number as string });
  // Two lodgers chose the same four figures.
  for (const name of ["Calla Birchstad", "Dorothea Birchstad"]) {
    const lodger = person(name, "d-education");
    card(lodger.id, { hasPin: true, pinTag: "3b2f00e1a95c4d17" });
    join("t-lodgers", lodger.id);
  }
  const upstairs = person("Eskil Nightmark", "d-education");
  card(upstairs.id);
  own(upstairs.id, { door: "g-floor-4" }, { schedule: "office", note: "Reading room" });
  const unnamed = person("Onno Firwald", "d-facilities", { type: "contractor", until: "2027-03-31" });
  card(unnamed.id);
  const pinless = person("Pavla Brightmoor", "d-plant-health");
  card(pinless.id);
  const collector = person("Fenna Applestad", "d-facilities");
  for (const kind of ["card", "fob", "mobile"] as const) card(collector.id, { kind });
  // Entered a second time when she came back.
  const returned = person("Gunhild Seawold", "d-horticulture", { email: "gunhild.seawold@verrane.example" });
  card(returned.id);
  const again = person("Gunhild Seawold-Berg", "d-horticulture", { email: "gunhild.seawold@verrane.example" });
  card(again.id);
  const spared = person("Hedda Ironwald", "d-genetics");
  const spare = card(spared.id, { hasPin: true });
  grants.push({ id: "gc-lab-spare", to: { credential: spare.id }, open: { door: "g-lab-3" }, schedule: "laboratory", authorised: { by: "Access office" } });
  const visitor = person("Ignace Quillon", "d-students", { type: "visitor", from: "2026-09-01", until: "2027-01-31", sponsor: sponsor("d-herbarium") });
  card(visitor.id);
  own(visitor.id, { door: "g-herb-types" }, { schedule: "office", note: "For his thesis" });
  const handyman = person("Jarle Stonefeld", "d-facilities");
  card(handyman.id);
  for (const level of manyLevels) own(handyman.id, { level });
  for (const name of ["Kirsa Dunmark", "Lorens Dunmark", "Maud Elderkvist"]) {
    const inspector = person(name, "d-direction");
    card(inspector.id, { hasPin: true });
    join("t-inspection", inspector.id);
  }
  // On leave since August, and tries his card all the same.
  const onLeave = person("Rikard Gorsevik", "d-computing");
  card(onLeave.id, { status: "suspended", statusSince: "2026-08-03T08:00:00Z", hasPin: true });
  // Given a card that has lain in its envelope since.
  const quiet = person(neverSeen, "d-education");
  card(quiet.id, { issuedAt: "2026-08-24T09:00:00Z" });
  // Gone since September, as his department told in October; until then his card was live.
  const late = person("Niels Brackenholm", "d-facilities", { status: "left", statusSince: "2026-09-10T15:00:00Z" });
  card(late.id, { status: "returned", statusSince: "2026-10-02T09:00:00Z" });
  // Whose access was withdrawn in the review of summer.
  for (const name of Object.values(summerPeople)) card(person(name, "d-seedbank").id);
}
