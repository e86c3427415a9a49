import { isDefinition } from "@/core/certification/line-content";
import { orderIds } from "@/core/certification/withdrawal/renamed-changes";
import { required } from "@/core/kernel/invariant";
import type { Account } from "../ports/accounts";
import type { Docket, DocketOrders } from "../ports/rounds";
import { readOwnership } from "../register/drafts/show-draft";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { ordersOfLines, planningTerms } from "./orders-of-lines";
import type { RunOutcome } from "./run-round";

/** How far the dockets of a round are, by which it is noticed that somebody decided meanwhile. */
export const seenOf = (dockets: readonly Docket[]) => ({
  decided: dockets.reduce((sum, { decided }) => sum + decided, 0),
  lastDecidedAt: dockets
    .flatMap(({ lastDecidedAt }) => lastDecidedAt ?? [])
    .sort()
    .at(-1),
  signed: dockets.filter(({ signedAt }) => signedAt !== undefined).length,
});

/** What is asked for about a definition that nobody decided in time, where that counts as needing changing. */
const lookAtIt = "Nobody certified it in time. Look at it, and say what is to be changed.";

/**
 * Confirms that a round is closed, by somebody else than who asked for it: lines undecided by then count as the round's rule says, and what is
 * withdrawn by dockets that
 * nobody signed becomes orders.
 */
export async function closeRound(services: Services, account: Account, roundId: number): Promise<RunOutcome> {
  demand(account, "run-rounds");
  const round = await services.rounds.byId(roundId);
  if (!round) return "no-round";
  if (round.closedAt !== undefined) return "closed";
  if (!round.closingAsked) return "not-asked";
  if (round.closingAsked.by.id === account.id) return "same-person";
  const [dockets, register] = [
    await services.rounds.dockets({ round: roundId }),
    required(await openRegister(services, round.snapshot), "a round has a snapshot"),
  ];
  const ownership = await readOwnership(services);
  const terms = await planningTerms(services);
  const at = services.now();
  const orders: DocketOrders[] = [];
  for (const { id, signedAt, closedAt } of dockets) {
    if ((signedAt ?? closedAt) !== undefined) continue;
    const lines = (await services.rounds.lines({ docket: id })).map((line) =>
      line.decision === undefined ? { ...line, decision: round.terms.undecided, ...(isDefinition(line.line) && { reason: lookAtIt }) } : line,
    );
    orders.push({ docket: id, orders: ordersOfLines(register, ownership, round, lines, at, orderIds(register.compiled.facility, id, 0), terms) });
  }
  return (await services.rounds.close(roundId, seenOf(dockets), orders, account, at)) ? undefined : "changed-meanwhile";
}
