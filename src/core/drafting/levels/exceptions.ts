import { canonicalJson } from "../../facility/canonical-json";
import type { Level, Grant } from "../../facility/document";
import type { FacilityChange } from "../../facility/facility-change";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { compareCodePoints, groupBy } from "../../kernel/compare";
import { contentOfLevel, grantAsObject, levelAsObject } from "./equal-levels";
import type { LevelProposal } from "./level-proposal";

/** Exceptions recur from so many people on. */
const peopleAtLeast = 3;

/** An exception: an allow of a door, door group or area straight to a cardholder. */
const isException = ({ to, open, effect, schedule }: Grant): boolean =>
  effect !== "block" && to.cardholder !== undefined && open.level === undefined && open.bundle === undefined && schedule !== undefined;

type Row = NonNullable<Level["rows"]>[number];
const rowOf = ({ open, schedule }: Grant): Row => ({ ...open, schedule }) as Row;

/** An id that nothing of the register has. */
export function freshIds(compiled: CompiledFacility, beginning: string): () => string {
  const taken = new Set(compiled.facility.levels.map(({ id }) => id).concat(compiled.facility.grants.map(({ id }) => id)));
  let count = 0;
  return () => {
    let id: string;
    do id = `${beginning}-${++count}`;
    while (taken.has(id));
    taken.add(id);
    return id;
  };
}

/**
 * Exceptions that several people have alike, all that a person has in one window taken together, given as one level instead: one that opens just that, or a
 * new one. The first grant of each becomes that of the level.
 */
export function exceptionsToLevels(compiled: CompiledFacility): LevelProposal[] {
  const { facility } = compiled;
  const byPerson = groupBy(facility.grants.filter(isException), ({ to, from, until, inLockdown }) =>
    canonicalJson([to.cardholder ?? "", from ?? "", until ?? "", inLockdown ?? false]),
  );
  const alike = groupBy(byPerson.values(), (own) => {
    const [first] = own;
    const rows = [...new Set(own.map((grant) => canonicalJson(rowOf(grant))))].sort(compareCodePoints);
    return canonicalJson([rows, first?.from ?? "", first?.until ?? "", first?.inLockdown ?? false]);
  });
  const known = new Map(facility.levels.map((level) => [contentOfLevel(compiled, level), level.id]));
  const freshId = freshIds(compiled, "level-of-exceptions");
  const found: LevelProposal[] = [];
  for (const people of alike.values()) {
    const [first] = people;
    if (people.length < peopleAtLeast || !first) continue;
    const rows = [...new Map(first.map((grant) => [canonicalJson(rowOf(grant)), rowOf(grant)])).values()];
    const before = known.get(contentOfLevel(compiled, { id: "", name: "", rows }));
    const id = before ?? freshId();
    const level: Level = { id, name: `In place of ${people.length} times the same exceptions`, rows };
    const changes = people.flatMap((own): FacilityChange[] =>
      own.map((grant, i): FacilityChange => {
        const { schedule: _, ...rest } = grant;
        return i === 0
          ? { do: "alter", list: "grants", id: grant.id, object: grantAsObject({ ...rest, open: { level: id } }) }
          : { do: "remove", list: "grants", id: grant.id };
      }),
    );
    found.push({
      kind: "exceptions-to-level",
      levels: [id],
      about: people.map((own) => own[0]?.to.cardholder ?? "").sort(compareCodePoints),
      changes: before === undefined ? [{ do: "add", list: "levels", id, object: levelAsObject(level) }, ...changes] : changes,
    });
  }
  return found;
}
