import { signedTextOf } from "@/core/certification/sign-docket";
import type {
  DocketEvidence,
  EntryEvidence,
  FindingEvidence,
  IntakeEvidence,
  LineEvidence,
  OrderEvidence,
  RoundEvidence,
  TrialEvidence,
} from "@/core/evidence/round-evidence";
import { runTrial } from "@/core/evidence/trials";
import { required } from "@/core/kernel/invariant";
import type { Docket, DocketLine, Round } from "../ports/rounds";
import type { Snapshot } from "../ports/snapshots";
import type { StoredEntry } from "../ports/record";
import type { Order } from "../ports/orders";
import type { Waiver } from "../ports/triage";
import { todayOf } from "../findings/today";
import type { Services } from "../services";

/** Leaves out what is undefined: what is not there is not written. */
const given = <T extends object>(object: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(object).filter(([, value]) => value !== undefined)) as { [K in keyof T]: Exclude<T[K], undefined> };

const waiverOf = ({ reason, until, madeBy, madeAt, confirmedBy }: Waiver) => given({ reason, until, madeBy, madeAt, confirmedBy });

async function findingsOf(services: Services, snapshot: number): Promise<FindingEvidence[]> {
  const [filter, today] = [{ waived: "with" as const }, todayOf(services)];
  const found = await services.findings.page(snapshot, filter, today, await services.findings.count(snapshot, filter, today));
  return found.map(({ rule, subject, distinct, proof, risk, fingerprint, waiver }) => ({
    rule,
    subject,
    distinct,
    proof,
    risk,
    fingerprint,
    ...(waiver && { waiver: waiverOf(waiver) }),
  }));
}

async function intakesOf(services: Services, upTo: number): Promise<IntakeEvidence[]> {
  return (await services.snapshots.list())
    .filter(({ id }) => id <= upTo)
    .sort((a, b) => a.id - b.id)
    .map(({ id, hash, source, asOf, takenAt, takenBy, leftOut, files, counts }) => ({
      snapshot: id,
      hash,
      source,
      asOf,
      takenAt,
      takenBy,
      leftOut,
      files: files.map(({ name, hash: of, rows, leftOut: out, stated }) => given({ name, hash: of, rows, leftOut: out, stated })),
      counts: { ...counts },
    }));
}

const docketOf = (docket: Docket, signIns: ReadonlyMap<number, string>): DocketEvidence =>
  given({
    docket: docket.id,
    certifier: docket.certifier,
    certifierName: docket.certifierName,
    corrects: docket.corrects,
    signedBy: docket.signedBy === undefined ? undefined : { name: docket.signedBy, signIn: signIns.get(docket.id) ?? "" },
    signedAt: docket.signedAt,
    statement: docket.statement,
    hash: docket.hash,
    closedAt: docket.closedAt,
    firstDecidedAt: docket.firstDecidedAt,
    lastDecidedAt: docket.lastDecidedAt,
  });

const lineOf = ({ id, docket, holderName, holder, flagged, decision, reason, narrowing, passedTo, passedFrom, line }: DocketLine): LineEvidence =>
  given({
    line: id,
    docket,
    holderName,
    department: holder?.department,
    staffNumber: holder?.staffNumber,
    flagged,
    decision,
    reason,
    narrowing,
    passedTo,
    passedFrom,
    content: line,
  });

const orderOf = ({ id, lines, source, described, alsoLost, madeAt, due, ticket, sentAt, answer, cancelledAt, names = {} }: Order): OrderEvidence =>
  given({ order: id, lines, source, asked: described, alsoLost, madeAt, due, ticket, sentAt, answer, cancelledAt, names });

/** Entries with what they say only where that is about the round: what else was done is nobody's business here, and the chain holds all the same. */
function entriesOf(
  entries: readonly StoredEntry[],
  round: Round,
  dockets: readonly Docket[],
  lines: readonly DocketLine[],
  orders: readonly Order[],
): EntryEvidence[] {
  const about = new Set([
    `round ${round.id}`,
    `snapshot ${round.snapshot}`,
    ...dockets.map(({ id }) => `docket ${id}`),
    ...lines.flatMap(({ id, docket }) => [`line ${id} of docket ${docket}`, `orders of line ${id}`, `line ${id}`]),
    ...orders.flatMap(({ id }) => [`order ${id}`, `order ${id} of round ${round.id}`]),
  ]);
  return entries.map(({ content, ...entry }) => (content !== undefined && about.has(entry.on) ? { ...entry, content } : entry));
}

/** The trials, run on the snapshot of the round. */
async function trialsOf(services: Services, snapshot: Snapshot): Promise<TrialEvidence[] | undefined> {
  const kept = await services.trials.kept();
  if (kept.length === 0) return undefined;
  const compiled = await services.compiled(snapshot);
  return kept.map(({ id, credential, door, at, lockdown, expected, note }) => {
    const trial = { credential, door, at, lockdown, expected, note };
    return { trial: id, ...trial, ...runTrial(compiled, trial) };
  });
}

/** Everything that shows how a round was run and what came of it, as it stands now; undefined where there is no such round. */
export async function roundEvidence(
  services: Services,
  roundId: number,
  made: { readonly by: string; readonly seed?: string | undefined },
): Promise<RoundEvidence | undefined> {
  const round = await services.rounds.byId(roundId);
  if (!round) return undefined;
  const snapshot = required(await services.snapshots.byId(round.snapshot), "a round has a snapshot");
  const [document, dockets, lines, orders, entries, { settings }] = await Promise.all([
    services.snapshots.frozen(snapshot.id),
    services.rounds.dockets({ round: roundId }),
    services.rounds.lines({ round: roundId }),
    services.orders.ofRound(roundId),
    services.record.since("round.opened", `round ${roundId}`),
    services.ruleSettings.current(),
  ]);
  const checks = await services.orders.checks([...new Set(orders.flatMap((order) => order.lines))]);
  const comments = (await Promise.all(dockets.map(({ id }) => services.rounds.comments(id)))).flat();
  const signedTexts = new Map<number, string>();
  const signIns = new Map<number, string>();
  await services.verifying(async (store) => {
    for await (const stored of store.dockets(roundId)) {
      if (!stored.signer || stored.signedAt === undefined) continue;
      const signed = stored.lines.map(({ terms: _, ...line }) => line);
      const { docket, snapshot: hash, signer } = stored;
      signIns.set(docket, signer.signIn);
      signedTexts.set(docket, signedTextOf({ round: roundId, docket, snapshot: hash, certifier: signer.signIn, lines: signed }, stored.statement ?? ""));
    }
  });
  const head = entries.at(-1)?.hash ?? "";
  return {
    round: given({
      id: round.id,
      name: round.name,
      due: round.due,
      openedAt: round.openedAt,
      closedAt: round.closedAt,
      closingAsked: round.closingAsked && { at: round.closingAsked.at, by: round.closingAsked.by.name, reason: round.closingAsked.reason },
      terms: round.terms,
    }),
    snapshot: {
      id: snapshot.id,
      hash: snapshot.hash,
      facilityName: snapshot.facilityName,
      timeZone: snapshot.timeZone,
      asOf: snapshot.asOf,
      leftOut: snapshot.leftOut,
    },
    document,
    intakes: await intakesOf(services, snapshot.id),
    dockets: dockets.map((docket) => docketOf(docket, signIns)),
    signedTexts,
    lines: lines.map(lineOf),
    comments,
    findings: await findingsOf(services, snapshot.id),
    orders: orders.map(orderOf),
    checks,
    settings,
    trials: await trialsOf(services, snapshot),
    entries: entriesOf(entries, round, dockets, lines, orders),
    madeAt: services.now(),
    madeBy: made.by,
    // Nobody chooses the sample: it is drawn with what the record ended with when the pack was made, unless an auditor gives a seed.
    seed: made.seed ?? head.slice(0, 16),
  };
}
