import { required } from "@/core/kernel/invariant";
import { isUnremarkable } from "@/core/certification/decide-line";
import { holderOfLine } from "@/core/certification/holder-of-line";
import type { HolderId } from "@/core/facility/holder-id";
import type { Account } from "../ports/accounts";
import type { Docket, DocketLine, Round } from "../ports/rounds";
import type { Snapshot } from "../ports/snapshots";
import { demand, may } from "../rights";
import type { Services } from "../services";

/** A line as a certifier sees it. */
export interface ShownLine extends DocketLine {
  /** Whom it is about. */
  readonly about: HolderId;
  readonly unremarkable: boolean;
}

export interface ShownDocket {
  readonly docket: Docket;
  readonly round: Round;
  /** What of the snapshot concerns a certifier: when it was exported, and whether rows are missing from it. */
  readonly snapshot: Pick<Snapshot, "id" | "asOf" | "timeZone" | "leftOut">;
  readonly mine: boolean;
  readonly lines: readonly ShownLine[];
}

/** A docket with its lines; undefined where there is none that this account may see. */
export async function showDocket(services: Services, account: Account, id: number): Promise<ShownDocket | undefined> {
  const [docket] = await services.rounds.dockets({ id });
  if (!docket) return undefined;
  const mine = docket.account === account.id;
  if (!mine && !may(account, "read-rounds")) return undefined;
  const round = required(await services.rounds.byId(docket.round), "a docket belongs to a round");
  const snapshot = required(await services.snapshots.byId(round.snapshot), "a round has a snapshot");
  const lines = (await services.rounds.lines({ docket: id })).map((line): ShownLine => ({
    ...line,
    about: holderOfLine(line.line),
    unremarkable: isUnremarkable(line.line),
  }));
  return { docket, round, snapshot: { id: snapshot.id, asOf: snapshot.asOf, timeZone: snapshot.timeZone, leftOut: snapshot.leftOut }, mine, lines };
}

/** The dockets of an account, the open ones first. */
export async function myDockets(services: Services, account: Account): Promise<{ docket: Docket; round: Round }[]> {
  demand(account, "certify");
  const dockets = await services.rounds.dockets({ account: account.id });
  const withRounds = await Promise.all(
    dockets.map(async (docket) => ({ docket, round: required(await services.rounds.byId(docket.round), "a docket belongs to a round") })),
  );
  return withRounds.sort((a, b) => Number(a.docket.signedAt !== undefined) - Number(b.docket.signedAt !== undefined) || b.docket.id - a.docket.id);
}
