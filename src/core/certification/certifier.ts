import { required } from "../kernel/invariant";
import type { Facility } from "../facility/facility";
import type { Cardholder } from "../facility/document";
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

/** The owner of an area, else of the one above it; nobody certifies themself, so who holds the line is passed over. */
function ownerAbove(facility: Facility, areas: ReadonlyMap<string, Facility["areas"][number]>, area: string, holder: string | undefined): string | undefined {
  for (let at = areas.get(area); at !== undefined; at = at.parent === undefined ? undefined : areas.get(at.parent))
    if (at.owner !== undefined && at.owner !== holder) return at.owner;
  return undefined;
}

/**
 * Who certifies the lines of one holder, each by cardholder id: nobody (the reviewer does), one, or manager and owner both. Where a line has no owner its
 * manager certifies it, and the other way round. The lines of a card that nobody holds go to the owners of the areas that they open; one about the card itself
 * to the owner of the most sensitive of these.
 */
export function certifiersOfLines(facility: Facility, by: CertifiedBy): (lines: readonly Line[]) => (readonly string[])[] {
  const managerOf = certifiers(facility);
  const cardholders = new Map(facility.cardholders.map((cardholder) => [cardholder.id, cardholder]));
  const areas = new Map(facility.areas.map((area) => [area.id, area]));
  return (lines) => {
    const owners = lines.map(({ subject, cardholder }) => (subject.kind === "area" ? ownerAbove(facility, areas, subject.id, cardholder) : undefined));
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
