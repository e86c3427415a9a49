import { compareAccess } from "../compare/compare-access";
import type { HolderId } from "../facility/holder-id";
import { doorSensitivity } from "../compile/door-sensitivity";
import { required } from "../kernel/invariant";
import { ordinary } from "../paths/paths";
import type { Horizon } from "../table/horizon";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Line } from "./line";
import { holderOfLine } from "./holder-of-line";
import { holderKey } from "../facility/holder-id";

/** What may ask for a decision between rounds: somebody changes department, a contract is renewed, access to a sensitive area is new, a waiver ends. */
export const occasionKinds = ["moved", "renewed", "sensitive", "waiver-ended"] as const;
export type OccasionKind = (typeof occasionKinds)[number];

/** Something that happened to a holder, and which of their lines it asks about: those into some areas, those that tell of a finding, or all. */
export interface Occasion {
  readonly kind: OccasionKind;
  readonly holder: HolderId;
  /** Ids of areas, sorted, each once. */
  readonly areas?: readonly string[];
  readonly fingerprint?: string;
}

/** From this sensitivity on access that is new asks for a decision. */
const sensitiveFrom = 2;

const cardholderOf = ({ facility, cardholderById }: CompiledFacility, id: string) => facility.cardholders[cardholderById.get(id) ?? -1];

/** Who of two registers, one after the other, changed department, and whose contract was renewed: it ends later than it did, or not at all any more. */
function* changedPeople(before: CompiledFacility, after: CompiledFacility): Generator<Occasion> {
  for (const { id, department, type } of after.facility.cardholders) {
    const was = cardholderOf(before, id);
    if (!was) continue;
    const holder = { kind: "cardholder", id } as const;
    if (was.department !== undefined && was.department !== department) yield { kind: "moved", holder };
    const [old, now] = [before, after].map((compiled) => compiled.cardholders.at(compiled.cardholderById.get(id) ?? -1)?.life.window.until);
    const isContract = type === "contractor" || was.type === "contractor";
    if (isContract && old !== undefined && now !== undefined && was.until !== undefined && now > old) yield { kind: "renewed", holder };
  }
}

/** Who opens a door into a sensitive area that they did not open before. */
function* newSensitiveAccess(before: CompiledFacility, after: Horizon): Generator<Occasion> {
  const { compiled } = after;
  // Both are laid out on the minutes ahead of the later one, so that what merely begins to be in sight is nothing new.
  const [was, is] = [after.beside(before).table(ordinary), after.table(ordinary)];
  for (const { kind, id, changes } of compareAccess(was, is)) {
    const areas = new Set<string>();
    for (const { door, change } of changes) {
      const position = compiled.doorById.get(door);
      if (change !== "gained" || position === undefined || doorSensitivity(compiled, position) < sensitiveFrom) continue;
      const area = required(compiled.doors[position], "positions are valid").door.area;
      if (area !== undefined) areas.add(area);
    }
    if (areas.size > 0) yield { kind: "sensitive", holder: { kind, id }, areas: [...areas].sort() };
  }
}

/** What happened from one register to the next that may ask for a decision, of some kinds. Waivers are not in registers: who knows of them adds theirs. */
export function occasionsBetween(before: CompiledFacility, after: Horizon, kinds: ReadonlySet<OccasionKind>): Occasion[] {
  const people = kinds.has("moved") || kinds.has("renewed") ? [...changedPeople(before, after.compiled)] : [];
  const access = kinds.has("sensitive") ? [...newSensitiveAccess(before, after)] : [];
  return [...people, ...access].filter(({ kind }) => kinds.has(kind));
}

/** Whether an occasion asks about a line. */
export function asksAbout({ holder, areas, fingerprint }: Occasion, line: Line): boolean {
  if (holderKey(holderOfLine(line)) !== holderKey(holder)) return false;
  if (fingerprint !== undefined) return line.findings.some((finding) => finding.fingerprint === fingerprint);
  return areas === undefined || (line.subject.kind === "area" && areas.includes(line.subject.id));
}
