import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { compareAccess } from "@/core/compare/compare-access";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityDraft } from "@/core/facility/draft";
import { withAllLists } from "@/core/facility/facility";
import { businessHours, businessLines } from "@/core/findings/business-hours";
import { invariant, present } from "@/core/kernel/invariant";
import type { Position } from "@/core/kernel/position-index";
import { doorsOfRow, lineAt } from "@/core/resolve/access-row";
import type { AccessTable } from "@/core/resolve/access-table";
import { accessTable } from "@/core/resolve/access-table";
import { ordinary } from "@/core/resolve/paths";
import { exactReading } from "@/core/resolve/reading";
import { pairBlocks, summaries, summaryGroups } from "@/core/resolve/pair-summaries";
import { doorColumns, openOf, whoOpensAt } from "@/core/resolve/table-questions";
import { opensById, verdictIndex } from "@/core/resolve/verdict-index";
import { AccessWorld } from "@/core/resolve/access-world";
import type { EpochMinute } from "@/core/time/instant";
import { subtract, totalMinutes } from "@/core/time/intervals";
import { openDuring } from "@/core/time/schedule";
import { readFacility } from "@/intake/read-facility";
import { seeded } from "~/demo/random";
import { CasbinPeer } from "./casbin";
import { CedarPeer } from "./cedar";
import { isPeerCredential, peerDoors } from "./peer-data";
import { PlainLoop, minuteOf } from "./plain";
import { SqlPeer } from "./sql";

/** One line of the table. Times in milliseconds for one piece of work; a peer's is scaled where it was sampled. */
export interface Measured {
  readonly question: string;
  readonly ours: number;
  readonly peer: string;
  readonly theirs: number;
  readonly sampled: string;
  /** The peer's work is a part of ours, or the yardstick for it: the ratio is what ours costs in terms of it. */
  readonly isYardstick: boolean;
}

const { values } = parseArgs({ options: { file: { type: "string" }, size: { type: "string" }, memory: { type: "string" } } });
const path = present(values.file, "--file names a document");
const size = values.size ?? "s";
const [from, to] = [minuteOf("2026-01-01T00:00:00Z"), minuteOf("2027-01-01T00:00:00Z")];
const seed = 20260225;

const now = (): number => performance.now();

function timed<T>(work: () => T): { readonly ms: number; readonly value: T } {
  const began = now();
  const value = work();
  return { ms: now() - began, value };
}

const median = (numbers: readonly number[]): number => [...numbers].sort((a, b) => a - b)[numbers.length >> 1] as number;

/** What one question leaves behind is not charged to the next. */
const clean = (): void => present((globalThis as { gc?: () => void }).gc, "npm run bench exposes it")();

/** Rounds that do not count, on either side, so that the engine has compiled what it is going to compile. */
const warmUp = (work: () => unknown): void => {
  for (let round = 0, began = now(); round < 2 || (round < 50 && now() - began < 2000); round++) work();
};

/** Five rounds that count; `prepare` is not counted. A heap made clean before each would be cold, and nobody works on a cold one. */
function medianOf5<T>(work: (prepared: T) => unknown, prepare: () => T): number {
  clean();
  warmUp(() => work(prepare()));
  return median(
    Array.from({ length: 5 }, () => {
      const prepared = prepare();
      return timed(() => work(prepared)).ms;
    }),
  );
}
const nothing = (): void => undefined;

/**
 * A peer that is too slow for five rounds over everything is asked once, on a sample; before, it warms up on another sample, so that
 * neither the engine's compilation counts nor the sample itself lies in the processor's cache already.
 */
function afterWarmUp<Q, A>(others: readonly Q[], sample: readonly Q[], ask: (question: Q) => A): { readonly ms: number; readonly value: A[] } {
  clean();
  others.forEach(ask);
  return timed(() => sample.map(ask));
}

const rows: Measured[] = [];
const note = (question: string, ours: number, peer: string, theirs: number, sampled = "", isYardstick = false): void => {
  rows.push({ question, ours, peer, theirs, sampled, isYardstick });
  process.stderr.write(`  ${question} / ${peer}: ${(isYardstick ? ours / theirs : theirs / ours).toFixed(2)}×\n`);
};

const text = readFileSync(path, "utf8");

/** Reads, checks, compiles and lays out everything, and reports the peak; with `rows`, the summary of every pair is written out as well. */
function memoryOnly(kind: string): void {
  const read = readFacility(text);
  invariant(read.ok, "the demo is in order");
  const compiled = compileFacility(read.value.facility);
  const table = accessTable(compiled, exactReading(compiled, from, to, ordinary));
  let pairs = 0;
  if (kind === "rows") {
    const kept: Int32Array[] = [];
    for (const { length, cardholders, doors, minutes, oddMinutes, first, last } of pairBlocks(table, summaries(table, businessLines(table, compiled)))) {
      for (const column of [cardholders, doors, minutes, oddMinutes, first, last]) kept.push(column.slice(0, length));
      pairs += length;
    }
  }
  process.stdout.write(`${JSON.stringify({ peakBytes: process.resourceUsage().maxRSS * 1024, fileBytes: Buffer.byteLength(text), pairs })}\n`);
}

/** The same institute a while later: some have left, some have changed department, some grants are gone, one schedule is longer. */
function later(document: FacilityDraft): FacilityDraft {
  const random = seeded(seed);
  const departments = (document.groups ?? []).filter(({ kind }) => kind === "department").map(({ id }) => id);
  return {
    ...document,
    cardholders: (document.cardholders ?? []).map((cardholder) => {
      if (random.chance(0.01)) return { ...cardholder, status: "left" as const, statusSince: "2026-06-01T00:00:00Z" };
      return random.chance(0.01) ? { ...cardholder, department: random.pick(departments) } : cardholder;
    }),
    grants: (document.grants ?? []).filter(({ to: receiver }) => receiver.cardholder === undefined || !random.chance(0.02)),
    schedules: (document.schedules ?? []).map((schedule) => (schedule.id === "late" ? { ...schedule, week: { ...schedule.week, sat: [["13:00", "18:00"] as const] } } : schedule)),
  };
}

const tableOf = (compiled: CompiledFacility, world = new AccessWorld()): AccessTable => accessTable(compiled, exactReading(compiled, from, to, ordinary), world);

async function measure(): Promise<void> {
  const random = seeded(seed);
  const parse = medianOf5(() => JSON.parse(text), nothing);
  const document = JSON.parse(text) as FacilityDraft;
  const reading = medianOf5(() => {
    const read = readFacility(text);
    invariant(read.ok, "the demo is in order");
    compileFacility(read.value.facility);
  }, nothing);
  note("read, validate, check and compile", reading, "JSON.parse of the same text", parse, "", true);

  const world = new AccessWorld();
  const table = tableOf(compileFacility(withAllLists(document)), world);
  const { compiled } = table;
  const firstAgain = medianOf5(() => tableOf(compileFacility(withAllLists(document))), nothing);
  const second = later(document);
  const apart = JSON.parse(JSON.stringify(second)) as FacilityDraft;
  const laidOut = () => {
    const fresh = new AccessWorld();
    return { fresh, before: tableOf(compileFacility(withAllLists(document)), fresh).compiled };
  };
  const secondOf = (draft: FacilityDraft, sharing: boolean): number =>
    medianOf5(({ fresh, before }) => tableOf(compileFacility(withAllLists(draft), sharing ? before : undefined), fresh), laidOut);
  note("compile and lay out a second document in the same world, unchanged objects shared, as in a draft", secondOf(second, true), "the first document", firstAgain, "", true);
  note("the same of a second document that was read on its own", secondOf(apart, false), "the first document", firstAgain, "", true);

  const { facility } = compiled;
  const doors = peerDoors(compiled);
  // Cedar and Casbin are asked of cards that are live throughout: status and windows would only be more conditions for them.
  const whole = table.book.number(table.reading.whole);
  const credentials = compiled.credentials.all().filter((credential) => isPeerCredential(credential) && table.liveOfCredential[credential.position] === whole).map(({ position }) => position);
  const id = { credential: (position: Position) => present(facility.credentials[position], "valid").id, door: (position: Position) => present(facility.doors[position], "valid").id };
  // Half of the questions are about doors that the card does open at some time, so that none is decided by an empty look-up alone.
  const question = () => {
    const credential = random.pick(credentials);
    const opened = doorsOfRow(table.rows, table.rowOfCredential[credential] as number);
    const open = opened.length > 0 && random.chance(0.5) ? (opened[random.below(opened.length)] as number) : undefined;
    return { credential, door: open !== undefined && doors.includes(open) ? open : random.pick(doors), at: (from + random.below(to - from)) as EpochMinute };
  };
  const asked = Array.from({ length: 20_000 }, question);
  const named = asked.map(({ credential, door, at }) => ({ credential: id.credential(credential), door: id.door(door), at }));
  const index = verdictIndex(table);
  const passes = 20;
  const verdictMs =
    medianOf5(() => {
      let open = 0;
      for (let pass = 0; pass < passes; pass++) for (const { credential, door, at } of named) if (opensById(index, credential, door, at)) open++;
      return open;
    }, nothing) /
    (asked.length * passes);
  const answers = named.map(({ credential, door, at }) => opensById(index, credential, door, at));
  const differ = (peer: string, i: number) => `${peer} says otherwise of ${JSON.stringify(named[i])}`;
  const plain = new PlainLoop(document, from, to);
  const others = Array.from({ length: 20_000 }, question);
  const askPlain = ({ credential, door, at }: { credential: string; door: string; at: EpochMinute }) => plain.opens(credential, door, at);
  const plainVerdict = afterWarmUp(others.map(({ credential, door, at }) => ({ credential: id.credential(credential), door: id.door(door), at })), named, askPlain);
  plainVerdict.value.forEach((answer, i) => invariant(answer === answers[i], differ("the plain loop", i)));
  note("one verdict by ids", verdictMs, "plain loop, schedules remembered", plainVerdict.ms / asked.length);

  const cedar = new CedarPeer(compiled);
  const cedarCount = 60;
  for (const { door } of [...asked.slice(0, cedarCount), ...others.slice(0, cedarCount)]) cedar.prepare(door);
  const cedarMs = afterWarmUp(others.slice(0, cedarCount), asked.slice(0, cedarCount), ({ credential, door, at }) => cedar.opens(credential, door, at));
  cedarMs.value.forEach((answer, i) => invariant(answer === answers[i], differ("Cedar", i)));
  note("one verdict by ids", verdictMs, "Cedar, policies of the door parsed before", cedarMs.ms / cedarCount, `${cedarCount} verdicts`);

  const casbin = new CasbinPeer(compiled);
  const casbinCount = 40;
  for (const { credential, door, at } of [...asked.slice(0, casbinCount), ...others.slice(0, casbinCount)]) await casbin.know(credential, door, at);
  for (const { credential, door, at } of others.slice(0, casbinCount)) await casbin.opens(credential, door, at);
  const casbinBegan = now();
  for (const [i, { credential, door, at }] of asked.slice(0, casbinCount).entries()) invariant((await casbin.opens(credential, door, at)) === answers[i], differ("Casbin", i));
  note("one verdict by ids", verdictMs, "Casbin, policies of the door, roles known", (now() - casbinBegan) / casbinCount, `${casbinCount} verdicts`);

  const environment = (name: string): string => present(process.env[name], `${name} is set by npm run bench`);
  const sql = await SqlPeer.load(compiled, from, to, { port: Number(environment("NOMADE_DB_PORT")), user: environment("NOMADE_DB_USER"), password: environment("NOMADE_DB_PASSWORD"), database: environment("NOMADE_DB_NAME") });
  const sqlCount = 200;
  for (const { credential, door, at } of others.slice(0, sqlCount)) await sql.opens(id.credential(credential), id.door(door), at);
  let began = now();
  for (const [i, { credential, door, at }] of named.slice(0, sqlCount).entries()) invariant((await sql.opens(credential, door, at)) === answers[i], differ("SQL", i));
  note("one verdict by ids", verdictMs, "SQL in MariaDB, all flattened and indexed", (now() - began) / sqlCount, `${sqlCount} verdicts`);

  const columns = doorColumns(table);
  const doorQuestions = Array.from({ length: 100 }, () => ({ door: random.pick(doors), at: (from + random.below(to - from)) as EpochMinute }));
  const whoMs = medianOf5(() => doorQuestions.map(({ door, at }) => whoOpensAt(table, columns, door, at)), nothing) / doorQuestions.length;
  const isPeer = new Set(credentials.map(id.credential));
  const whoCount = size === "l" ? 3 : 10;
  const plainWho = afterWarmUp(doorQuestions.slice(whoCount, whoCount + 2), doorQuestions.slice(0, whoCount), ({ door, at }) =>
    facility.credentials.filter((credential) => plain.opens(credential.id, id.door(door), at)).map((credential) => credential.id),
  );
  plainWho.value.forEach((list, i) => {
    const { door, at } = present(doorQuestions[i], "asked");
    invariant([...list].sort().join() === whoOpensAt(table, columns, door, at).sort().join(), "the plain loop finds others");
  });
  note("who can open a door at an instant, ids out", whoMs, "plain loop, schedules remembered", plainWho.ms / whoCount, `${whoCount} doors`);
  const sqlWhoCount = 5;
  began = now();
  const sqlWho: string[][] = [];
  for (const { door, at } of doorQuestions.slice(0, sqlWhoCount)) sqlWho.push(await sql.whoOpens(id.door(door), at));
  note("who can open a door at an instant, ids out", whoMs, "SQL in MariaDB", (now() - began) / sqlWhoCount, `${sqlWhoCount} doors`);
  sqlWho.forEach((list, i) => {
    const { door, at } = present(doorQuestions[i], "asked");
    const ours = whoOpensAt(table, columns, door, at).filter((one) => isPeer.has(one)).sort();
    invariant(list.filter((one) => isPeer.has(one)).sort().join() === ours.join(), `SQL finds others at ${id.door(door)}`);
  });

  const pairs = asked.filter((_, i) => answers[i]).slice(0, 400);
  const timetableOf = ({ credential, door }: { credential: Position; door: Position }) => openOf(table, credential, door);
  const repeats = 200;
  const timetableMs =
    medianOf5(() => {
      let bounds = 0;
      for (let i = 0; i < repeats; i++) for (const pair of pairs) bounds += timetableOf(pair).length;
      return bounds;
    }, nothing) /
    (pairs.length * repeats);
  const plainTimetables = afterWarmUp(others.slice(0, 1000), pairs, ({ credential, door }) => plain.timetable(id.credential(credential), id.door(door)));
  plainTimetables.value.forEach((set, i) => invariant(set.join() === timetableOf(present(pairs[i], "asked")).join(), "the plain loop lays out another timetable"));
  note("timetable of one pair for a year", timetableMs, "plain loop, schedules remembered", plainTimetables.ms / pairs.length);
  const narrowed = new Set(facility.grants.flatMap(({ schedule, open, to: receiver }) => (schedule !== undefined && (open.level !== undefined || open.bundle !== undefined) ? [receiver.cardholder ?? receiver.group ?? receiver.credential] : [])));
  invariant(narrowed.size === 0, "the SQL timetable knows no narrowing schedules");
  const sqlPairs = pairs.slice(0, 40);
  began = now();
  const sqlTimetables: number[][] = [];
  for (const { credential, door } of sqlPairs) sqlTimetables.push(await sql.timetable(id.credential(credential), id.door(door)));
  note("timetable of one pair for a year", timetableMs, "SQL in MariaDB", (now() - began) / sqlPairs.length, `${sqlPairs.length} pairs`);
  sqlTimetables.forEach((set, i) => invariant(set.join() === timetableOf(present(sqlPairs[i], "asked")).join(), "SQL lays out another timetable"));
  await sql.close();

  // The year's summary of all pairs, from the parsed document.
  let pairCount = 0;
  const summaryMs = medianOf5(() => {
    const made = tableOf(compileFacility(withAllLists(document)));
    pairCount = 0;
    for (const { from: first, to: end, start, end: last } of summaryGroups(made, summaries(made, businessLines(made, made.compiled)))) pairCount += (end - first) * (last - start);
  }, nothing);
  let written = 0;
  const writtenMs = medianOf5(() => {
    const made = tableOf(compileFacility(withAllLists(document)));
    written = 0;
    for (const { length } of pairBlocks(made, summaries(made, businessLines(made, made.compiled)))) written += length;
  }, nothing);
  const sampleSize = Math.min(facility.cardholders.length, size === "s" ? 200 : size === "m" ? 60 : 25);
  const sample = Array.from({ length: sampleSize }, () => random.pick(facility.cardholders).id);
  const plainSummary = (loop: PlainLoop, cardholder: string) => {
    const found = new Map<string, readonly [number, number, number, number]>();
    for (const { id: door, site } of facility.doors) {
      const open = loop.cardholderTimetable(cardholder, door);
      if (open.length === 0) continue;
      const at = present(facility.sites.find((one) => one.id === site), "valid");
      const doorAt = present(compiled.doors[present(compiled.doorById.get(door), "valid")], "valid");
      const days = doorAt.calendar === undefined ? undefined : compiled.calendars[doorAt.calendar];
      let business = businessOf.get(at.id);
      if (!business) businessOf.set(at.id, (business = openDuring(businessHours, days, doorAt.zone, from, to)));
      found.set(door, [totalMinutes(open), totalMinutes(subtract(open, business)), open[0] as number, open[open.length - 1] as number]);
    }
    return found;
  };
  const businessOf = new Map<string, ReturnType<typeof openDuring>>();
  const otherPeople = sample.map(() => random.pick(facility.cardholders).id);
  const plainAll = afterWarmUp(otherPeople, sample, (cardholder) => plainSummary(plain, cardholder));
  const summed = summaries(table, businessLines(table, compiled));
  sample.forEach((cardholder, i) => {
    const row = table.rowOfCardholder(present(compiled.cardholderById.get(cardholder), "valid"));
    const ours = Array.from(doorsOfRow(table.rows, row), (door) => {
      const { minutes, oddMinutes, first: start, last } = summed.of(lineAt(table.rows, row, door), door);
      return `${id.door(door)} ${minutes} ${oddMinutes} ${start} ${last}`;
    }).sort();
    const theirs = [...(plainAll.value[i] ?? [])].map(([door, numbers]) => `${door} ${numbers.join(" ")}`).sort();
    invariant(ours.join("\n") === theirs.join("\n"), `the plain loop sums up ${cardholder} otherwise`);
  });
  const share = facility.cardholders.length / sampleSize;
  note(`year summary of all ${pairCount.toLocaleString("en-GB")} pairs that open, from the parsed document`, summaryMs, "plain loop, schedules remembered", plainAll.ms * share, `${sampleSize} cardholders`);
  note("the same with each pair written out", writtenMs, "plain loop, schedules remembered", plainAll.ms * share, `${sampleSize} cardholders`);
  invariant(pairCount === summed.totals().pairs && written === pairCount, "all pairs are there");

  const other = tableOf(compileFacility(withAllLists(second)), world);
  let changes = 0;
  const compareMs = medianOf5(() => {
    changes = 0;
    for (const [, list] of compareAccess(table, other)) changes += list.length;
  }, nothing);
  const plainOther = new PlainLoop(second, from, to);
  const plainCompare = afterWarmUp(otherPeople, sample, (cardholder) => {
    const found: string[] = [];
    for (const { id: door } of facility.doors) {
      const [was, is] = [plain.cardholderTimetable(cardholder, door), plainOther.cardholderTimetable(cardholder, door)];
      const [more, less] = [totalMinutes(subtract(is, was)), totalMinutes(subtract(was, is))];
      if (more + less > 0) found.push(`${door} ${more} ${less}`);
    }
    return found.sort().join("\n");
  });
  const ours = new Map<string, string>();
  for (const [cardholder, list] of compareAccess(table, other)) ours.set(cardholder, list.map(({ door, minutesMore, minutesLess }) => `${door} ${minutesMore} ${minutesLess}`).sort().join("\n"));
  sample.forEach((cardholder, i) => invariant((ours.get(cardholder) ?? "") === plainCompare.value[i], `the plain loop compares ${cardholder} otherwise`));
  note(`comparison of two documents, ${changes.toLocaleString("en-GB")} changes, minutes counted`, compareMs, "plain loop, schedules remembered", plainCompare.ms * share, `${sampleSize} cardholders`);

  process.stdout.write(`${JSON.stringify({ size, cardholders: facility.cardholders.length, doors: facility.doors.length, fileBytes: text.length, rows: table.rows.count, timelines: table.book.size, measured: rows })}\n`);
}

if (values.memory !== undefined) memoryOnly(values.memory);
else await measure();
