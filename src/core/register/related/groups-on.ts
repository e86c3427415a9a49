import { required } from "../../kernel/invariant";
import { grantsOn } from "./grants-on";
import type { NamedRegister, ObjectRef, Related } from "./ways";
import { Ways, collect, lasting, nothingRelated } from "./ways";

/** Groups that hang on an object. */
export function groupsOn(register: NamedRegister, { kind, id }: ObjectRef): Related {
  const { facility } = register.compiled;
  const ways = new Ways();
  switch (kind) {
    case "cardholder": {
      const holder = facility.cardholders[register.compiled.cardholderById.get(id) ?? -1];
      const at = (group: string | undefined, way: string): void => {
        if (group !== undefined) ways.add(register.compiled.groupById.get(group), way);
      };
      at(holder?.department, "department");
      for (const membership of facility.memberships) if (membership.cardholder === id) at(membership.group, `member${lasting(membership)}`);
      facility.groups.forEach(({ manager }, position) => {
        if (manager === id) ways.add(position, "manages it");
      });
      return ways.all();
    }
    case "group":
      return collect(facility.groups, ({ parent }) => (parent === id ? "below it" : undefined));
    case "level":
    case "bundle": {
      for (const [grant, way] of grantsOn(register, { kind, id })) {
        const { group } = required(facility.grants[grant], "positions are valid").to;
        if (group !== undefined) ways.add(register.compiled.groupById.get(group), way);
      }
      return ways.all();
    }
    default:
      return nothingRelated;
  }
}
