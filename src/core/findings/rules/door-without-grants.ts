import type { Position } from "../../compile/position-index";
import { doorsOfRow } from "../../table/access-rows";
import { rule, standards } from "../rule";

/** A door that nobody opens and that never stands free. */
export const doorWithoutGrants = rule({
  key: "door-without-grants",
  base: 6,
  source: standards.nist("PE-3"),
  parameters: {},
  find: (judged) => {
    const { rows } = judged.ahead;
    const opened = new Set<Position>();
    for (const row of judged.holdersByRow("all").keys()) for (const door of doorsOfRow(rows, row)) opened.add(door);
    return {
      flags: judged.compiled.doors.flatMap(({ position, door }) =>
        opened.has(position) || judged.freeAhead(position).length > 0 ? [] : [{ subject: { kind: "door" as const, id: door.id }, proof: {} }],
      ),
    };
  },
});
