import { present } from "../kernel/invariant";
import type { CompiledFacility, Position } from "../compile/compiled-facility";
import type { Grant } from "../facility/draft";
import { dateOfMoment } from "./moment-words";
import type { Directory } from "./directory";
import { directoryOf } from "./directory";
import type { RegisterKind } from "./kinds";

/** Objects that hang on another, by position, each with the ways in words by which they do. */
export type Related = ReadonlyMap<Position, string>;

/** The object on which others hang. */
export interface Hook {
  readonly kind: RegisterKind;
  readonly id: string;
}

/** Collects ways: an object that hangs on another by several has them all, each once. */
class Ways {
  private readonly found = new Map<Position, Set<string>>();

  add(position: Position | undefined, way: string): void {
    if (position === undefined) return;
    const ways = this.found.get(position);
    if (ways) ways.add(way);
    else this.found.set(position, new Set([way]));
  }

  all(): Related {
    return new Map([...this.found].map(([position, ways]) => [position, [...ways].join("; ")]));
  }
}

const lasting = ({ from, until }: { readonly from?: string; readonly until?: string }): string =>
  [from === undefined ? "" : ` from ${dateOfMoment(from)}`, until === undefined ? "" : ` until ${dateOfMoment(until)}`].join("");

/** Works out what hangs on an object, for one register. */
class Relations {
  private readonly directory: Directory;

  constructor(private readonly compiled: CompiledFacility) {
    this.directory = directoryOf(compiled);
  }

  private collect<T>(objects: readonly T[], way: (object: T) => string | undefined): Related {
    const ways = new Ways();
    objects.forEach((object, position) => {
      const words = way(object);
      if (words !== undefined) ways.add(position, words);
    });
    return ways.all();
  }

  /** A group and those below it, with the words of the way up. */
  private below(group: string): Map<string, string> {
    const found = new Map([[group, ""]]);
    const { groups } = this.compiled.facility;
    for (let before = -1; before !== found.size; ) {
      before = found.size;
      for (const { id, parent, name } of groups) if (parent !== undefined && found.has(parent) && !found.has(id)) found.set(id, ` through ${name}`);
    }
    return found;
  }

  private membersOf(group: string, ways: Ways, words: (way: string) => string): void {
    const { facility, cardholderById } = this.compiled;
    const groups = this.below(group);
    facility.cardholders.forEach(({ department }, position) => {
      const through = department === undefined ? undefined : groups.get(department);
      if (through !== undefined) ways.add(position, words(`department${through}`));
    });
    for (const membership of facility.memberships) {
      const through = groups.get(membership.group);
      if (through !== undefined) ways.add(cardholderById.get(membership.cardholder), words(`member${through}${lasting(membership)}`));
    }
  }

  private receiversOf(grant: Grant, ways: Ways, suffix: string): void {
    const { cardholderById, credentialById, facility } = this.compiled;
    const until = `${grant.effect === "block" ? ", a block" : ""}${lasting(grant)}${suffix}`;
    if (grant.to.cardholder !== undefined) ways.add(cardholderById.get(grant.to.cardholder), `given straight${until}`);
    else if (grant.to.credential !== undefined) {
      const holder = facility.credentials[credentialById.get(grant.to.credential) ?? -1]?.cardholder;
      ways.add(holder === undefined ? undefined : cardholderById.get(holder), `given to ${this.directory.credentialName(grant.to.credential)}${until}`);
    } else {
      const group = present(grant.to.group, "a grant has a receiver");
      const name = this.directory.name("group", group);
      this.membersOf(group, ways, (way) => `${name}: ${way}${until}`);
    }
  }

  /** Grants whose target meets a condition, with words for the target where it is not the thing itself. */
  private grantsTo(suffix: (open: Grant["open"]) => string | undefined): Related {
    return this.collect(this.compiled.facility.grants, ({ open }) => suffix(open));
  }

  private bundlesWith(level: string): ReadonlyMap<string, string> {
    return new Map(this.compiled.facility.bundles.filter(({ levels }) => levels?.includes(level)).map(({ id, name }) => [id, name]));
  }

  private cardholders({ kind, id }: Hook): Related {
    const { facility } = this.compiled;
    const ways = new Ways();
    const receivers = (suffix: (grant: Grant) => string | undefined): void => {
      for (const grant of facility.grants) {
        const words = suffix(grant);
        if (words !== undefined) this.receiversOf(grant, ways, words);
      }
    };
    switch (kind) {
      case "group":
        this.membersOf(id, ways, (way) => way);
        break;
      case "level": {
        const bundles = this.bundlesWith(id);
        receivers(({ open }) => (open.level === id ? "" : open.bundle !== undefined && bundles.has(open.bundle) ? `, in the bundle ${bundles.get(open.bundle) ?? ""}` : undefined));
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
        const bundles = new Map(facility.bundles.flatMap((bundle) => (bundle.levels?.some((level) => levels.has(level)) ? [[bundle.id, bundle.name] as const] : [])));
        receivers(({ open, schedule }) =>
          schedule === id ? ", narrowed by it" : open.level !== undefined && levels.has(open.level) ? `, level ${levels.get(open.level) ?? ""}` : open.bundle !== undefined && bundles.has(open.bundle) ? `, bundle ${bundles.get(open.bundle) ?? ""}` : undefined,
        );
        break;
      }
      case "calendar":
        return this.collect(facility.cardholders, ({ calendar }) => (calendar === id ? "own calendar" : undefined));
      case "cardholder":
        return this.collect(facility.cardholders, ({ manager, sponsor }) => [manager === id ? "manager" : "", sponsor === id ? "sponsor" : ""].filter(Boolean).join(" and ") || undefined);
      case "site":
        return this.collect(facility.cardholders, ({ sites }) => (sites?.includes(id) ? "known here" : undefined));
      default:
    }
    return ways.all();
  }

  private doors({ kind, id }: Hook): Related {
    const { compiled, directory } = this;
    const { facility } = compiled;
    const ways = new Ways();
    const covered = (grant: Position, words: string): void => {
      for (const [door, by] of compiled.waysOf(grant)) for (const { schedule } of by) ways.add(door, schedule === undefined ? words : `${facility.schedules[schedule]?.name ?? ""}${words}`);
    };
    const ofLevel = (level: string, words: string): void => {
      const rows = facility.levels[directory.position("level", level) ?? -1]?.rows ?? [];
      for (const row of rows) for (const door of this.doorsIn(row)) ways.add(door, `${directory.name("schedule", row.schedule)}${words}`);
    };
    switch (kind) {
      case "area":
        for (const { position, areas } of compiled.doors)
          areas.forEach((area, depth) => {
            if (facility.areas[area]?.id === id) ways.add(position, depth === 0 ? "leads into it" : `leads into ${facility.areas[areas[0] ?? -1]?.name ?? ""}`);
          });
        facility.doors.forEach(({ from }, position) => {
          if (from === id) ways.add(position, "leads out of it");
        });
        break;
      case "site":
        return this.collect(facility.doors, ({ site }) => (site === id ? "" : undefined));
      case "door":
        return this.collect(facility.doors, ({ via }) => (via === id ? "lies behind it" : undefined));
      case "doorGroup":
        for (const door of this.doorsIn({ doorGroup: id })) ways.add(door, (facility.doorGroups[directory.position("doorGroup", id) ?? -1]?.doors ?? []).includes(facility.doors[door]?.id ?? "") ? "" : "through a door group in it");
        break;
      case "level":
        ofLevel(id, "");
        break;
      case "bundle":
        for (const level of facility.bundles[directory.position("bundle", id) ?? -1]?.levels ?? []) ofLevel(level, `, level ${directory.name("level", level)}`);
        break;
      case "grant":
        covered(directory.position("grant", id) ?? -1, "");
        break;
      case "schedule":
        facility.doors.forEach(({ unlock, entryRows }, position) => {
          if (unlock === id) ways.add(position, "unlocked by it");
          for (const { schedule, entry } of entryRows ?? []) if (schedule === id) ways.add(position, `entry by ${entry} while it is open`);
        });
        for (const level of facility.levels) for (const row of level.rows ?? []) if (row.schedule === id) for (const door of this.doorsIn(row)) ways.add(door, `level ${level.name}`);
        break;
      default:
    }
    return ways.all();
  }

  /** Doors that a row or a target covers by itself, through a door group, or through an area. */
  private doorsIn({ door, doorGroup, area }: { readonly door?: string; readonly doorGroup?: string; readonly area?: string }): Position[] {
    const { compiled, directory } = this;
    if (door !== undefined) return [compiled.doorById.get(door)].filter((position) => position !== undefined);
    if (area !== undefined) return compiled.doors.filter(({ areas }) => areas.some((one) => compiled.facility.areas[one]?.id === area)).map(({ position }) => position);
    const found = new Set<Position>();
    const seen = new Set<string>();
    const walk = (group: string): void => {
      if (seen.has(group)) return;
      seen.add(group);
      const held = compiled.facility.doorGroups[directory.position("doorGroup", group) ?? -1];
      for (const one of held?.doors ?? []) {
        const position = compiled.doorById.get(one);
        if (position !== undefined) found.add(position);
      }
      for (const one of held?.groups ?? []) walk(one);
    };
    if (doorGroup !== undefined) walk(doorGroup);
    return [...found];
  }

  private levels({ kind, id }: Hook): Related {
    const { directory, compiled } = this;
    const { levels, bundles } = compiled.facility;
    switch (kind) {
      case "door": {
        const position = compiled.doorById.get(id);
        return this.collect(levels, ({ rows }) => [...new Set((rows ?? []).filter((row) => position !== undefined && this.doorsIn(row).includes(position)).map(({ schedule }) => directory.name("schedule", schedule)))].join("; ") || undefined);
      }
      case "doorGroup":
      case "area":
        return this.collect(levels, ({ rows }) => (rows ?? []).filter((row) => row[kind] === id).map(({ schedule }) => directory.name("schedule", schedule)).join("; ") || undefined);
      case "schedule":
        return this.collect(levels, ({ rows }) => {
          const count = (rows ?? []).filter(({ schedule }) => schedule === id).length;
          return count === 0 ? undefined : count === 1 ? "in one row" : `in ${count} rows`;
        });
      case "bundle": {
        const held = bundles[directory.position("bundle", id) ?? -1]?.levels ?? [];
        return this.collect(levels, (level) => (held.includes(level.id) ? "" : undefined));
      }
      case "cardholder":
      case "group":
      case "credential": {
        const ways = new Ways();
        for (const [grant, way] of this.grants({ kind, id })) {
          const { level, bundle } = present(compiled.facility.grants[grant], "positions are valid").open;
          if (level !== undefined) ways.add(directory.position("level", level), way);
          for (const one of bundle === undefined ? [] : (bundles[directory.position("bundle", bundle) ?? -1]?.levels ?? [])) ways.add(directory.position("level", one), `${way}, in the bundle ${directory.name("bundle", bundle)}`);
        }
        return ways.all();
      }
      default:
        return new Map();
    }
  }

  private grants({ kind, id }: Hook): Related {
    const { compiled, directory } = this;
    const { facility } = compiled;
    const ways = new Ways();
    switch (kind) {
      case "cardholder": {
        const holder = compiled.cardholders.at(compiled.cardholderById.get(id) ?? -1);
        for (const { list, membership } of holder?.routes ?? [])
          for (const { grant, groups } of list.routes) {
            const through = groups.map((group) => facility.groups[group]?.name ?? "").join(", in ");
            const lasts = membership === undefined ? "" : lasting(present(facility.memberships[membership], "positions are valid"));
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
        for (let group: string | undefined = id; group !== undefined; ) {
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
        const bundles = this.bundlesWith(id);
        return this.grantsTo(({ level, bundle }) => (level === id ? "" : bundle !== undefined && bundles.has(bundle) ? `the bundle ${bundles.get(bundle) ?? ""}` : undefined));
      }
      case "schedule":
        return this.collect(facility.grants, ({ schedule }) => (schedule === id ? "narrowed by it" : undefined));
      case "door":
      case "doorGroup":
      case "area":
      case "bundle":
        return this.grantsTo((open) => (open[kind] === id ? "" : undefined));
      default:
    }
    return ways.all();
  }

  private groups({ kind, id }: Hook): Related {
    const { facility } = this.compiled;
    const ways = new Ways();
    switch (kind) {
      case "cardholder": {
        const holder = facility.cardholders[this.compiled.cardholderById.get(id) ?? -1];
        const at = (group: string | undefined, way: string): void => {
          if (group !== undefined) ways.add(this.compiled.groupById.get(group), way);
        };
        at(holder?.department, "department");
        for (const membership of facility.memberships) if (membership.cardholder === id) at(membership.group, `member${lasting(membership)}`);
        facility.groups.forEach(({ manager }, position) => {
          if (manager === id) ways.add(position, "manages it");
        });
        return ways.all();
      }
      case "group":
        return this.collect(facility.groups, ({ parent }) => (parent === id ? "below it" : undefined));
      case "level":
      case "bundle": {
        for (const [grant, way] of this.grants({ kind, id })) {
          const { group } = present(facility.grants[grant], "positions are valid").to;
          if (group !== undefined) ways.add(this.compiled.groupById.get(group), way);
        }
        return ways.all();
      }
      default:
        return new Map();
    }
  }

  /** Objects of a kind that hang on another; empty where the two have nothing to do with each other. */
  of(kind: RegisterKind, hook: Hook): Related {
    const { facility } = this.compiled;
    const { directory } = this;
    switch (kind) {
      case "cardholder":
        return this.cardholders(hook);
      case "door":
        return this.doors(hook);
      case "level":
        return this.levels(hook);
      case "grant":
        return this.grants(hook);
      case "group":
        return this.groups(hook);
      case "credential":
        return hook.kind === "cardholder" ? new Map((this.compiled.cardholders.at(this.compiled.cardholderById.get(hook.id) ?? -1)?.credentials ?? []).map((position) => [position, ""])) : new Map();
      case "bundle":
        return hook.kind === "level" ? this.collect(facility.bundles, ({ levels }) => (levels?.includes(hook.id) ? "" : undefined)) : new Map();
      case "area":
        return this.collect(facility.areas, ({ site, parent, owner }) =>
          hook.kind === "site" && site === hook.id ? "" : hook.kind === "area" && parent === hook.id ? "inside it" : hook.kind === "cardholder" && owner === hook.id ? "owns it" : undefined,
        );
      case "doorGroup":
        return this.collect(facility.doorGroups, ({ doors, groups }) => (hook.kind === "door" && doors?.includes(hook.id) ? "" : hook.kind === "doorGroup" && groups?.includes(hook.id) ? "holds it" : undefined));
      case "site":
        return this.collect(facility.sites, ({ calendar }) => (hook.kind === "calendar" && calendar === hook.id ? "" : undefined));
      case "schedule": {
        const ways = new Ways();
        if (hook.kind === "level") for (const { schedule } of facility.levels[directory.position("level", hook.id) ?? -1]?.rows ?? []) ways.add(directory.position("schedule", schedule), "in its rows");
        if (hook.kind === "door") {
          const door = facility.doors[this.compiled.doorById.get(hook.id) ?? -1];
          if (door?.unlock !== undefined) ways.add(directory.position("schedule", door.unlock), "unlocks it");
          for (const { schedule, entry } of door?.entryRows ?? []) ways.add(directory.position("schedule", schedule), `entry by ${entry}`);
        }
        return ways.all();
      }
      default:
        return new Map();
    }
  }
}

interface Kept {
  readonly relations: Relations;
  /** The last few that were asked for: a list is paged through. */
  readonly found: Map<string, Related>;
}

const kept = new WeakMap<CompiledFacility, Kept>();
const foundKept = 32;

/** Objects of a kind that hang on another, each with the ways in words. Cost: a pass over the lists that can name it, once. */
export function relatedTo(compiled: CompiledFacility, kind: RegisterKind, hook: Hook): Related {
  const { relations, found } = kept.get(compiled) ?? { relations: new Relations(compiled), found: new Map<string, Related>() };
  kept.set(compiled, { relations, found });
  const key = `${kind} ${hook.kind} ${hook.id}`;
  let related = found.get(key);
  if (!related) {
    related = relations.of(kind, hook);
    const oldest = found.keys().next().value;
    if (found.size >= foundKept && oldest !== undefined) found.delete(oldest);
    found.set(key, related);
  }
  return related;
}

/** For each kind the kinds of what can hang on it, in the order in which its page shows them. */
export const relatedKinds: Readonly<Record<RegisterKind, readonly RegisterKind[]>> = {
  cardholder: ["credential", "group", "level", "grant", "area", "cardholder"],
  credential: ["grant", "level"],
  group: ["grant", "level", "cardholder", "group"],
  door: ["level", "grant", "schedule", "doorGroup", "door"],
  area: ["door", "area", "level", "grant"],
  site: ["area", "door", "cardholder"],
  doorGroup: ["door", "level", "grant", "doorGroup"],
  level: ["door", "cardholder", "group", "grant", "bundle", "schedule"],
  bundle: ["level", "door", "cardholder", "group", "grant"],
  grant: ["door", "cardholder"],
  schedule: ["level", "door", "grant", "cardholder"],
  calendar: ["site", "cardholder"],
};
