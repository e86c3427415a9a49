import type { Account } from "../ports/accounts";
import type { Docket, DocketLine, LineFilter, Round } from "../ports/rounds";
import { demand, seesRound } from "../rights";
import type { Services } from "../services";

/** So many lines stand on a page. */
const linesAPage = 100;

/** A line with whose docket it is in: undefined for the reviewer's. */
export interface ListedLine extends DocketLine {
  readonly certifierName: string | undefined;
  readonly signedAt: string | undefined;
}

export interface ListedLines {
  readonly round: Round;
  readonly leftOut: number;
  /** The docket that they were asked of. */
  readonly docket: Docket | undefined;
  readonly lines: readonly ListedLine[];
  readonly total: number;
  /** How many pages they fill; one where there are none. */
  readonly pages: number;
}

async function list(services: Services, account: Account, roundId: number, filter: LineFilter, from: number, count: number): Promise<ListedLines | undefined> {
  const round = await services.rounds.byId(roundId);
  if (!round || !seesRound(account, round)) return undefined;
  const [found, dockets, snapshot] = await Promise.all([
    services.rounds.someLines(roundId, filter, from, count),
    services.rounds.dockets({ round: roundId }),
    services.snapshots.byId(round.snapshot),
  ]);
  const byId = new Map(dockets.map((docket) => [docket.id, docket]));
  return {
    round,
    leftOut: snapshot?.leftOut ?? 0,
    docket: filter.docket === undefined ? undefined : byId.get(filter.docket),
    lines: found.lines.map((line) => ({ ...line, certifierName: byId.get(line.docket)?.certifierName, signedAt: byId.get(line.docket)?.signedAt })),
    total: found.total,
    pages: Math.max(1, Math.ceil(found.total / linesAPage)),
  };
}

/** A page of the lines of a round that have something in common, counted from 0; undefined where there is no such round. */
export async function listLines(services: Services, account: Account, round: number, filter: LineFilter, page: number): Promise<ListedLines | undefined> {
  demand(account, "read-rounds");
  return list(services, account, round, filter, page * linesAPage, linesAPage);
}

export interface ExportedLines {
  readonly lines: readonly ListedLine[];
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
}

/** So many lines are read at once where all are handed out. */
const linesAtOnce = 5000;

/** All of them, to be handed out, which stands in the record; undefined where there is no such round. */
export async function exportLines(services: Services, account: Account, round: number, filter: LineFilter): Promise<ExportedLines | undefined> {
  demand(account, "read-rounds");
  const lines: ListedLine[] = [];
  const of = await services.rounds.byId(round);
  const snapshot = of && (await services.snapshots.byId(of.snapshot));
  if (!snapshot) return undefined;
  for (;;) {
    const some = await list(services, account, round, filter, lines.length, linesAtOnce);
    if (!some) return undefined;
    lines.push(...some.lines);
    if (some.lines.length < linesAtOnce) break;
  }
  await services.record.append(account, services.now(), { what: "lines.exported", on: `round ${round}`, after: { lines: lines.length } });
  return { lines, timeZone: snapshot.timeZone };
}
