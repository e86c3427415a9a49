import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { ToldEvent } from "@/core/events/event-book";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { allRules, ruleOf } from "@/core/findings/catalogue";
import { countedPlaces } from "@/core/findings/counted-places";
import { findAll } from "@/core/findings/find";
import { fingerprintOf, parametersOf } from "@/core/findings/judge";
import type { Judged } from "@/core/findings/judged";
import type { RuleKey } from "@/core/findings/proofs";
import { usualSettings } from "@/core/findings/settings";
import { invariant, required } from "@/core/kernel/invariant";
import { asIfLive, ordinary } from "@/core/paths/paths";
import { doorsOfRow } from "@/core/table/access-rows";
import { Horizon } from "@/core/table/horizon";
import { listEvents } from "@/operations/events/list-events";
import type { AskedEvents } from "@/operations/events/list-events";
import { judged, judgingOf } from "@/operations/findings/judging";
import type { Account } from "@/operations/ports/accounts";
import type { Services } from "@/operations/services";
import { openServices } from "@/wiring/services";
import { seeded } from "~/demo/random";
import { anyEvents } from "~/tests/asked-events";
import { RulesInSql } from "./rules-in-sql";

/**
 * A year of events of a register: what taking them in costs against a bare bulk load of the same rows, what looking for findings costs with them, five rules
 * against plain SQL, and what the list of events costs twenty people at once.
 */
const { values } = parseArgs({ options: { file: { type: "string" }, events: { type: "string", default: "10000000" } } });
const count = Number(values.events);

const tell = (line: string): void => void process.stderr.write(`  ${line}\n`);
const table: (readonly [what: string, ours: string, peer: string, theirs: string, ratio: string])[] = [];
const put = (...line: (typeof table)[number]): void => {
  table.push(line);
  tell(line.join(" | "));
};
const seconds = (ms: number): string => (ms >= 10_000 ? `${(ms / 1000).toFixed(0)} s` : ms >= 1000 ? `${(ms / 1000).toFixed(2)} s` : `${ms.toFixed(1)} ms`);
const gigabytes = (): string => `${(process.memoryUsage().rss / 2 ** 30).toFixed(1)} GiB`;

async function timed<T>(work: () => Promise<T> | T): Promise<{ readonly ms: number; readonly value: T }> {
  const began = performance.now();
  const value = await work();
  return { ms: performance.now() - began, value };
}

/** Most people come on weekdays by the same few doors; some cards are refused now and then, and numbers turn up that nobody has. */
function* yearOf(compiled: CompiledFacility, horizon: Horizon): Generator<ToldEvent> {
  const random = seeded(11);
  const access = horizon.table(ordinary);
  const comers = compiled.facility.credentials.flatMap(({ id }, position) => {
    const doors = doorsOfRow(access.rows, access.liveRow(position));
    if (doors.length === 0 || random.chance(0.1)) return [];
    return [{ id, doors: Array.from({ length: 5 }, () => compiled.facility.doors[doors[random.below(doors.length)] as number]?.id ?? "") }];
  });
  const end = horizon.asOf * 60;
  const year = 365 * 86_400;
  for (let i = 0; i < count; i++) {
    const second = Math.floor(end - year + (year * i) / count);
    const { id, doors } = random.pick(comers);
    const door = doors[Math.min(random.below(5), random.below(5))] ?? "";
    if (random.chance(0.001)) yield { second, door, number: String(random.below(500)), facilityCode: "9", granted: false, reason: "unknown" };
    else yield { second, door, credential: id, granted: random.chance(0.985) };
    // Somebody whose card does not do tries again at once.
    if (random.chance(0.0002)) for (let n = 1; n <= 6; n++) yield { second: second + n * 20, door, credential: id, granted: false, reason: "not valid" };
  }
}

async function* streamed(events: Iterable<ToldEvent>): AsyncGenerator<ToldEvent> {
  // What comes from a file comes in pieces: whoever reads it waits now and then.
  for (const event of events) {
    await Promise.resolve();
    yield event;
  }
}

/** The rules of which a plain SQL formulation gives the same findings. */
const inSql: readonly RuleKey[] = ["leaver-live", "many-credentials", "unused", "tried-again", "unknown-tried"];

function fingerprints(one: Judged, key: RuleKey): string[] {
  const rule = required(ruleOf(key), "the catalogue has it");
  const flags = Array.from(rule.find(one, parametersOf(one, rule)).flags);
  return flags.flatMap(({ subject, distinct }) => (distinct?.[0] === "days" ? [] : [fingerprintOf(key, subject, distinct)])).sort();
}

async function measureRules(services: Services, compiled: CompiledFacility, horizon: Horizon, sql: RulesInSql): Promise<void> {
  const read = await timed(() => judgingOf(services, compiled));
  const kept = await timed(() => judged(horizon, read.value));
  const whole = await timed(() =>
    findAll(
      kept.value,
      allRules.map(({ key }) => key),
    ),
  );
  const found = [...whole.value.totals.values()].reduce((sum, n) => sum + n, 0);
  put("read what is kept of events", seconds(read.ms + kept.ms), "", "", gigabytes());
  put(`all rules, ${found.toLocaleString("en-GB")} findings`, seconds(whole.ms), "the target", "30 s", gigabytes());
  for (const key of inSql) {
    const ours = await timed(() => fingerprints(kept.value, key));
    const theirs = await timed(() => sql.fingerprints(key));
    invariant(JSON.stringify(ours.value) === JSON.stringify(theirs.value), `${key}: SQL finds ${theirs.value.length}, we ${ours.value.length}`);
    put(
      `${key}: ${ours.value.length.toLocaleString("en-GB")} findings`,
      seconds(ours.ms),
      "plain SQL",
      seconds(theirs.ms),
      `${(theirs.ms / ours.ms).toFixed(1)} × as fast`,
    );
  }
  const keptThere = await timed(() => sql.lastUses());
  put(
    "last use of every card from what is kept at intake",
    seconds((await timed(() => services.events.lastUses())).ms),
    "SQL over all events",
    seconds(keptThere.ms),
    "",
  );
}

/** Twenty people at once, with a second of thinking between their requests. */
async function measureLists(services: Services, compiled: CompiledFacility): Promise<void> {
  const register = { snapshot: { id: 1 }, compiled } as Parameters<typeof listEvents>[2];
  const known: Services = {
    ...services,
    compiled: () => Promise.resolve(compiled),
    snapshots: { ...services.snapshots, list: () => Promise.resolve([]), byId: () => Promise.resolve(undefined) },
  };
  const reviewer = { role: "reviewer", signIn: "bench" } as Account;
  const random = seeded(5);
  const { doors, cardholders } = compiled.facility;
  const kinds: Readonly<Record<string, () => Partial<AskedEvents>>> = {
    "the newest": () => ({}),
    "of a door": () => ({ about: { kind: "door", id: random.pick(doors).id } }),
    "of a person": () => ({ about: { kind: "cardholder", id: random.pick(cardholders).id } }),
    refused: () => ({ granted: false }),
    "a search": () => ({ text: random.pick(cardholders).name }),
  };
  const times = new Map(Object.keys(kinds).map((kind) => [kind, [] as number[]]));
  await listEvents(known, reviewer, register, anyEvents);
  const until = performance.now() + 40_000;
  const somebody = async (): Promise<void> => {
    while (performance.now() < until) {
      const [kind, of] = random.pick(Object.entries(kinds));
      const { ms } = await timed(() => listEvents(known, reviewer, register, { ...anyEvents, ...of() }));
      times.get(kind)?.push(ms);
      await new Promise((resolve) => setTimeout(resolve, 500 + random.below(1000)));
    }
  };
  await Promise.all(Array.from({ length: 20 }, somebody));
  for (const [kind, taken] of times) {
    const sorted = taken.sort((a, b) => a - b);
    const at = (share: number): string => seconds(sorted[Math.floor(sorted.length * share)] ?? NaN);
    put(`events, ${kind}, 20 people`, `p50 ${at(0.5)}, p95 ${at(0.95)}`, "the target", "p95 300 ms", `${sorted.length} asked`);
  }
}

const compiled = compileFacility(withAllLists(JSON.parse(readFileSync(required(values.file, "--file names a document"), "utf8")) as FacilityDocument));
const horizon = new Horizon(compiled);
horizon.table(ordinary);
horizon.week(asIfLive);
const services = openServices();
const sql = await RulesInSql.open(compiled);
const placeOf = countedPlaces(compiled, usualSettings);
const file = { name: "year", hash: "a".repeat(64), source: "bench" };
const taken = await timed(() =>
  services.events.store(file, streamed(yearOf(compiled, horizon)), placeOf, { signIn: "bench" }, "2026-01-01T00:00:00Z", () => undefined),
);
const bare = await timed(() => sql.loadBare(yearOf(compiled, horizon)));
const rate = (ms: number): string => `${Math.round(taken.value.rows / (ms / 1000)).toLocaleString("en-GB")} rows/s`;
put(
  `intake of ${taken.value.rows.toLocaleString("en-GB")} events, with all that is counted`,
  rate(taken.ms),
  "bare bulk load of the rows",
  rate(bare.ms),
  `costs ${(taken.ms / bare.ms).toFixed(1)} ×`,
);
await measureRules(services, compiled, horizon, sql);
await measureLists(services, compiled);
await sql.close();
await services.close();
process.stdout.write(`${JSON.stringify(table)}\n`);
process.exit(0);
