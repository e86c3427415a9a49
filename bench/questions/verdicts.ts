import { invariant } from "@/core/kernel/invariant";
import { opensById, verdictIndex } from "@/core/resolve/verdict-index";
import { CasbinPeer } from "../casbin";
import { CedarPeer } from "../cedar";
import type { Institute, Question } from "../institute";
import type { Measurements } from "../measuring";
import { afterWarmUp, besidePeer, timedAll } from "../measuring";
import type { SqlPeer } from "../sql";

const words = "one verdict by ids";
const passes = 20;
const cedarCount = 60;
const casbinCount = 40;
const sqlCount = 200;

/** Whether one credential opens one door at one minute, by their ids; gives the questions and our answers. */
export async function measureVerdicts(institute: Institute, sql: SqlPeer, measurements: Measurements): Promise<{ readonly asked: readonly Question[]; readonly answers: readonly boolean[]; readonly others: readonly Question[] }> {
  const { table, compiled, plain } = institute;
  const asked = institute.questions(20_000);
  const others = institute.questions(20_000);
  const named = asked.map(({ ids, at }) => ({ credential: ids.credential, door: ids.door, at }));
  const index = verdictIndex(table);
  const answers = named.map(({ credential, door, at }) => opensById(index, credential, door, at));
  const expectSame = (peer: string, theirs: readonly boolean[]): void => theirs.forEach((answer, i) => invariant(answer === answers[i], `${peer} says otherwise of ${JSON.stringify(named[i])}`));

  const round = (): number => {
    let open = 0;
    for (let pass = 0; pass < passes; pass++) for (const { credential, door, at } of named) if (opensById(index, credential, door, at)) open++;
    return open;
  };
  const looped = besidePeer([() => round], others, asked, ({ ids, at }) => plain.opens(ids.credential, ids.door, at));
  const ours = (looped.ours[0] as number) / (asked.length * passes);
  expectSame("the plain loop", looped.value);
  measurements.against(words, ours, "plain loop, schedules remembered", looped.ms / asked.length);

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
