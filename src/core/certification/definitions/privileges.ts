import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { Cardholder } from "../../facility/document";
import { ordinary } from "../../paths/paths";
import { doorsOfRow } from "../../table/access-rows";
import type { PartSays, Privilege } from "./definition";
import { privileges } from "./definition";
import type { Defined, Reading } from "./reading";
import { firstNames, partsById } from "./reading";

/** What somebody has of a privilege; undefined where nothing. An override of no site is none. */
function saysOf(reading: Reading, { override, ...cardholder }: Cardholder, privilege: Privilege): PartSays | undefined {
  if (privilege !== "override") return cardholder[privilege] === true ? { kind: "has" } : undefined;
  if (override === undefined) return undefined;
  if (override === true) return { kind: "sites", sites: "all" };
  const { sites } = reading.compiled.facility;
  const names = sites.flatMap(({ id, name }) => (override.includes(id) ? [name] : []));
  return names.length === 0 ? undefined : { kind: "sites", sites: names };
}

/** Who has each privilege; one that nobody has is none. Whoever has it and opens nothing is among them: made active again, they would. */
export function privilegeDefinitions(reading: Reading): Defined[] {
  const { compiled, horizon } = reading;
  const { cardholders } = compiled.facility;
  return privileges.flatMap((privilege): Defined[] => {
    const having = cardholders.flatMap((cardholder, position) => {
      const says = saysOf(reading, cardholder, privilege);
      return says ? [{ cardholder, position, says }] : [];
    });
    if (having.length === 0) return [];
    return [
      {
        subject: { kind: "privilege", id: privilege, name: privilege },
        parts: () => partsById(having.map(({ cardholder: { id, name }, says }) => ({ id, name, key: JSON.stringify(says), says: () => says }))),
        freeze: () => {
          const { rows, rowOfCardholder } = horizon.table(ordinary);
          const doors = new Set<Position>();
          let opening = 0;
          for (const { position } of having) {
            if (required(compiled.cardholders.at(position), "positions are valid").credentials.length === 0) continue;
            const opened = doorsOfRow(rows, rowOfCardholder(position));
            if (opened.length > 0) opening++;
            opened.forEach((door) => doors.add(door));
          }
          return {
            definition: { kind: "privilege", privilege, people: firstNames(having.map(({ cardholder }) => cardholder.name)), opening },
            doors: [...doors],
            about: having.map(({ position }) => position),
          };
        },
      },
    ];
  });
}
