import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { HolderId } from "../facility/holder-id";
import { ordinary } from "../paths/paths";
import { doorsOfRow } from "../table/access-rows";
import { horizonOf } from "../table/horizon";
import type { Line, Since } from "./line";
import { holderOfLine } from "./holder-of-line";

/** A register of before, with the local date of its export. */
export interface EarlierRegister {
  readonly compiled: CompiledFacility;
  readonly date: string;
}

const credentialsOf = ({ cardholders, cardholderById, credentials, credentialById }: CompiledFacility, { kind, id }: HolderId): readonly Position[] => {
  if (kind === "cardholder") return cardholders.at(cardholderById.get(id) ?? -1)?.credentials ?? [];
  const position = credentialById.get(id);
  return position === undefined || credentials.at(position)?.holder ? [] : [position];
};

/** Whether a register lets somebody through one of some doors at some time within 13 months of its export. */
function opensOne({ compiled }: EarlierRegister, holder: HolderId, doors: ReadonlySet<string>): boolean {
  const { rows, liveRow } = horizonOf(compiled).table(ordinary);
  return credentialsOf(compiled, holder).some((credential) =>
    doorsOfRow(rows, liveRow(credential)).some((door) => doors.has(compiled.facility.doors[door]?.id ?? "")),
  );
}

/**
 * Since when the holder of a line opens some door of it, by the registers of before, the latest first; `present` is the date of the register that the line is
 * of. Undefined where there are none, and of a line about a credential. People and doors are told by their ids.
 */
export function sinceOf(line: Line, present: string, earlier: readonly EarlierRegister[]): Since | undefined {
  if (line.subject.kind === "credential" || earlier.length === 0) return undefined;
  const holder = holderOfLine(line);
  const doors = new Set(line.hours.flatMap((hours) => hours.doors.map(({ id }) => id)));
  let from = present;
  for (const register of earlier) {
    if (!opensOne(register, holder, doors)) return { from, notYet: register.date };
    from = register.date;
  }
  return { from };
}
