import { required } from "../kernel/invariant";
import type { Facility } from "../facility/facility";
import type { Area, Cardholder } from "../facility/document";
import type { Line } from "./line";
import type { CertifiedBy } from "./round-terms";

/** Who certifies a cardholder, and by what right. */
export interface Certifier {
  readonly cardholder: string;
  readonly as: "manager" | "department-manager";
}

/**
 * The certifier of every cardholder: their own manager, else their department's, else that of the department above.
 * Nobody certifies themself: who would is passed over for their own manager, else for the next department above.
 * Undefined where there is nobody.
 */
export function certifiers(facility: Facility): (cardholder: Cardholder) => Certifier | undefined {
  const groups = new Map(facility.groups.map((group) => [group.id, group]));
  const cardholders = new Map(facility.cardholders.map((cardholder) => [cardholder.id, cardholder]));
  return (cardholder) => {
    if (cardholder.manager !== undefined && cardholder.manager !== cardholder.id) return { cardholder: cardholder.manager, as: "manager" };
    for (let id = cardholder.department; id !== undefined;) {
      const group = required(groups.get(id), "references resolve");
      const manager = group.manager;
      if (manager !== undefined) {
        if (manager !== cardholder.id) return { cardholder: manager, as: "department-manager" };
        const above = cardholders.get(manager)?.manager;
        if (above !== undefined && above !== cardholder.id) return { cardholder: above, as: "manager" };
      }
      id = group.parent;
    }
    return undefined;
  };
}

/** The owner of an area, else of the one above it; nobody certifies themself, so whom the line is about is passed over. */
function ownerAbove(areas: ReadonlyMap<string, Area>, area: string, isAbout: (cardholder: string) => boolean): string | undefined {
  for (let at = areas.get(area); at !== undefined; at = at.parent === undefined ? undefined : areas.get(at.parent))
    if (at.owner !== undefined && !isAbout(at.owner)) return at.owner;
  return undefined;
}

const areasById = ({ areas }: Facility): ReadonlyMap<string, Area> => new Map(areas.map((area) => [area.id, area]));

/** The owners of areas, or of those above them, each once, by cardholder id; whom it is about is passed over. */
export function ownersOfAreas(facility: Facility): (areas: Iterable<string>, about: ReadonlySet<string>) => string[] {
  const byId = areasById(facility);
  return (areas, about) => {
    const owners = new Set<string>();
    for (const area of areas) {
      const owner = ownerAbove(byId, area, (cardholder) => about.has(cardholder));
      if (owner !== undefined) owners.add(owner);
    }
    return [...owners];
  };
}

/**
 * Who certifies the lines of one holder, each by cardholder id: nobody (the reviewer does), one, or manager and owner both. Where a line has no owner its
 * manager certifies it, and the other way round. The lines of a card that nobody holds go to the owners of the areas that they open; one about the card itself
 * to the owner of the most sensitive of these.
 */
export function certifiersOfLines(facility: Facility, by: CertifiedBy): (lines: readonly Line[]) => (readonly string[])[] {
  const managerOf = certifiers(facility);
  const cardholders = new Map(facility.cardholders.map((cardholder) => [cardholder.id, cardholder]));
  const areas = areasById(facility);
  return (lines) => {
    const owners = lines.map(({ subject, cardholder }) => (subject.kind === "area" ? ownerAbove(areas, subject.id, (id) => id === cardholder) : undefined));
    const bySensitivity = lines.map((line, i) => ({ line, i })).sort((a, b) => b.line.sensitivity - a.line.sensitivity);
    const firstOwner = bySensitivity.map(({ i }) => owners[i]).find((owner) => owner !== undefined);
    return lines.map((line, i) => {
      const holder = cardholders.get(line.cardholder ?? "");
      const manager = holder && managerOf(holder)?.cardholder;
      const owner = owners[i] ?? (holder ? undefined : firstOwner);
      const asked = !holder ? [owner] : by === "manager" ? [manager] : by === "owner" ? [owner ?? manager] : [manager, owner];
      const found = asked.filter((id) => id !== undefined);
      return [...new Set(found.length === 0 && holder ? [owner].filter((id) => id !== undefined) : found)];
    });
  };
}
