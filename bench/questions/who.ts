import { invariant, required } from "@/core/kernel/invariant";
import { doorColumns, whoOpensAt } from "@/core/table/table-questions";
import type { Institute } from "../institute";
import type { Measurements } from "../measuring";
import { besidePeer, timedAll } from "../measuring";
import type { SqlPeer } from "../sql";

const words = "who can open a door at an instant, ids out";
const sqlCount = 5;

export async function measureWho(institute: Institute, sql: SqlPeer, measurements: Measurements): Promise<void> {
  const { table, compiled, plain, size, doorId, credentialId } = institute;
  const columns = doorColumns(table);
  const questions = Array.from({ length: 100 }, () => ({ door: institute.random.pick(institute.doors), at: institute.moment() }));
  const expectSame = (peer: string, theirs: readonly (readonly string[])[], isAsked: (id: string) => boolean): void =>
    theirs.forEach((ids, i) => {
      const { door, at } = required(questions[i], "asked");
      const found = whoOpensAt(table, columns, door, at).filter(isAsked).sort();
      invariant(ids.filter(isAsked).sort().join() === found.join(), `${peer} finds others at ${doorId(door)}`);
    });

  const count = size === "l" ? 3 : 10;
  const round = () => questions.map(({ door, at }) => whoOpensAt(table, columns, door, at));
  const looped = besidePeer([() => round], questions.slice(count, count + 2), questions.slice(0, count), ({ door, at }) =>
    compiled.facility.credentials.filter(({ id }) => plain.opens(id, doorId(door), at)).map(({ id }) => id),
  );
  const ours = (looped.ours[0] as number) / questions.length;
  expectSame("the plain loop", looped.value, () => true);
  measurements.against(words, ours, "plain loop, schedules remembered", looped.ms / count, `${count} doors`);

  const bySql = await timedAll(questions.slice(0, sqlCount), ({ door, at }) => sql.whoOpens(doorId(door), at));
  const isPeer = new Set(institute.credentials.map(credentialId));
  expectSame("SQL", bySql.value, (id) => isPeer.has(id));
  measurements.against(words, ours, "SQL in MariaDB", bySql.ms / sqlCount, `${sqlCount} doors`);
}
