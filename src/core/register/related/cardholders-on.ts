import type { Grant } from "../../facility/document";
import type { NamedRegister, ObjectRef, Related } from "./ways";
import { Ways, bundlesWith, collect, lasting } from "./ways";

/** A group and those below it, with the words of the way up. */
function below(register: NamedRegister, group: string): Map<string, string> {
  const found = new Map([[group, ""]]);
  const { groups } = register.compiled.facility;
  for (let before = -1; before !== found.size;) {
    before = found.size;
    for (const { id, parent, name } of groups) if (parent !== undefined && found.has(parent) && !found.has(id)) found.set(id, ` through ${name}`);
  }
  return found;
}

function membersOf(register: NamedRegister, group: string, ways: Ways, words: (way: string) => string): void {
  const { facility, cardholderById } = register.compiled;
  const groups = below(register, group);
  facility.cardholders.forEach(({ department }, position) => {
    const through = department === undefined ? undefined : groups.get(department);
    if (through !== undefined) ways.add(position, words(`department${through}`));
  });
  for (const membership of facility.memberships) {
    const through = groups.get(membership.group);
    if (through !== undefined) ways.add(cardholderById.get(membership.cardholder), words(`member${through}${lasting(membership)}`));
  }
}

function receiversOf(register: NamedRegister, grant: Grant, ways: Ways, suffix: string): void {
  const { cardholderById, credentialById, facility } = register.compiled;
  const until = `${grant.effect === "block" ? ", a block" : ""}${lasting(grant)}${suffix}`;
  if (grant.to.cardholder !== undefined) ways.add(cardholderById.get(grant.to.cardholder), `given straight${until}`);
  else if (grant.to.credential !== undefined) {
    const holder = facility.credentials[credentialById.get(grant.to.credential) ?? -1]?.cardholder;
    ways.add(holder === undefined ? undefined : cardholderById.get(holder), `given to ${register.directory.credentialName(grant.to.credential)}${until}`);
  } else {
    const { group } = grant.to;
    const name = register.directory.name("group", group);
    membersOf(register, group, ways, (way) => `${name}: ${way}${until}`);
  }
}

/** Cardholders that hang on an object. */
export function cardholdersOn(register: NamedRegister, { kind, id }: ObjectRef): Related {
  const { facility } = register.compiled;
  const ways = new Ways();
  const receivers = (suffix: (grant: Grant) => string | undefined): void => {
    for (const grant of facility.grants) {
      const words = suffix(grant);
      if (words !== undefined) receiversOf(register, grant, ways, words);
    }
  };
  switch (kind) {
    case "group":
      membersOf(register, id, ways, (way) => way);
      break;
    case "level": {
      const bundles = bundlesWith(register, id);
      receivers(({ open }) =>
        open.level === id ? "" : open.bundle !== undefined && bundles.has(open.bundle) ? `, in the bundle ${bundles.get(open.bundle) ?? ""}` : undefined,
      );
      break;
    }
    case "bundle":
    case "doorGroup":
    case "area":
      receivers(({ open }) => (open[kind] === id ? "" : undefined));
      break;
    case "grant":
      receivers((grant) => (grant.id === id ? "" : undefined));
      break;
    case "schedule": {
      facility.cardholders.forEach(({ hours }, position) => {
        if (hours === id) ways.add(position, "own hours");
      });
      const levels = new Map(facility.levels.filter(({ rows }) => rows?.some(({ schedule }) => schedule === id)).map((level) => [level.id, level.name]));
      const bundles = new Map(
        facility.bundles.flatMap((bundle) => (bundle.levels?.some((level) => levels.has(level)) ? [[bundle.id, bundle.name] as const] : [])),
      );
      receivers(({ open, schedule }) =>
        schedule === id
          ? ", narrowed by it"
          : open.level !== undefined && levels.has(open.level)
            ? `, level ${levels.get(open.level) ?? ""}`
            : open.bundle !== undefined && bundles.has(open.bundle)
              ? `, bundle ${bundles.get(open.bundle) ?? ""}`
              : undefined,
      );
      break;
    }
    case "calendar":
      return collect(facility.cardholders, ({ calendar }) => (calendar === id ? "own calendar" : undefined));
    case "cardholder":
      return collect(
        facility.cardholders,
        ({ manager, sponsor }) => [manager === id ? "manager" : "", sponsor === id ? "sponsor" : ""].filter(Boolean).join(" and ") || undefined,
      );
    case "site":
      return collect(facility.cardholders, ({ sites }) => (sites?.includes(id) ? "known here" : undefined));
    default:
  }
  return ways.all();
}
