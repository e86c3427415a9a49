import { droppedText, valuesGoneText } from "@/core/evidence/retention";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { signedTextOf } from "@/core/certification/sign-docket";
import type { Anchor } from "../ports/anchors";
import type { KeptStamp, RecordHead } from "../ports/time-stamps";
import { AlteredSnapshot } from "../ports/snapshots";
import type { LatestEntry, StoredDocket, Verification } from "../ports/verification";
import type { Services } from "../services";

/** What is compared, by kind. */
export const verifiedKinds = [
  "record",
  "anchors",
  "timeStamps",
  "snapshots",
  "registerRows",
  "decidedLines",
  "signedDockets",
  "orders",
  "accounts",
  "values",
] as const;
export type VerifiedKind = (typeof verifiedKinds)[number];

/** One kind: how much there is, and the first that does not hold. */
export interface VerifiedOfKind {
  readonly what: VerifiedKind;
  readonly count: number;
  readonly problem?: string;
}

/** What was compared, how much of it, what does not hold, and what cannot be told; all in sentences. */
export interface VerifiedAll {
  readonly kinds: readonly VerifiedOfKind[];
  readonly sound: boolean;
  readonly entries: number;
  readonly head: string;
  readonly checked: Readonly<Record<"snapshots" | "registerRows" | "decidedLines" | "signedDockets" | "orders" | "accounts", number>>;
  readonly problems: readonly string[];
  readonly notes: readonly string[];
}

const fields = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === "object" && value !== null ? (value as Readonly<Record<string, unknown>>) : {};

/** Collects what does not hold; `of` counts what was compared. */
class Report {
  readonly problems: string[] = [];
  readonly notes: string[] = [];
  private readonly first = new Map<VerifiedKind, string>();

  /** Something of a kind that does not hold. */
  broken(kind: VerifiedKind, problem: string): void {
    this.problems.push(problem);
    if (!this.first.has(kind)) this.first.set(kind, problem);
  }

  /** One line for each kind, in order. */
  kinds(counts: Readonly<Record<VerifiedKind, number>>): VerifiedOfKind[] {
    return verifiedKinds.map((what) => {
      const problem = this.first.get(what);
      return { what, count: counts[what], ...(problem !== undefined && { problem }) };
    });
  }

  readonly checked = { snapshots: 0, registerRows: 0, decidedLines: 0, signedDockets: 0, orders: 0, accounts: 0 };
  /** Says so where something is not as its entry says; without the entry's values only that there is one can be told. */
  compare(kind: VerifiedKind, subject: string, entry: LatestEntry | undefined, stored: Readonly<Record<string, unknown>>): void {
    if (!entry) return this.broken(kind, `${subject} has no entry in the record.`);
    if (entry.after === undefined) return;
    const recorded = fields(entry.after);
    const different = Object.keys(stored).filter((key) => (recorded[key] ?? null) !== (stored[key] ?? null));
    if (different.length > 0) this.broken(kind, `${subject} is not as entry ${entry.number} recorded it: ${different.join(", ")}.`);
  }
}

/** Entries that speak of something that is not there. */
function withoutSubject(kind: VerifiedKind, entries: ReadonlyMap<string, LatestEntry>, there: ReadonlySet<string>, report: Report): void {
  for (const [on, { number }] of entries) if (!there.has(on)) report.broken(kind, `Entry ${number} speaks of ${on}, which is not there.`);
}

async function verifySnapshots(services: Services, store: Verification, report: Report): Promise<void> {
  const stored = await store.latest("intake.stored");
  const snapshots = await store.snapshots();
  const dropped = await store.latest("retention.dropped");
  let gone = 0;
  for (const { id, hash, isDropped } of snapshots) {
    report.checked.snapshots += 1;
    report.compare("snapshots", `Snapshot ${id}`, stored.get(`snapshot ${id}`), { hash });
    if (isDropped) {
      gone += 1;
      if (!dropped.has(droppedText("snapshot", id, hash)))
        report.broken("snapshots", `Snapshot ${id} is not kept any more, and no entry says that it was past its time.`);
      continue;
    }
    try {
      const { rows, different } = await store.registerRows(id, withAllLists(JSON.parse(await services.snapshots.frozen(id)) as FacilityDocument));
      report.checked.registerRows += rows;
      for (const table of different) report.broken("registerRows", `The register of snapshot ${id} is not what its frozen document says: ${table}.`);
    } catch (error) {
      if (!(error instanceof AlteredSnapshot)) throw error;
      report.broken("snapshots", error.message);
    }
  }
  withoutSubject("snapshots", stored, new Set(snapshots.map(({ id }) => `snapshot ${id}`)), report);
  if (gone > 0) report.notes.push(`${gone} ${gone === 1 ? "snapshot was" : "snapshots were"} past the time of retention and dropped whole; their hashes stay.`);
  const [head, last] = [await store.head(), snapshots.at(-1)?.id];
  if (head !== last) report.broken("registerRows", `The register stands at snapshot ${head ?? "none"}; the latest is ${last ?? "none"}.`);
}

function verifySignature(services: Services, stored: StoredDocket, signed: LatestEntry | undefined, report: Report): void {
  const { docket, round, snapshot, signer, statement, hash, lines, signedAt } = stored;
  if (signedAt === undefined)
    return signed && report.broken("signedDockets", `Entry ${signed.number} says that docket ${docket} was signed; it bears no signature.`);
  report.checked.signedDockets += 1;
  report.compare("signedDockets", `The signature of docket ${docket}`, signed, { statement, hash });
  if (!signer) return report.broken("signedDockets", `Docket ${docket} is signed by no account that is there.`);
  const signedLines = lines.map(({ terms: _, ...line }) => line);
  const again = services.digest(signedTextOf({ round, docket, snapshot, certifier: signer.signIn, lines: signedLines }, statement ?? ""));
  if (again !== hash)
    report.broken(
      "signedDockets",
      `The lines, decisions and reasons of docket ${docket} are not those that were signed: their hash is ${again}, the signature's ${hash ?? "none"}.`,
    );
}

/** Entries of the record on dockets and their orders, the latest by what they are on. */
interface DocketEntries {
  readonly decided: ReadonlyMap<string, LatestEntry>;
  readonly signed: ReadonlyMap<string, LatestEntry>;
  readonly closed: ReadonlyMap<string, LatestEntry>;
  readonly plannedAnew: ReadonlyMap<string, LatestEntry>;
}

function verifyOrders({ docket, lines, orders, ordersHash, plannedAnew, signedAt, closedAt }: StoredDocket, entries: DocketEntries, report: Report): void {
  const withdrawn = new Set(lines.filter(({ decision }) => decision === "withdraw" || decision === "narrow").map(({ id }) => id));
  for (const { id, line } of orders) {
    report.checked.orders += 1;
    if ((signedAt ?? closedAt) === undefined || !withdrawn.has(line))
      report.broken("orders", `Order ${id} is of line ${line} of docket ${docket}, which was not withdrawn by a signature.`);
  }
  for (const { line, orders: count, hash } of plannedAnew) {
    report.checked.orders += count;
    if (!withdrawn.has(line)) report.broken("orders", `Orders of line ${line} of docket ${docket} were planned anew; it was not withdrawn by a signature.`);
    report.compare("orders", `What was planned anew for line ${line} of docket ${docket}`, entries.plannedAnew.get(`orders of line ${line}`), {
      orders: count,
      ordersHash: hash,
    });
  }
  const entry = signedAt !== undefined ? entries.signed.get(`docket ${docket}`) : closedAt !== undefined ? entries.closed.get(`docket ${docket}`) : undefined;
  if (closedAt !== undefined && signedAt === undefined && !entry)
    return report.broken("signedDockets", `Docket ${docket} was closed without a signature and has no entry in the record.`);
  if (entry?.after === undefined) return;
  const recorded = fields(entry.after);
  // An older version wrote its orders otherwise; how they are told was changed since, so that neither their number nor their words compare.
  if (recorded.ordersHash === undefined)
    return void report.notes.push(
      `The orders of docket ${docket} were recorded by an older version, without their hash: whether they were altered cannot be told.`,
    );
  if (recorded.orders !== orders.length)
    report.broken("orders", `Docket ${docket} has ${orders.length} orders; entry ${entry.number} recorded ${String(recorded.orders)}.`);
  else if (recorded.ordersHash !== ordersHash) report.broken("orders", `The orders of docket ${docket} are not those that entry ${entry.number} recorded.`);
}

async function verifyDockets(services: Services, store: Verification, report: Report): Promise<void> {
  const entries: DocketEntries = {
    decided: await store.latest("line.decided"),
    signed: await store.latest("docket.signed"),
    closed: await store.latest("docket.closed"),
    plannedAnew: await store.latest("orders.planned-anew"),
  };
  const { decided, signed } = entries;
  const there = new Set<string>();
  const dockets = new Set<string>();
  for await (const stored of store.dockets()) {
    dockets.add(`docket ${stored.docket}`);
    for (const { id, decision, reason, terms } of stored.lines) {
      const on = `line ${id} of docket ${stored.docket}`;
      const entry = decided.get(on);
      there.add(on);
      if (decision === undefined && !entry) continue;
      report.checked.decidedLines += 1;
      report.compare("decidedLines", `Line ${id} of docket ${stored.docket}`, entry, { decision, reason, terms });
    }
    const entry = signed.get(`docket ${stored.docket}`);
    verifySignature(services, stored, entry, report);
    verifyOrders(stored, entries, report);
  }
  const gone = await store.droppedDockets();
  if (gone.length > 0) {
    const dropped = await store.latest("retention.dropped");
    for (const { id, hash } of gone)
      if (!dropped.has(droppedText("docket", id, hash)))
        report.broken("signedDockets", `Docket ${id} is not kept any more, and no entry says that it was past its time, or its hash is another one.`);
    report.notes.push(`${gone.length} ${gone.length === 1 ? "docket was" : "dockets were"} past the time of retention and dropped whole; their hashes stay.`);
  }
  const goneNames = new Set(gone.map(({ id }) => `docket ${id}`));
  const isKept = ([on]: readonly [string, LatestEntry]): boolean => !goneNames.has(on.replace(/^line \d+ of /, ""));
  withoutSubject("decidedLines", new Map([...decided].filter(isKept)), there, report);
  withoutSubject("signedDockets", new Map([...signed].filter(isKept)), dockets, report);
}

/** Values that are not there any more, against the entries that say that they were let go. */
async function verifyValues(services: Services, store: Verification, withoutValues: readonly number[], report: Report): Promise<void> {
  const explained = new Set<number>();
  for (const [number, numbers] of await store.valuesGone()) {
    const [entry] = await services.record.page({ before: number + 1 }, 1);
    const isSaid = entry?.number === number && entry.what === "retention.dropped" && entry.on === valuesGoneText(numbers, services.digest);
    if (isSaid) for (const one of numbers) explained.add(one);
    else report.broken("values", `Entry ${number} does not say that just the values of these ${numbers.length} entries were let go.`);
  }
  const unexplained = withoutValues.filter((number) => !explained.has(number));
  if (unexplained.length > 0)
    report.broken(
      "values",
      `${unexplained.length} ${unexplained.length === 1 ? "entry of the record has its values no more" : "entries of the record have their values no more"}, and no time of retention explains it: entry ${unexplained[0] ?? 0}${unexplained.length > 1 ? " and others" : ""}.`,
    );
  const letGo = withoutValues.length - unexplained.length;
  if (letGo > 0)
    report.notes.push(`${letGo} ${letGo === 1 ? "entry has its" : "entries have their"} values no more, since they are past the time of retention.`);
}

async function verifyAccounts(store: Verification, report: Report): Promise<void> {
  const put = await store.latest("account.put");
  const accounts = await store.accounts();
  for (const { signIn, name, role, cardholder, sites } of accounts) {
    report.checked.accounts += 1;
    report.compare("accounts", `Account ${signIn}`, put.get(signIn), { name, role, cardholder, sites });
  }
  withoutSubject("accounts", put, new Set(accounts.map(({ signIn }) => signIn)), report);
}

/**
 * Compares everything that a signature rests on with what it should be: the record with its chain and the heads beside the database, frozen
 * documents with their hashes and the record, the register with the frozen documents, decisions, signatures, orders and accounts with the record. `held` are
 * heads that somebody kept, such as those in mails.
 */
export async function verifyAll(services: Services, held: readonly RecordHead[] = []): Promise<VerifiedAll> {
  const record = await services.record.verify();
  const report = new Report();
  // What is compared with a record that does not hold says nothing.
  if (!record.sound) {
    report.broken("record", record.why);
    const none = Object.fromEntries(verifiedKinds.map((kind) => [kind, 0])) as Record<VerifiedKind, number>;
    const entries = record.chain.whole ? record.chain.count : 0;
    return { sound: false, entries, head: "", checked: report.checked, kinds: report.kinds({ ...none, record: entries }), problems: [record.why], notes: [] };
  }
  const anchors = await services.anchors.read();
  if (anchors) await verifyAnchors(services, anchors, report);
  for (const { number, hash } of held) {
    const [entry] = await services.record.page({ before: number + 1 }, 1);
    if (entry?.number !== number || entry.hash !== hash) report.broken("anchors", `Entry ${number} is not the one whose hash was kept outside (--head).`);
  }
  const stamps = await services.timeStamps.read();
  if (stamps) await verifyStamps(services, stamps, report);
  else
    report.notes.push(
      "The record was stamped, and no certificate of the authority is there (NOMADE_TSA_CERTIFICATE): whether the time stamps hold cannot be told.",
    );
  await services.verifying(async (store) => {
    await verifySnapshots(services, store, report);
    await verifyDockets(services, store, report);
    await verifyAccounts(store, report);
    await verifyValues(services, store, record.withoutValues, report);
  });
  const { count, head, withoutValues, notes } = record;
  return {
    sound: report.problems.length === 0,
    entries: count,
    head,
    checked: report.checked,
    kinds: report.kinds({
      ...report.checked,
      record: count,
      anchors: (anchors?.length ?? 0) + held.length,
      timeStamps: stamps?.length ?? 0,
      values: count - withoutValues.length,
    }),
    problems: report.problems,
    notes: [...notes, ...report.notes],
  };
}

/** An authority's clock and ours may differ so much. */
const clocksDifferMs = 300_000;

/** Time stamps against the entries that they are over, and against what the record says of them. */
async function verifyStamps(services: Services, stamps: readonly KeptStamp[], report: Report): Promise<void> {
  const entryAt = async (number: number) => (await services.record.page({ before: number + 1 }, 1)).find((entry) => entry.number === number);
  for (const { number, hash, at, problem } of stamps) {
    const entry = await entryAt(number);
    if (problem !== undefined) report.broken("timeStamps", `The time stamp over entry ${number} says nothing: ${problem}.`);
    else if (entry?.hash !== hash) report.broken("timeStamps", `Entry ${number} is not the one that was stamped.`);
    else if (at !== undefined && Date.parse(at) + clocksDifferMs < Date.parse(entry.at))
      report.broken("timeStamps", `Entry ${number} says that it is of ${entry.at}; it was stamped before that, at ${at}.`);
  }
  const kept = new Set(stamps.map(({ number }) => `entry ${number}`));
  for (let before: number | undefined; ;) {
    const recorded = await services.record.page({ what: "record.stamped", ...(before !== undefined && { before }) }, stampsAPage);
    for (const { on, number } of recorded)
      if (!kept.has(on)) report.broken("timeStamps", `Entry ${number} says that ${on} was stamped; the time stamp is not there.`);
    if (recorded.length < stampsAPage) return;
    before = recorded.at(-1)?.number;
  }
}

const stampsAPage = 500;

/** Heads that were written outside, against the entries that they are of. */
async function verifyAnchors(services: Services, anchors: readonly Anchor[], report: Report): Promise<void> {
  for (const { number, hash, line } of anchors) {
    if (number === undefined || hash === undefined) {
      report.broken("anchors", `Line ${line} of the anchors outside is none; expected {"at": …, "number": …, "hash": …}.`);
      continue;
    }
    const [entry] = await services.record.page({ before: number + 1 }, 1);
    if (entry?.number !== number || entry.hash !== hash)
      report.broken("anchors", `Entry ${number} is not the one whose hash was written outside (line ${line} of the anchors).`);
  }
}
