import { required } from "@/core/kernel/invariant";
import type { LineAbout } from "@/core/certification/line-content";
import { aboutOfLine, isDefinition, isKeptTogether } from "@/core/certification/line-content";
import type { Account } from "../ports/accounts";
import type { Docket, DocketLine, LineComment, Round } from "../ports/rounds";
import type { Snapshot } from "../ports/snapshots";
import { todayOf } from "../findings/today";
import { demand, may, seesRound } from "../rights";
import type { Services } from "../services";
import { isOwnDocket } from "./docket-access";

/** A line as a certifier sees it. */
export interface ShownLine extends DocketLine {
  /** Under what it stands: whose access it is, or definitions of one kind. */
  readonly about: LineAbout;
  readonly unremarkable: boolean;
  /** Whether it is about whoever looks at it, who cannot decide it. */
  readonly aboutYourself: boolean;
  readonly comments: readonly Omit<LineComment, "line">[];
}

/** Another certifier of the round, to whom a line can be passed on. */
export interface OtherCertifier {
  readonly docket: number;
  /** The cardholder; undefined where it is the reviewer. */
  readonly certifier: string | undefined;
  readonly name: string | undefined;
}

export interface ShownDocket {
  readonly docket: Docket;
  readonly round: Round;
  /** What of the snapshot concerns a certifier: when it was exported, and whether rows are missing from it. */
  readonly snapshot: Pick<Snapshot, "id" | "asOf" | "timeZone" | "leftOut">;
  readonly mine: boolean;
  readonly lines: readonly ShownLine[];
  readonly others: readonly OtherCertifier[];
}

/** A docket with its lines; undefined where there is none that this account may see. */
export async function showDocket(services: Services, account: Account, id: number): Promise<ShownDocket | undefined> {
  const [docket] = await services.rounds.dockets({ id });
  if (!docket) return undefined;
  const mine = await isOwnDocket(services, account, docket);
  const round = required(await services.rounds.byId(docket.round), "a docket belongs to a round");
  if (!mine && !(may(account, "read-rounds") && seesRound(account, round))) return undefined;
  const snapshot = required(await services.snapshots.byId(round.snapshot), "a round has a snapshot");
  const [rows, comments, dockets] = await Promise.all([
    services.rounds.lines({ docket: id }),
    services.rounds.comments(id),
    services.rounds.dockets({ round: round.id }),
  ]);
  const lines = rows.map((line): ShownLine => ({
    ...line,
    about: aboutOfLine(line.line),
    unremarkable: isKeptTogether(line.line),
    aboutYourself: mine && account.cardholder !== undefined && !isDefinition(line.line) && line.line.cardholder === account.cardholder,
    comments: comments.flatMap(({ line: of, ...comment }) => (of === line.id ? [comment] : [])),
  }));
  // One certifier may have several dockets, corrections among them: a line goes to the one that is open.
  const others = new Map<string, OtherCertifier>();
  for (const other of dockets) {
    const key = other.certifier ?? `account ${other.account ?? ""}`;
    if (other.id === id || (other.certifier === docket.certifier && other.account === docket.account) || other.closedAt !== undefined) continue;
    if (!others.has(key) || other.signedAt === undefined) others.set(key, { docket: other.id, certifier: other.certifier, name: other.certifierName });
  }
  return {
    docket,
    round,
    snapshot: { id: snapshot.id, asOf: snapshot.asOf, timeZone: snapshot.timeZone, leftOut: snapshot.leftOut },
    mine,
    lines,
    others: [...others.values()],
  };
}

/** The dockets of an account, the open ones first; those for which it stands in today among them. */
export async function myDockets(services: Services, account: Account): Promise<{ docket: Docket; round: Round }[]> {
  demand(account, "certify");
  const dockets = (await services.rounds.dockets({ account: { id: account.id, today: todayOf(services) } })).filter(({ held }) => !held);
  const withRounds = await Promise.all(
    dockets.map(async (docket) => ({ docket, round: required(await services.rounds.byId(docket.round), "a docket belongs to a round") })),
  );
  const isOver = ({ signedAt, closedAt }: Docket): number => Number((signedAt ?? closedAt) !== undefined);
  return withRounds.sort((a, b) => isOver(a.docket) - isOver(b.docket) || b.docket.id - a.docket.id);
}
