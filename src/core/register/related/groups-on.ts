import { present } from "../../kernel/invariant";
import { grantsOn } from "./grants-on";
import type { Book, Hook, Related } from "./ways";
import { Ways, collect, lasting, nothingHangs } from "./ways";

/** Groups that hang on an object. */
export function groupsOn(book: Book, { kind, id }: Hook): Related {
  const { facility } = book.compiled;
  const ways = new Ways();
  switch (kind) {
    case "cardholder": {
      const holder = facility.cardholders[book.compiled.cardholderById.get(id) ?? -1];
      const at = (group: string | undefined, way: string): void => {
        if (group !== undefined) ways.add(book.compiled.groupById.get(group), way);
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
      for (const [grant, way] of grantsOn(book, { kind, id })) {
        const { group } = present(facility.grants[grant], "positions are valid").to;
        if (group !== undefined) ways.add(book.compiled.groupById.get(group), way);
      }
      return ways.all();
    }
    default:
      return nothingHangs;
  }
}
