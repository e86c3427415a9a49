import { invariant } from "@/core/kernel/invariant";
import { opensById, verdictIndex } from "@/core/table/verdict-index";
import { CasbinPeer } from "../casbin";
import { CedarPeer } from "../cedar";
import type { Institute, Question } from "../institute";
import type { Measurements } from "../measuring";
import { afterWarmUp, besidePeer, timedAll } from "../measuring";
import type { SqlPeer } from "../sql";

const words = "one verdict by ids";
/** How many different questions are asked again and again: some that lie within a processor's own cache, and some that do not. */
const counts = { near: 2000, far: 20_000 };
const verdictsARound = 400_000;
const cedarCount = 60;
const casbinCount = 40;
const sqlCount = 200;

/**
 * Whether one credential opens one door at one minute, by their ids; gives the questions and our answers. The plain loop is asked both sets; the
 * others, which are too slow for more than some dozens, are compared with ours on the smaller one.
 */
export async function measureVerdicts(
  institute: Institute,
  sql: SqlPeer,
  measurements: Measurements,
): Promise<{ readonly asked: readonly Question[]; readonly answers: readonly boolean[]; readonly others: readonly Question[] }> {
  const { table, compiled, plain } = institute;
  const asked = institute.questions(counts.far);
  const others = institute.questions(counts.far);
  const named = asked.map(({ ids, at }) => ({ credential: ids.credential, door: ids.door, at }));
  const index = verdictIndex(table);
  const answers = named.map(({ credential, door, at }) => opensById(index, credential, door, at));
  const expectSame = (peer: string, theirs: readonly boolean[]): void =>
    theirs.forEach((answer, i) => invariant(answer === answers[i], `${peer} says otherwise of ${JSON.stringify(named[i])}`));

  const besidePlain = (count: number): number => {
    const questions = named.slice(0, count);
    const passes = verdictsARound / count;
    const round = (): number => {
      let open = 0;
      for (let pass = 0; pass < passes; pass++) for (const { credential, door, at } of questions) if (opensById(index, credential, door, at)) open++;
      return open;
    };
    const looped = besidePeer([() => round], others.slice(0, count), asked.slice(0, count), ({ ids, at }) => plain.opens(ids.credential, ids.door, at));
    expectSame("the plain loop", looped.value);
    const ours = (looped.ours[0] as number) / verdictsARound;
    measurements.against(`${words}, of ${count.toLocaleString("en-GB")} different questions`, ours, "plain loop, schedules remembered", looped.ms / count);
    return ours;
  };
  besidePlain(counts.far);
  const ours = besidePlain(counts.near);

  const cedar = new CedarPeer(compiled);
  for (const { door } of [...asked.slice(0, cedarCount), ...others.slice(0, cedarCount)]) cedar.prepare(door);
  const byCedar = afterWarmUp(others.slice(0, cedarCount), asked.slice(0, cedarCount), ({ credential, door, at }) => cedar.opens(credential, door, at));
  expectSame("Cedar", byCedar.value);
  measurements.against(words, ours, "Cedar, policies of the door parsed before", byCedar.ms / cedarCount, `${cedarCount} verdicts`);

  const casbin = new CasbinPeer(compiled);
  const ofCasbin = ({ credential, door, at }: Question) => casbin.opens(credential, door, at);
  for (const { credential, door, at } of [...asked.slice(0, casbinCount), ...others.slice(0, casbinCount)]) await casbin.know(credential, door, at);
  await timedAll(others.slice(0, casbinCount), ofCasbin);
  const byCasbin = await timedAll(asked.slice(0, casbinCount), ofCasbin);
  expectSame("Casbin", byCasbin.value);
  measurements.against(words, ours, "Casbin, policies of the door, roles known", byCasbin.ms / casbinCount, `${casbinCount} verdicts`);

  const ofSql = ({ ids, at }: Question) => sql.opens(ids.credential, ids.door, at);
  await timedAll(others.slice(0, sqlCount), ofSql);
  const bySql = await timedAll(asked.slice(0, sqlCount), ofSql);
  expectSame("SQL", bySql.value);
  measurements.against(words, ours, "SQL in MariaDB, all flattened and indexed", bySql.ms / sqlCount, `${sqlCount} verdicts`);
  return { asked, answers, others };
}
