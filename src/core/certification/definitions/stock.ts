import { compareCodePoints, groupBy } from "../../kernel/compare";
import type { Position } from "../../compile/position-index";
import type { CompiledCredential } from "../../compile/compiled-facility";
import type { Credential } from "../../facility/document";
import { credentialLabel } from "../../facility/labels";
import { asIfLive, ordinary } from "../../paths/paths";
import { doorsOfRow } from "../../table/access-rows";
import type { AccessTable } from "../../table/access-table";
import type { NumberRange } from "./definition";
import type { Defined, Reading } from "./reading";
import { firstNames, partsById, placesOfDoors } from "./reading";

const statuses = ["active", "stock", "suspended", "lost", "returned"] as const satisfies readonly Credential["status"][];

/** Numbers that are longer than this are told one by one: they are not counted on. */
const countable = /^\d{1,15}$/;
const rangesKept = 5;

/** Runs of numbers of one facility code that follow on each other, the longest first. */
function numberRanges(credentials: readonly Credential[]): NumberRange[] {
  const ranges: { facilityCode: string | undefined; first: string; last: string; next: number; count: number }[] = [];
  const numbered = credentials.flatMap(({ number, facilityCode }) =>
    number !== undefined && countable.test(number) ? [{ number, facilityCode, value: Number(number) }] : [],
  );
  numbered.sort((a, b) => compareCodePoints(a.facilityCode ?? "", b.facilityCode ?? "") || a.value - b.value);
  for (const { number, facilityCode, value } of numbered) {
    const run = ranges.at(-1);
    if (run && run.facilityCode === facilityCode && (value === run.next || value === run.next - 1)) {
      if (value === run.next) run.next++;
      run.last = number;
      run.count++;
    } else ranges.push({ facilityCode, first: number, last: number, next: value + 1, count: 1 });
  }
  return ranges
    .filter(({ count }) => count > 2)
    .sort((a, b) => b.count - a.count)
    .map(({ facilityCode, first, last, count }) => ({ ...(facilityCode !== undefined && { facilityCode }), first, last, count }));
}

/** The doors of some credentials, each once. */
function doorsOf({ rows, rowOfCredential }: AccessTable, credentials: readonly Position[]): Set<Position> {
  const doors = new Set<Position>();
  const seen = new Set<number>();
  for (const credential of credentials) {
    const row = rowOfCredential[credential] as number;
    if (seen.has(row)) continue;
    seen.add(row);
    doorsOfRow(rows, row).forEach((door) => doors.add(door));
  }
  return doors;
}

/** The credentials of each kind that nobody holds. */
export function stockDefinitions(reading: Reading): Defined[] {
  const { compiled, horizon } = reading;
  const byKind = groupBy(
    compiled.credentials.all().filter(({ holder }) => !holder),
    ({ credential }) => credential.kind,
  );
  return [...byKind].map(([kind, stock]): Defined => ({
    subject: { kind: "stock", id: kind, name: kind },
    parts: () =>
      partsById(
        stock.map(({ credential }) => ({
          id: credential.id,
          name: credentialLabel(credential),
          key: credential.status,
          says: () => ({ kind: "status", status: credential.status }),
        })),
      ),
    freeze: () => {
      const awake = horizon.table(ordinary);
      const opens = ({ position }: CompiledCredential): boolean => doorsOfRow(awake.rows, awake.liveRow(position)).length > 0;
      const ranges = numberRanges(stock.map(({ credential }) => credential));
      const doors = doorsOf(
        horizon.table(asIfLive),
        stock.map(({ position }) => position),
      );
      const byStatus = groupBy(stock, ({ credential }) => credential.status);
      return {
        definition: {
          kind: "stock",
          of: kind,
          states: statuses.flatMap((status) => {
            const own = byStatus.get(status);
            return own ? [{ status, count: own.length, opening: own.filter(opens).length }] : [];
          }),
          ranges: ranges.slice(0, rangesKept),
          moreRanges: Math.max(0, ranges.length - rangesKept),
          places: firstNames(placesOfDoors(compiled, doors)),
        },
        doors: [...doors],
        about: [],
      };
    },
  }));
}
