import type { Account } from "../ports/accounts";
import { todayOf } from "../findings/today";
import { may, seesRound } from "../rights";
import type { Services } from "../services";

/** Something that takes effect only when a second person confirms it. */
export interface Waiting {
  readonly kind: "waiver" | "rules" | "closing" | "docket" | "arrival";
  /** What it is about: the reason of a waiver, the name of a round. */
  readonly about: string;
  /** Who asks for it: a sign-in name, or a name. */
  readonly by: string;
  /** Whether this account is one that can confirm it. */
  readonly isForYou: boolean;
  /** Number of the round, or fingerprint of the finding. */
  readonly of: string;
}

/** What waits for somebody: for this account first. */
export async function whatWaits(services: Services, account: Account): Promise<readonly Waiting[]> {
  const waiting: Waiting[] = [];
  const confirms = may(account, "set-rules");
  if (may(account, "read-findings")) {
    for (const { reason, madeBy, fingerprint } of await services.triage.waiting(todayOf(services)))
      waiting.push({ kind: "waiver", about: reason, by: madeBy, isForYou: confirms && madeBy !== account.signIn, of: fingerprint });
    const proposed = await services.ruleSettings.proposed();
    if (proposed) waiting.push({ kind: "rules", about: "", by: proposed.madeBy, isForYou: confirms && proposed.madeBy !== account.signIn, of: "" });
  }
  if (may(account, "read-rounds"))
    for (const round of await services.rounds.list()) {
      const { id, name, closingAsked, closedAt } = round;
      if (closingAsked && closedAt === undefined && seesRound(account, round))
        waiting.push({
          kind: "closing",
          about: name,
          by: closingAsked.by.name,
          isForYou: may(account, "run-rounds") && closingAsked.by.id !== account.id,
          of: String(id),
        });
    }
  if (may(account, "take-in"))
    for (const { name, source, token } of await services.deliveries.arrivals()) waiting.push({ kind: "arrival", about: name, by: source, isForYou: true, of: token });
  if (may(account, "certify"))
    for (const docket of await services.rounds.dockets({ account: { id: account.id, today: todayOf(services) } })) {
      if (docket.held || docket.signedAt !== undefined || docket.closedAt !== undefined) continue;
      const round = await services.rounds.byId(docket.round);
      if (round) waiting.push({ kind: "docket", about: round.name, by: round.due, isForYou: true, of: String(docket.id) });
    }
  return waiting.sort((a, b) => Number(b.isForYou) - Number(a.isForYou));
}
