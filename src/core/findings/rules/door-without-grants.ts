import type { Position } from "../../compile/position-index";
import { rule, standards } from "../rule";

/** A door that nobody opens and that never stands free. */
export const doorWithoutGrants = rule({
  key: "door-without-grants",
  base: 6,
  source: standards.nist("PE-3"),
  parameters: {},
  find: (judged) => {
    const opened = new Set<Position>(judged.holders.flatMap((holder) => judged.doorsOf(holder)));
    return {
      flags: judged.compiled.doors.flatMap(({ position, door }) =>
        opened.has(position) || judged.freeAhead(position).length > 0 ? [] : [{ subject: { kind: "door" as const, id: door.id }, proof: {} }],
      ),
    };
  },
});
