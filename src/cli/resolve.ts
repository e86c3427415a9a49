import { parseArgs } from "node:util";
import { compareCodePoints } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import type { Position, PositionIndex } from "@/core/compile/position-index";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { candidateDoors } from "@/core/paths/candidates";
import { exactTimeframe } from "@/core/paths/timeframe";
import type { Timeframe } from "@/core/paths/timeframe";
import type { AccessTable } from "@/core/table/access-table";
import { accessTable, pairsOfCardholder, pairsOfCredential } from "@/core/table/access-table";
import { freeIn, openIn } from "@/core/paths/timetable";
import { formatMinute, minuteUp } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { compiledFile, instantArgument, minuteArgument } from "./facility-file";
import { linePrinter, printLine, UsageError } from "./output";

const allowedFilters: Readonly<Record<string, readonly string[]>> = {
  credential: ["credential", "cardholder", "door"],
  cardholder: ["cardholder", "door"],
  free: ["door"],
};

export const writtenIntervals = (set: IntervalSet): [string, string][] => {
  const written: [string, string][] = [];
  for (let i = 0; i < set.length; i += 2) written.push([formatMinute(set[i] as EpochMinute), formatMinute(set[i + 1] as EpochMinute)]);
  return written;
};

/** Positions in the order of their ids, only the one asked for if there is a filter. */
function ordered(objects: readonly { readonly id: string }[], known: PositionIndex, filter: string | undefined, kind: string): Position[] {
  if (filter !== undefined) {
    const position = known.get(filter);
    if (position === undefined) throw new UsageError(`There is no ${kind} "${filter}" in this document.`);
    return [position];
  }
  return [...objects.keys()].sort((a, b) => compareCodePoints(objects[a]?.id ?? "", objects[b]?.id ?? ""));
}

type Pairs = Iterable<readonly [door: Position, open: IntervalSet]>;

/** More intervals than this are not kept as text; most timelines are shared by many pairs and written once. */
const textsKept = 500;

function intervalTexts(): (set: IntervalSet) => string {
  const texts = new Map<IntervalSet, string>();
  return (set) => {
    let text = texts.get(set);
    if (text === undefined) {
      text = JSON.stringify(writtenIntervals(set));
      if (texts.size >= textsKept) texts.clear();
      texts.set(set, text);
    }
    return text;
  };
}

/** Prints pairs of each subject, sorted by the id of the door. */
async function printPairs(
  kind: "credential" | "cardholder",
  subjects: readonly { readonly id: string; readonly pairs: () => Pairs }[],
  compiled: CompiledFacility,
  doors: readonly Position[],
): Promise<void> {
  const rank = new Int32Array(compiled.doors.length).fill(-1);
  doors.forEach((door, i) => (rank[door] = i));
  const at = (door: Position): number => rank[door] as number;
  const doorTexts = compiled.facility.doors.map(({ id }) => JSON.stringify(id));
  const printer = linePrinter();
  const text = intervalTexts();
  for (const { id, pairs } of subjects) {
    const begin = `{"${kind}":${JSON.stringify(id)},"door":`;
    const shown = [...pairs()].filter(([door]) => at(door) >= 0).sort((a, b) => at(a[0]) - at(b[0]));
    for (const [door, open] of shown) await printer.print(`${begin}${doorTexts[door]},"open":${text(open)}}`);
  }
  await printer.flush();
}

/** The pairs of one credential without laying out everybody else's. */
function* pairsAlone(compiled: CompiledFacility, position: Position, timeframe: Timeframe): Generator<readonly [door: Position, open: IntervalSet]> {
  const credential = required(compiled.credentials.at(position), "positions are valid");
  for (const door of candidateDoors(compiled, credential)) {
    const open = openIn(compiled, timeframe, credential, door);
    if (open.length > 0) yield [door, open];
  }
}

/** `nomade resolve`: timetables of whole documents, one line for each pair that opens at all. */
export async function resolve(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      from: { type: "string" },
      to: { type: "string" },
      by: { type: "string", default: "credential" },
      lockdown: { type: "boolean" },
      "as-if-live": { type: "boolean" },
      credential: { type: "string" },
      cardholder: { type: "string" },
      door: { type: "string" },
    },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new UsageError("resolve takes one facility document.");
  const filters = allowedFilters[values.by];
  if (!filters) throw new UsageError(`--by takes credential, cardholder or free, not ${values.by}.`);
  for (const filter of ["credential", "cardholder", "door"] as const)
    if (values[filter] !== undefined && !filters.includes(filter)) throw new UsageError(`--${filter} does not go with --by ${values.by}.`);
  const [from, to] = [minuteArgument("from", values.from), minuteUp(instantArgument("to", values.to))];
  if (from >= to) throw new UsageError("--from must be before --to.");
  const compiled = await compiledFile(file);
  const timeframe = exactTimeframe(compiled, from, to, { lockdown: !!values.lockdown, asIfLive: !!values["as-if-live"] });
  const { facility } = compiled;
  const doors = ordered(facility.doors, compiled.doorById, values.door, "door");
  const doorId = (door: Position): string => required(facility.doors[door], "positions are valid").id;
  if (values.by === "free") {
    for (const door of doors) {
      const free = freeIn(timeframe, required(compiled.doors[door], "positions are valid"));
      if (free.length > 0) await printLine({ door: doorId(door), free: writtenIntervals(free) });
    }
    return 0;
  }
  const cardholders = ordered(facility.cardholders, compiled.cardholderById, values.cardholder, "cardholder");
  let laidOut: AccessTable | undefined;
  const table = (): AccessTable => (laidOut ??= accessTable(compiled, timeframe));
  if (values.by === "cardholder") {
    const subjects = cardholders.map((position) => ({
      id: required(facility.cardholders[position], "positions are valid").id,
      pairs: () => pairsOfCardholder(table(), position),
    }));
    await printPairs("cardholder", subjects, compiled, doors);
    return 0;
  }
  const alone = values.credential !== undefined || values.cardholder !== undefined;
  const subjects = ordered(facility.credentials, compiled.credentialById, values.credential, "credential")
    .filter((position) => values.cardholder === undefined || facility.credentials[position]?.cardholder === values.cardholder)
    .map((position) => ({
      id: required(facility.credentials[position], "positions are valid").id,
      pairs: () => (alone ? pairsAlone(compiled, position, timeframe) : pairsOfCredential(table(), position)),
    }));
  await printPairs("credential", subjects, compiled, doors);
  return 0;
}
