import type { LineContent } from "@/core/certification/line-content";
import { isDefinition } from "@/core/certification/line-content";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Docket, DocketLine, Round } from "../ports/rounds";
import { todayOf } from "../findings/today";
import { may, seesRound } from "../rights";
import type { Services } from "../services";

/** Whether a docket is this account's to decide: its own, or that of somebody for whom it stands in today. One that waits is nobody's yet. */
export async function isOwnDocket(services: Services, account: Account, docket: Docket): Promise<boolean> {
  if (docket.held) return false;
  if (docket.account === account.id) return true;
  return (await services.rounds.dockets({ id: docket.id, account: { id: account.id, today: todayOf(services) } })).length > 0;
}

/** Whether a line is about a cardholder themself: it is their access, or they have the privilege. */
export async function concerns(services: Services, round: Round, line: LineContent, cardholder: string | undefined): Promise<boolean> {
  if (cardholder === undefined) return false;
  if (!isDefinition(line)) return line.cardholder === cardholder;
  if (line.definition.kind !== "privilege") return false;
  const register = await openRegister(services, round.snapshot);
  const found = register?.compiled.facility.cardholders[register.compiled.cardholderById.get(cardholder) ?? -1];
  const has = found?.[line.definition.privilege];
  return has !== undefined && has !== false;
}

/** A line with its docket and round, as far as somebody decides it; undefined where it is not theirs. */
export interface OwnLine {
  readonly line: DocketLine;
  readonly docket: Docket;
  readonly round: Round;
}

export async function ownLine(services: Services, account: Account, id: number): Promise<OwnLine | undefined> {
  const [line] = await services.rounds.lines({ id });
  const [docket] = line ? await services.rounds.dockets({ id: line.docket }) : [];
  if (!line || !docket || !(await isOwnDocket(services, account, docket))) return undefined;
  const round = await services.rounds.byId(docket.round);
  return round && { line, docket, round };
}

/** A line that somebody decides or may look at; undefined where it is not for them. */
export async function seenLine(services: Services, account: Account, id: number): Promise<OwnLine | undefined> {
  const [line] = await services.rounds.lines({ id });
  const [docket] = line ? await services.rounds.dockets({ id: line.docket }) : [];
  if (!line || !docket) return undefined;
  const round = await services.rounds.byId(docket.round);
  const isSeen = !!round && ((may(account, "read-rounds") && seesRound(account, round)) || (await isOwnDocket(services, account, docket)));
  return isSeen ? { line, docket, round } : undefined;
}
