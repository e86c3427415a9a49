import { required } from "../kernel/invariant";
import type { Facility } from "../facility/facility";
import type { Cardholder } from "../facility/document";

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
    for (let id = cardholder.department; id !== undefined; ) {
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
