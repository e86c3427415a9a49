import { writtenReason } from "@/core/certification/reason";
import { parseCivilDay } from "@/core/time/civil-day";
import type { Account } from "../ports/accounts";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { concerns, seenLine } from "./docket-access";

/** Why a change of a round was not made. */
export type RunRefusal =
  "no-round" | "closed" | "signed" | "reason-needed" | "same-person" | "not-asked" | "changed-meanwhile" | "nobody" | "dates" | "not-signed";

/** Nothing where it was done. */
export type RunOutcome = RunRefusal | undefined;

/** Lets the dockets begin that waited for the one that goes first. */
export async function releaseDockets(services: Services, account: Account, roundId: number): Promise<RunOutcome> {
  demand(account, "run-rounds");
  const round = await services.rounds.byId(roundId);
  if (!round) return "no-round";
  if (round.closedAt !== undefined) return "closed";
  await services.rounds.release(roundId, account, services.now());
  return undefined;
}

/** Gives a docket that is not signed to another certifier: a cardholder of the round's snapshot who is not among those that it is about. */
export async function giveDocket(services: Services, account: Account, docketId: number, cardholder: string): Promise<RunOutcome> {
  demand(account, "run-rounds");
  const [docket] = await services.rounds.dockets({ id: docketId });
  const round = docket && (await services.rounds.byId(docket.round));
  const register = round && (await openRegister(services, round.snapshot));
  if (!docket || !register) return "no-round";
  const found = register.compiled.facility.cardholders[register.compiled.cardholderById.get(cardholder) ?? -1];
  if (!found) return "nobody";
  // Nobody certifies themself.
  for (const { line } of await services.rounds.lines({ docket: docketId })) if (await concerns(services, round, line, cardholder)) return "same-person";
  const given = await services.rounds.giveTo(docketId, { id: found.id, name: found.name }, account, services.now());
  return given ? undefined : docket.signedAt !== undefined ? "signed" : "closed";
}

/** Lets somebody stand in for a certifier of a round, from one date to another. */
export async function addSubstitute(
  services: Services,
  account: Account,
  roundId: number,
  asked: { readonly certifier: string; readonly account: number; readonly from: string; readonly until: string },
): Promise<RunOutcome> {
  demand(account, "run-rounds");
  const round = await services.rounds.byId(roundId);
  if (!round) return "no-round";
  if (round.closedAt !== undefined) return "closed";
  const { from, until } = asked;
  if (parseCivilDay(from) === undefined || parseCivilDay(until) === undefined || until < from) return "dates";
  const substitute = (await services.accounts.all()).find(({ id, role }) => id === asked.account && role !== "auditor");
  const dockets = await services.rounds.dockets({ round: roundId });
  if (!substitute || !dockets.some(({ certifier }) => certifier === asked.certifier)) return "nobody";
  if (substitute.cardholder === asked.certifier) return "same-person";
  await services.rounds.addSubstitute({ round: roundId, certifier: asked.certifier, account: substitute, from, until }, account, services.now());
  return undefined;
}

/** A new docket of the same lines, which corrects a signed one; the signed one stays as it is. */
export async function correctDocket(services: Services, account: Account, docketId: number): Promise<RunOutcome> {
  demand(account, "run-rounds");
  const [docket] = await services.rounds.dockets({ id: docketId });
  if (!docket) return "no-round";
  if (docket.signedAt === undefined) return "not-signed";
  await services.rounds.correct(docketId, account, services.now());
  return undefined;
}

/** Asks for a round to be closed although not all is signed; a second reviewer or an administrator confirms it. */
export async function askToClose(services: Services, account: Account, roundId: number, reason: string): Promise<RunOutcome> {
  demand(account, "run-rounds");
  const round = await services.rounds.byId(roundId);
  if (!round) return "no-round";
  if (round.closedAt !== undefined) return "closed";
  const written = writtenReason(reason);
  if (written === "") return "reason-needed";
  await services.rounds.askToClose(roundId, written, account, services.now());
  return undefined;
}

/** Writes what a certifier and the reviewer say to each other about a line. */
export async function commentLine(services: Services, account: Account, lineId: number, words: string): Promise<RunOutcome> {
  demand(account, "see-dockets");
  const seen = await seenLine(services, account, lineId);
  if (!seen) return "no-round";
  const written = writtenReason(words);
  if (written === "") return "reason-needed";
  await services.rounds.comment(lineId, written, account, services.now());
  return undefined;
}
