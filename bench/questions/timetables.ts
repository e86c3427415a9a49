import { invariant, required } from "@/core/kernel/invariant";
import { openOf } from "@/core/table/table-questions";
import type { Institute, Question } from "../institute";
import type { Measurements } from "../measuring";
import { besidePeer, timedAll } from "../measuring";
import type { SqlPeer } from "../sql";

const words = "timetable of one pair for a year";
const repeats = 200;

/** The minutes of a year at which one credential opens one door, as instants; of pairs that open, and of others to warm up on. */
export async function measureTimetables(
  { table, compiled, plain }: Institute,
  sql: SqlPeer,
  pairs: readonly Question[],
  others: readonly Question[],
  measurements: Measurements,
): Promise<void> {
  const timetable = ({ credential, door }: Question) => openOf(table, credential, door);
  const expectSame = (peer: string, theirs: readonly (readonly number[])[]): void =>
    theirs.forEach((set, i) => invariant(set.join() === timetable(required(pairs[i], "asked")).join(), `${peer} lays out another timetable`));

  const round = (): number => {
    let bounds = 0;
    for (let i = 0; i < repeats; i++) for (const pair of pairs) bounds += timetable(pair).length;
    return bounds;
  };
  const looped = besidePeer([() => round], others, pairs, ({ ids }) => plain.timetable(ids.credential, ids.door));
  const ours = (looped.ours[0] as number) / (pairs.length * repeats);
  expectSame("the plain loop", looped.value);
  measurements.against(words, ours, "plain loop, schedules remembered", looped.ms / pairs.length);

  const narrowed = compiled.facility.grants.some(({ schedule, open }) => schedule !== undefined && (open.level !== undefined || open.bundle !== undefined));
  invariant(!narrowed, "the SQL timetable knows no narrowing schedules");
  const some = pairs.slice(0, 40);
  const bySql = await timedAll(some, ({ ids }) => sql.timetable(ids.credential, ids.door));
  expectSame("SQL", bySql.value);
  measurements.against(words, ours, "SQL in MariaDB", bySql.ms / some.length, `${some.length} pairs`);
}
