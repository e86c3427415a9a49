import { required } from "../../kernel/invariant";
import { doorsIn } from "./doors-on";
import { grantsOn } from "./grants-on";
import type { NamedRegister, ObjectRef, Related } from "./ways";
import { Ways, collect, nothingRelated } from "./ways";

/** Levels that hang on an object. */
export function levelsOn(register: NamedRegister, { kind, id }: ObjectRef): Related {
  const { directory, compiled } = register;
  const { levels, bundles } = compiled.facility;
  switch (kind) {
    case "door": {
      const position = compiled.doorById.get(id);
      return collect(
        levels,
        ({ rows }) =>
          [
            ...new Set(
              (rows ?? [])
                .filter((row) => position !== undefined && doorsIn(register, row).includes(position))
                .map(({ schedule }) => directory.name("schedule", schedule)),
            ),
          ].join("; ") || undefined,
      );
    }
    case "doorGroup":
    case "area":
      return collect(
        levels,
        ({ rows }) =>
          (rows ?? [])
            .filter((row) => row[kind] === id)
            .map(({ schedule }) => directory.name("schedule", schedule))
            .join("; ") || undefined,
      );
    case "schedule":
      return collect(levels, ({ rows }) => {
        const count = (rows ?? []).filter(({ schedule }) => schedule === id).length;
        return count === 0 ? undefined : count === 1 ? "in one row" : `in ${count} rows`;
      });
    case "bundle": {
      const held = bundles[directory.position("bundle", id) ?? -1]?.levels ?? [];
      return collect(levels, (level) => (held.includes(level.id) ? "" : undefined));
    }
    case "cardholder":
    case "group":
    case "credential": {
      const ways = new Ways();
      for (const [grant, way] of grantsOn(register, { kind, id })) {
        const { level, bundle } = required(compiled.facility.grants[grant], "positions are valid").open;
        if (level !== undefined) ways.add(directory.position("level", level), way);
        for (const one of bundle === undefined ? [] : (bundles[directory.position("bundle", bundle) ?? -1]?.levels ?? []))
          ways.add(directory.position("level", one), `${way}, in the bundle ${directory.name("bundle", bundle)}`);
      }
      return ways.all();
    }
    default:
      return nothingRelated;
  }
}
