import { required } from "../../kernel/invariant";
import type { Grant } from "../../facility/document";
import type { NamedRegister, ObjectRef, Related } from "./ways";
import { Ways, bundlesWith, collect, lasting } from "./ways";

/** Grants whose target meets a condition, with words for the target where it is not the thing itself. */
const grantsTo = (register: NamedRegister, suffix: (open: Grant["open"]) => string | undefined): Related =>
  collect(register.compiled.facility.grants, ({ open }) => suffix(open));

/** Grants that hang on an object. */
export function grantsOn(register: NamedRegister, { kind, id }: ObjectRef): Related {
  const { compiled, directory } = register;
  const { facility } = compiled;
  const ways = new Ways();
  switch (kind) {
    case "cardholder": {
      const holder = compiled.cardholders.at(compiled.cardholderById.get(id) ?? -1);
      for (const { list, membership } of holder?.routes ?? [])
        for (const { grant, groups } of list.routes) {
          const through = groups.map((group) => facility.groups[group]?.name ?? "").join(", in ");
          const lasts = membership === undefined ? "" : lasting(required(facility.memberships[membership], "positions are valid"));
          ways.add(grant, list.by === "cardholder" ? "given straight" : `${list.by} ${through}${lasts}`);
        }
      break;
    }
    case "credential": {
      const credential = compiled.credentials.at(compiled.credentialById.get(id) ?? -1);
      for (const { list } of credential?.ownRoutes ?? []) for (const { grant } of list.routes) ways.add(grant, "given to it");
      break;
    }
    case "group": {
      let words = "its own";
      for (let group: string | undefined = id; group !== undefined;) {
        facility.grants.forEach(({ to }, position) => {
          if (to.group === group) ways.add(position, words);
        });
        const above: string | undefined = facility.groups[directory.position("group", group) ?? -1]?.parent;
        words = `from ${directory.name("group", above)} above it`;
        group = above;
      }
      break;
    }
    case "level": {
      const bundles = bundlesWith(register, id);
      return grantsTo(register, ({ level, bundle }) =>
        level === id ? "" : bundle !== undefined && bundles.has(bundle) ? `the bundle ${bundles.get(bundle) ?? ""}` : undefined,
      );
    }
    case "schedule":
      return collect(facility.grants, ({ schedule }) => (schedule === id ? "narrowed by it" : undefined));
    case "door":
    case "doorGroup":
    case "area":
    case "bundle":
      return grantsTo(register, (open) => (open[kind] === id ? "" : undefined));
    default:
  }
  return ways.all();
}
